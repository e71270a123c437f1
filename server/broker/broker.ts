import { Aedes, type Client, type ConnackPacket, type PublishPacket } from 'aedes'
import { createHash, timingSafeEqual } from 'node:crypto'
import { createServer, type AddressInfo, type Server, type Socket } from 'node:net'
import { createServer as createSecureServer } from 'node:tls'
import { Slowed } from '../slowed'
import { Kept, Knocking, limitQueues, LIMITS } from './limits'
import { Line } from './line'
import { mayPublish, maySubscribe, nameOfUser, userNamed, type BrokerUser } from './rights'

export interface RunningBroker {
  /** "mqtt://127.0.0.1:PORT", or mqtts: for programs of this machine */
  readonly url: string
  readonly port: number
  /** connections of users that are known */
  connections(): number
  /** Cuts whoever of a site is there no more, or came with a password that is another now. */
  recheck(site: string): void
  /** Forgets the retained values under a branch of topics. */
  forget(branch: string): void
  close(): Promise<void>
}

export interface BrokerOptions {
  readonly address: string
  readonly port: number
  /** certificate and key, PEM; null: no TLS */
  readonly tls: { readonly cert: string; readonly key: string } | null
  /** undefined: there is no such user */
  readonly passwordOf: (user: BrokerUser) => string | undefined
  readonly trouble: (error: unknown) => void
  /** nobody comes in as this user now, whatever the password: trying is no guess */
  readonly isShut?: (user: BrokerUser) => boolean
  /** somebody named a user that there is, and was not let in */
  readonly turnedAway?: (user: BrokerUser) => void
  readonly slowed?: Slowed
  /** ms for saying who one is */
  readonly connectMs?: number
}

/** Another program has the port that the broker was to have. */
export class BrokerPortTaken extends Error {
  constructor(port: number) {
    super(`broker port ${port} is taken: choose another with --broker-port, or 0 for any that is free`)
  }
}

const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

const addressOf = (client: Client): string => (client.conn as unknown as Line).remoteAddress

/** MQTT 3.1.1, table 3.1: why a connection is refused. */
const refusal = (returnCode: 2 | 3 | 5, why: string): Error & { returnCode: ConnackPacket['returnCode'] } =>
  Object.assign(new Error(why), { returnCode })

/** Who is there, and with which password; and who a connection was let in as, which its will needs after its end. */
interface Guests {
  readonly present: Map<Client, { readonly user: BrokerUser; readonly password: Buffer }>
  readonly users: WeakMap<Client, BrokerUser>
}

/** Who a user name and a password let in; a user that is guessed at has to wait, at the address that guesses. */
const doorkeeper =
  (passwordOf: (user: BrokerUser) => string | undefined, slowed: Slowed, isShut: (user: BrokerUser) => boolean) =>
  (username: string | undefined, password: Buffer | undefined, address: string): BrokerUser | undefined => {
    const user = username === undefined ? undefined : userNamed(username)
    // a board that waits for its door must not wait longer for having knocked
    if (user && isShut(user)) return undefined
    // by user, so that a board with a wrong password slows no other program on the same machine
    const from = `${address} ${username ?? ''}`
    const expected = user && slowed.waitMs(from) === 0 ? passwordOf(user) : undefined
    if (
      expected !== undefined &&
      password &&
      timingSafeEqual(digest(Buffer.from(password).toString('utf8')), digest(expected))
    ) {
      slowed.succeeded(from)
      return user
    }
    slowed.failed(from)
    return undefined
  }

/** Lets users in: by their password, and no more of them than may be. */
function guardDoor(
  aedes: Aedes,
  { present, users }: Guests,
  { passwordOf, turnedAway, isShut = () => false, slowed = new Slowed() }: BrokerOptions,
): void {
  const admitted = doorkeeper(passwordOf, slowed, isShut)
  const sessions = new Kept(LIMITS.sessionsOfUser)
  // a client id belongs to its user: nobody takes over the session of another, nor gets what waits in it
  aedes.preConnect = (_client, packet, done) => {
    if (packet.clientId !== '') packet.clientId = `${packet.username ?? ''}|${packet.clientId}`
    done(null, true)
  }
  aedes.authenticate = (client, username, password, done) => {
    const user = admitted(username, password, addressOf(client))
    if (!user) {
      const meant = username === undefined ? undefined : userNamed(username)
      if (meant) turnedAway?.(meant)
      // 3.2.2.3: return code 5, not authorized
      return done(refusal(5, 'not authorized') as never, false)
    }
    if ((client.id ?? '').length - nameOfUser(user).length - 1 > LIMITS.clientId)
      return done(refusal(2, 'client id too long') as never, false)
    const many = [...present.values()].filter((row) => nameOfUser(row.user) === nameOfUser(user)).length
    // `clean` is set by then, and is not in the library's types
    const lasting = !(client as Client & { clean: boolean }).clean
    if (many >= LIMITS.ofUser || (lasting && !sessions.keep(user, client.id)))
      return done(refusal(3, 'too many connections of this user') as never, false)
    if (!lasting) sessions.drop(user, client.id)
    users.set(client, user)
    present.set(client, { user, password: digest(passwordOf(user) ?? '') })
    client.conn.once('close', () => present.delete(client))
    done(null, true)
  }
}

