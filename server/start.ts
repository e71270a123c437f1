import { createServer, type Server } from 'node:http'
import { createServer as createSecureServer } from 'node:https'
import type { AddressInfo } from 'node:net'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import pino from 'pino'
import { createSecureContext } from 'node:tls'
import { firmwareFiles } from '../firmware/files'
import { boardAddress, inBrackets, isLoopback, namesOf } from './addresses'
import { makeApp } from './app'
import { TestsInHand } from './boards/hands'
import { BrokerPortTaken } from './broker/broker'
import { storeTrouble } from './refusal'
import { openDatabase, StoreRefused, type Database } from './db'
import { makeGuard, type Guard } from './guard'
import { DoorPortTaken, House } from './house'
import { attachLive, Live } from './live'
import type { Context } from './context'
import { seedDemo } from './seed'
import { Slowed } from './slowed'

const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..')

export interface ServerOptions {
  readonly dataFolder: string
  readonly port: number
  readonly host: string
  /** further names by which this machine is reached */
  readonly names: readonly string[]
  readonly brokerPort: number
  /** where boards come to services with a wire of their own */
  readonly doorPort: number
  /** where the broker listens; null: where the server does */
  readonly brokerHost: string | null
  /** certificate and key, PEM, for pages and broker; null: neither speaks TLS */
  readonly tls: { readonly cert: string; readonly key: string } | null
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

/** Shorter ones are guessed in the time that slowing leaves (common practice). */
const LEAST_PASSPHRASE = 10

const listening = (server: Server, { host, port }: ServerOptions): Promise<void> =>
  new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(
        error.code === 'EADDRINUSE' ? new StartRefused(`port ${port} is taken: choose another with --port`) : error,
      ),
    )
    server.listen(port, host, resolve)
  })

function openedDatabase(folder: string): Database {
  try {
    return openDatabase(folder)
  } catch (error) {
    throw error instanceof StoreRefused ? new StartRefused(error.message) : error
  }
}

/** On loopback nobody is asked; beyond it everybody. */
const guardOf = (options: ServerOptions, slowed: Slowed): Guard =>
  isLoopback(options.host)
    ? makeGuard(options.names, null, slowed)
    : makeGuard(namesOf(options.host, options.names), options.passphrase, slowed)

/** Throws StartRefused where starting would open a door that nobody shuts. */
function mayStart(options: ServerOptions): void {
  if (!isLoopback(options.host) && !options.passphrase)
    throw new StartRefused(
      `--host ${options.host} opens the server to the network: set a passphrase in VESTIBULE_PASSPHRASE first`,
    )
  if (options.passphrase !== null && options.passphrase.length < LEAST_PASSPHRASE)
    throw new StartRefused(`VESTIBULE_PASSPHRASE: a passphrase has ${LEAST_PASSPHRASE} characters or more`)
  try {
    if (options.tls) createSecureContext(options.tls)
  } catch (error) {
    throw new StartRefused(`--cert and --key: are no certificate with its key (${(error as Error).message})`)
  }
}

/** What the routes work with, on this machine's clock. */
const contextOf = (db: Database, live: Live, house: House, boardsFind: string, dataFolder: string): Context => ({
  dataFolder,
  db,
  live,
  house,
  hands: new TestsInHand({ db, live, house }),
  boardsFind,
  firmware: firmwareFiles(),
  examples: join(ROOT, 'demo'),
  now: () => new Date().toISOString(),
})

const loggerOf = ({ quiet }: ServerOptions) =>
  pino({ level: quiet ? 'silent' : 'warn', redact: ['secret', '*.secret', 'password', '*.password'] })

export async function startServer(options: ServerOptions): Promise<RunningServer> {
  mayStart(options)
  const logger = loggerOf(options)
  const db = openedDatabase(options.dataFolder)
  const live = new Live()
  const slowed = new Slowed()
  const house = new House(
    db,
    live,
    options.brokerUrl,
    (error) => logger.error({ err: error }, storeTrouble(error)?.message ?? 'a message could not be worked off'),
    options.dataFolder,
  )
  const brokerHost = options.brokerHost ?? options.host
  const context = contextOf(db, live, house, boardAddress(brokerHost, options.names), options.dataFolder)
  if (options.seed && db.sites.list().length === 0) seedDemo(context)
  const broker = { address: brokerHost, port: options.brokerPort, tls: options.tls, slowed, doorPort: options.doorPort }
  await house.start(broker).catch((error: unknown) => {
    db.close()
    throw error instanceof BrokerPortTaken || error instanceof DoorPortTaken ? new StartRefused(error.message) : error
  })
  const guard = guardOf(options, slowed)
  const app = makeApp(context, guard, join(ROOT, 'dist', 'web'), logger)
  const server = options.tls ? createSecureServer(options.tls, app) : createServer(app)
  const sockets = attachLive(server, live, guard.allows)
  await listening(server, options)
  const { port } = server.address() as AddressInfo
  return {
    url: `${options.tls ? 'https' : 'http'}://${inBrackets(options.host)}:${port}`,
    brokerUrl: house.url,
    close: async () => {
      for (const client of sockets.clients) client.terminate()
      server.closeAllConnections()
      await new Promise((resolve) => server.close(resolve))
      context.hands.close()
      await house.close()
      db.close()
    },
  }
}
