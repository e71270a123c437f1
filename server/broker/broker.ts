import { Aedes, type Client } from 'aedes'
import { timingSafeEqual, createHash } from 'node:crypto'
import { createServer, type AddressInfo, type Server } from 'node:net'
import { mayPublish, maySubscribe, userNamed, type BrokerUser } from './rights'

export interface RunningBroker {
  /** "mqtt://127.0.0.1:PORT" */
  readonly url: string
  readonly port: number
  close(): Promise<void>
}

const same = (a: string, b: string): boolean =>
  timingSafeEqual(createHash('sha256').update(a).digest(), createHash('sha256').update(b).digest())

/**
 * The built-in MQTT broker. Each user has a password (asked of the credentials at each connection) and topic rights.
 * If the wished port is taken the system chooses one, so that a broker of the house can keep its own.
 */
export async function startBroker(
  address: string,
  wishedPort: number,
  passwordOf: (user: BrokerUser) => string | undefined,
): Promise<RunningBroker> {
  const aedes = await Aedes.createBroker()
  const users = new WeakMap<Client, BrokerUser>()
  aedes.authenticate = (client, username, password, done) => {
    const user = username === undefined ? undefined : userNamed(username)
    const expected = user && passwordOf(user)
    const fine =
      user !== undefined &&
      expected !== undefined &&
      password !== undefined &&
      same(Buffer.from(password).toString('utf8'), expected)
    if (fine) users.set(client, user)
    // MQTT 3.1.1, 3.2.2.3: return code 5, not authorized
    done(fine ? null : Object.assign(new Error('not authorized'), { returnCode: 5 }), fine)
  }
  aedes.authorizePublish = (client, packet, done) => {
    const user = client && users.get(client)
    done(user && mayPublish(user, packet.topic) ? null : new Error('topic not allowed'))
  }
  aedes.authorizeSubscribe = (client, subscription, done) => {
    const user = client && users.get(client)
    // 3.9.3: a refused subscription is answered with 0x80, the connection stays
    done(null, user && maySubscribe(user, subscription.topic) ? subscription : null)
  }
  const server = await listen(() => createServer(aedes.handle), address, wishedPort)
  const { port } = server.address() as AddressInfo
  return {
    url: `mqtt://${address}:${port}`,
    port,
    close: async () => {
      await new Promise<void>((resolve) => aedes.close(() => resolve()))
      await new Promise<void>((resolve) => server.close(() => resolve()))
    },
  }
}

function listen(make: () => Server, address: string, port: number): Promise<Server> {
  return new Promise((resolve, reject) => {
    const server = make()
    server.once('error', (error: NodeJS.ErrnoException) =>
      error.code === 'EADDRINUSE' && port !== 0 ? resolve(listen(make, address, 0)) : reject(error),
    )
    server.listen(port, address, () => resolve(server))
  })
}