/** What each user may say and hear, and how much of it the broker keeps. */
function guardTopics(aedes: Aedes, { users }: Guests, retained: Kept): void {
  const mayKeep = (user: BrokerUser, { topic, retain, payload }: PublishPacket): boolean => {
    if (!retain) return true
    if (payload.length > 0) return retained.keep(user, topic)
    retained.drop(user, topic)
    return true
  }
  aedes.authorizePublish = (client, packet, done) => {
    const user = client && users.get(client)
    if (!user || !mayPublish(user, packet.topic)) return done(new Error('topic not allowed'))
    done(mayKeep(user, packet) ? null : new Error('too many retained values'))
  }
  aedes.authorizeSubscribe = (client, subscription, done) => {
    const user = client && users.get(client)
    const { subscriptions } = client as unknown as { subscriptions: Record<string, unknown> }
    const room = subscription.topic in subscriptions || Object.keys(subscriptions).length < LIMITS.filters
    // 3.9.3: a refused subscription is answered with 0x80, the connection stays
    done(null, user && room && maySubscribe(user, subscription.topic) ? subscription : null)
  }
}

/** Takes connections in; an address that never says who it is holds no more than a few. */
function takeConnections(aedes: Aedes, tls: BrokerOptions['tls']): Server {
  const knocking = new Knocking()
  const known = new WeakMap<object, () => void>()
  aedes.on('client', (client: Client) => known.get(client.conn)?.())
  const take = (socket: Socket) => {
    const away = knocking.enter(socket.remoteAddress ?? '')
    if (!away) return void socket.destroy()
    const line = new Line(socket)
    known.set(line, away)
    socket.on('close', away)
    aedes.handle(line as never)
  }
  // a handshake that never ends is given up as a CONNECT that never comes
  const server = tls
    ? createSecureServer({ ...tls, handshakeTimeout: LIMITS.connectMs }, take)
    : createServer({ noDelay: true }, take)
  server.maxConnections = LIMITS.connections
  return server
}

/**
 * The built-in MQTT broker. Each user has a password (asked of the credentials at each connection), topic rights and
 * limits. A wished port that is taken is refused: boards would speak to whoever has it.
 */
export async function startBroker(given: BrokerOptions): Promise<RunningBroker> {
  const options = { ...given, passwordOf: (user: BrokerUser) => attempt(() => given.passwordOf(user), given.trouble) }
  const aedes = await Aedes.createBroker({
    connectTimeout: given.connectMs ?? LIMITS.connectMs,
    maxInflightInbound: LIMITS.halfReceived,
    maxClientsIdLength: 1_000, // ours are longer: the user's name stands before them
  } as never)
  const guests: Guests = { present: new Map(), users: new WeakMap() }
  const retained = new Kept(LIMITS.retained)
  limitQueues(aedes)
  guardDoor(aedes, guests, options)
  guardTopics(aedes, guests, retained)
  // the library gives up on its own store only, which is memory
  aedes.on('error' as never, given.trouble as never)
  const server = await listen(takeConnections(aedes, given.tls), given.address, given.port)
  const { port } = server.address() as AddressInfo
  return {
    url: `${given.tls ? 'mqtts' : 'mqtt'}://${nearAddress(given.address)}:${port}`,
    port,
    connections: () => guests.present.size,
    recheck: (site) => recheck(guests, site, given),
    forget: (branch) => {
      for (const topic of retained.takeOut((item) => item.startsWith(branch)))
        aedes.publish({ topic, payload: Buffer.alloc(0), retain: true, qos: 0, cmd: 'publish', dup: false }, () => {})
    },
    close: async () => {
      await new Promise<void>((resolve) => aedes.close(() => resolve()))
      await new Promise<void>((resolve) => server.close(() => resolve()))
    },
  }
}

/** Where programs of this machine find what listens at an address. */
const nearAddress = (address: string): string =>
  address === '0.0.0.0' || address === '::' ? '127.0.0.1' : address.includes(':') ? `[${address}]` : address

function recheck({ present }: Guests, site: string, { passwordOf, trouble }: BrokerOptions): void {
  for (const [client, { user, password }] of present) {
    if (user.site !== site) continue
    try {
      const now = passwordOf(user)
      // its will speaks: 3.1.2.5, the server closes the connection for a reason of its own
      if (now === undefined || !timingSafeEqual(password, digest(now))) client.close()
    } catch (error) {
      // a store that cannot be read says nothing of who is let in
      trouble(error)
    }
  }
}

/** A store that cannot be read lets nobody in, and stops nothing. */
function attempt<T>(act: () => T, trouble: (error: unknown) => void): T | undefined {
  try {
    return act()
  } catch (error) {
    trouble(error)
    return undefined
  }
}

const listen = (server: Server, address: string, port: number): Promise<Server> =>
  new Promise((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) =>
      reject(error.code === 'EADDRINUSE' ? new BrokerPortTaken(port) : error),
    )
    server.listen(port, address, () => resolve(server))
  })
