import { mkdtempSync, rmSync } from 'node:fs'
import { createServer, type AddressInfo } from 'node:net'
import { hostname, networkInterfaces, tmpdir } from 'node:os'
import { join } from 'node:path'
import { request } from 'node:http'
import { get as secureGet } from 'node:https'
import mqtt from 'mqtt'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { startServer, type RunningServer, type ServerOptions } from '.'
import { TEST_OPTIONS, until } from './server.testkit'
import { Slowed } from './slowed'
import { TEST_TLS } from './tls.testkit'

const data = mkdtempSync(join(tmpdir(), 'vestibule-network-'))
afterAll(() => rmSync(data, { recursive: true, force: true }))
const PASSPHRASE = 'a kiln at cone six'
const start = (more: Partial<ServerOptions>): Promise<RunningServer> =>
  startServer({
    ...TEST_OPTIONS,
    dataFolder: join(data, 'store'),
    host: '0.0.0.0',
    names: ['vestibule.example'],
    passphrase: PASSPHRASE,
    seed: false,
    ...more,
  })

describe('a server that listens to the network', () => {
  let server: RunningServer
  let port = 0
  beforeAll(async () => {
    server = await start({})
    port = Number(new URL(server.url).port)
  })
  afterAll(() => server.close())

  /** Asks by a name, at an address, as a machine of the network does; fetch would not let the name be another. */
  const ask = (host: string, passphrase: string | null = PASSPHRASE): Promise<number> =>
    new Promise((resolve, reject) => {
      const authorization = passphrase === null ? {} : { Authorization: `Basic ${btoa(`me:${passphrase}`)}` }
      request(
        { host: '127.0.0.1', port, path: '/api/health', headers: { Host: `${host}:${port}`, ...authorization } },
        (response) => {
          response.resume()
          resolve(response.statusCode!)
        },
      )
        .on('error', reject)
        .end()
    })
  const addresses = Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .map(({ address, family }) => (family === 'IPv6' ? `[${address.split('%')[0]!}]` : address))

  it.each([
    ...addresses,
    hostname(),
    `${hostname()}.local`,
    hostname().toUpperCase(),
    'vestibule.example',
    'localhost',
  ])('answers as %s', async (name) => expect(await ask(name)).toBe(200))
  it('not as another, nor without its passphrase', async () => {
    expect(await ask('rebound.example')).toBe(403)
    expect(await ask('localhost', null)).toBe(401)
  })
  it('slows whoever guesses, and lets no guess through meanwhile', async () => {
    const answers: number[] = []
    for (let i = 0; i < 8; i++) answers.push(await ask('localhost', `guess number ${i}`))
    expect(answers).toEqual([401, 401, 401, 401, 401, 429, 429, 429])
    expect(await ask('localhost')).toBe(429)
    await new Promise((resolve) => setTimeout(resolve, 1100))
    expect(await ask('localhost')).toBe(200)
  })
})

