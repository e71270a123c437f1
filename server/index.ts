/** The server: store, broker, stand-ins and routes around the core. */
export { startServer, StartRefused, type RunningServer, type ServerOptions } from './start'
export { backUp, restore, tryBackup } from './db'
