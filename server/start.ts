import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import pino from 'pino'
import { firmwareFiles } from '../firmware/files'
import { makeApp } from './app'
import { openDatabase } from './db'
import { makeGuard } from './guard'
import { House } from './house'
import { attachLive, Live } from './live'
import { seedDemo } from './seed'

const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..')

export interface ServerOptions {
  readonly dataFolder: string
  readonly port: number
  readonly host: string
  readonly brokerPort: number
  readonly brokerUrl: string | null
  readonly passphrase: string | null
  readonly seed: boolean
  readonly quiet: boolean
}

export interface RunningServer {
  readonly url: string
  readonly brokerUrl: string
  close(): Promise<void>
}

/** The server cannot start: one line that says why. */
export class StartRefused extends Error {
  readonly code = 'start-refused'
}

const isLoopback = (host: string): boolean => host === '127.0.0.1' || host === 'localhost' || host === '::1'

export async function startServer(options: ServerOptions): Promise<RunningServer> {
  if (!isLoopback(options.host) && !options.passphrase)
    throw new StartRefused(
      `--host ${options.host} opens the server to the network: set a passphrase in VESTIBULE_PASSPHRASE first`,
    )
  const logger = pino({
    level: options.quiet ? 'silent' : 'warn',
    redact: ['secret', '*.secret', 'password', '*.password'],
  })
  const db = openDatabase(options.dataFolder)
  const live = new Live()
  const house = new House(db, live, options.brokerUrl)
  const context = { db, live, house, firmware: firmwareFiles(), now: () => new Date().toISOString() }
  if (options.seed && db.sites.list().length === 0) seedDemo(context, join(ROOT, 'demo'))
  await house.start(options.brokerPort)
  const guard = makeGuard(
    isLoopback(options.host) ? [] : [options.host],
    isLoopback(options.host) ? null : options.passphrase,
  )
  const server = createServer(makeApp(context, guard, join(ROOT, 'dist', 'web'), logger))
  const sockets = attachLive(server, live, guard.allows)
  await new Promise<void>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE'
          ? new StartRefused(`port ${options.port} is taken: choose another with --port`)
          : error,
      ),
    )
    server.listen(options.port, options.host, resolve)
  })
  const { port } = server.address() as AddressInfo
  return {
    url: `http://${options.host.includes(':') ? `[${options.host}]` : options.host}:${port}`,
    brokerUrl: house.url,
    close: async () => {
      for (const client of sockets.clients) client.terminate()
      server.closeAllConnections()
      await new Promise((resolve) => server.close(resolve))
      await house.close()
      db.close()
    },
  }
}