describe('boards of the house', () => {
  const health = async (server: RunningServer): Promise<{ broker: string; ok: boolean }> =>
    (await (await fetch(`${server.url}/api/health`)).json()) as { broker: string; ok: boolean }
  const secrets = async (server: RunningServer): Promise<string> => {
    const address = `${server.url}/api/sites/studio-corner/controllers/corner/secrets`
    return (await fetch(address, { method: 'POST' })).text()
  }
  const local = { host: '127.0.0.1', passphrase: null, seed: true }
  const lan = Object.values(networkInterfaces())
    .flatMap((list) => list ?? [])
    .find(({ family, internal }) => family === 'IPv4' && !internal)?.address

  it('reach the broker where --broker-host says, and secrets.h names an address that they can use', async () => {
    const server = await start({ ...local, brokerHost: '0.0.0.0', names: [], dataFolder: join(data, 'wide') })
    const text = await secrets(server)
    const address = /BROKER_ADDRESS "([^"]+)"/.exec(text)![1]!
    expect(address).not.toMatch(/^(127\.|0\.|localhost)/)
    expect(text).not.toContain('That is the machine itself')
    const port = Number(/BROKER_PORT (\d+)/.exec(text)![1])
    if (lan !== undefined) {
      expect(address).toBe(lan)
      const client = await mqtt.connectAsync(`mqtt://${address}:${port}`, {
        username: 'studio-corner.corner',
        password: /BROKER_PASSWORD "([^"]+)"/.exec(text)![1]!,
        protocolVersion: 4,
      })
      await client.endAsync(true)
    }
    await server.close()
  })
  it('are told by the name that was given, where one was', async () => {
    const server = await start({ ...local, brokerHost: '0.0.0.0', dataFolder: join(data, 'named') })
    expect(await secrets(server)).toContain('BROKER_ADDRESS "vestibule.example"')
    await server.close()
  })
  it('are told that they cannot reach a broker on loopback', async () => {
    const server = await start({ ...local, dataFolder: join(data, 'narrow') })
    expect(await secrets(server)).toContain('"127.0.0.1"')
    expect(await secrets(server)).toContain('boards reach the broker when Vestibule runs with --host or --broker-host')
    await server.close()
  })
  it('come by TLS where a certificate is given, pages too; the stand-ins follow', async () => {
    const server = await start({ ...local, host: 'localhost', tls: TEST_TLS, dataFolder: join(data, 'tls') })
    expect(server.url).toMatch(/^https:/)
    const asked = (): Promise<{ broker: string; ok: boolean }> =>
      new Promise((resolve, reject) => {
        secureGet(`${server.url}/api/health`, { ca: TEST_TLS.cert }, (response) => {
          let text = ''
          response.on('data', (chunk: Buffer) => (text += chunk.toString()))
          response.on('end', () => resolve(JSON.parse(text) as { broker: string; ok: boolean }))
        }).on('error', reject)
      })
    await until(async () => (await asked()).ok)
    const { broker } = await asked()
    expect(broker).toMatch(/^mqtts:/)
    const client = mqtt.connect(broker, { ca: TEST_TLS.cert, username: 'a', password: 'b', reconnectPeriod: 0 })
    // the certificate is checked, and the word comes back through it
    expect(await new Promise<Error>((resolve) => client.once('error', resolve))).toMatchObject({ code: 5 })
    const plain = mqtt.connect(broker.replace('mqtts:', 'mqtt:'), { reconnectPeriod: 0 })
    await new Promise((resolve) => plain.once('close', () => resolve(null)))
    await server.close()
  })
  it('health says so when a broker of the house is not there', async () => {
    const server = await start({ ...local, brokerUrl: 'mqtt://127.0.0.1:9', dataFolder: join(data, 'foreign') })
    expect(await health(server)).toMatchObject({ ok: false, own: false, connections: null, store: 'writes' })
    await server.close()
  })
})

describe('a server that cannot start says why in one line', () => {
  it('a certificate that is none', () =>
    expect(start({ tls: { cert: 'x', key: TEST_TLS.key }, dataFolder: join(data, 'none') })).rejects.toThrow(
      '--cert and --key: are no certificate with its key',
    ))
  it('a passphrase that is guessed too soon', () =>
    expect(start({ passphrase: 'ninechars' })).rejects.toThrow(
      'VESTIBULE_PASSPHRASE: a passphrase has 10 characters or more',
    ))
  it('a broker port that another program has: boards would speak to that', async () => {
    const other = createServer()
    await new Promise<void>((resolve) => other.listen(0, '127.0.0.1', resolve))
    const { port } = other.address() as AddressInfo
    await expect(start({ host: '127.0.0.1', brokerPort: port, dataFolder: join(data, 'other') })).rejects.toThrow(
      `broker port ${port} is taken: choose another with --broker-port, or 0 for any that is free`,
    )
    await expect(start({ host: '127.0.0.1', doorPort: port, dataFolder: join(data, 'door') })).rejects.toThrow(
      `service port ${port} is taken: choose another with --service-port, or 0 for any that is free`,
    )
    await new Promise((resolve) => other.close(resolve))
  })
})

describe('waiting', () => {
  it('doubles to a minute, is an address’s own, and ends with the right word or ten quiet minutes', () => {
    let now = 0
    const slowed = new Slowed(() => now)
    const waits = Array.from({ length: 14 }, () => {
      slowed.failed('a')
      return slowed.waitMs('a')
    })
    expect(waits.slice(3)).toEqual([0, 1000, 2000, 4000, 8000, 16_000, 32_000, 60_000, 60_000, 60_000, 60_000])
    expect(slowed.waitMs('b')).toBe(0)
    now += 59_999
    expect(slowed.waitMs('a')).toBe(1)
    now += 600_000
    slowed.failed('a')
    expect(slowed.waitMs('a')).toBe(0)
    for (let i = 0; i < 9; i++) slowed.failed('b')
    slowed.succeeded('b')
    expect(slowed.waitMs('b')).toBe(0)
  })
})
