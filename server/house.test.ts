import { spawn, type ChildProcess } from 'node:child_process'
import { existsSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import mqtt, { type MqttClient } from 'mqtt'
import { afterEach, describe, expect, it } from 'vitest'
import { compileController } from '../core/image'
import { compileWires } from '../core/wires'
import { buildHost } from '../firmware/host'
import { testServer, until, type TestServer } from './server.testkit'

const open: { close(): Promise<unknown> | void }[] = []
afterEach(async () => {
  for (const thing of open.splice(0).reverse()) await thing.close()
})

const served = async (options?: Parameters<typeof testServer>[0]): Promise<TestServer> => {
  const server = await testServer(options)
  open.push(server)
  return server
}

const connect = (url: string, username: string, password: string): Promise<MqttClient> =>
  new Promise((resolve, reject) => {
    const client = mqtt.connect(url, { username, password, reconnectPeriod: 0, protocolVersion: 4 })
    client.once('connect', () => {
      open.push({ close: () => client.endAsync(true) })
      resolve(client)
    })
    client.once('error', reject)
  })

const brokerPassword = async (server: TestServer, site: string, controller: string) =>
  /BROKER_PASSWORD "([^"]+)"/.exec(
    (await server.ask('POST', `/api/sites/${site}/controllers/${controller}/secrets`)).text,
  )![1]!

/** The compiled firmware, live with what its secrets file names. */
async function liveController(
  server: TestServer,
): Promise<{ lines: string[]; press(): Promise<void>; child: ChildProcess }> {
  const { site } = (await server.ask('GET', '/api/sites/studio-corner')).json
  for (const key of ['app/board-pattern', 'app/board-key/corner'])
    await server.ask('PUT', '/api/sites/studio-corner/credentials', { key, value: `${key.slice(4, 13)}-0123456789` })
  const secrets = (await server.ask('POST', '/api/sites/studio-corner/controllers/corner/secrets')).text
  const image = compileController(site, 'corner')
  const { program } = await buildHost(image, { wires: compileWires(site, image), secrets, outDir: server.data })
  const child = spawn(program, ['live'], { stdio: ['pipe', 'pipe', 'inherit'] })
  const lines: string[] = []
  let rest = ''
  child.stdout.on('data', (chunk: Buffer) => {
    const parts = (rest + chunk.toString()).split('\n')
    rest = parts.pop()!
    lines.push(...parts)
  })
  open.push({ close: () => void child.kill('SIGKILL') })
  const level = (value: number) => child.stdin.write(`{"t":0,"pin":"s1","level":${value}}\n`)
  const press = async () => {
    // the finger stays until the relay has answered: a busy machine must not read both ends of it in one pass
    const before = lines.length
    level(0)
    await until(() => lines.slice(before).some((line) => line.includes('"out"')))
    level(1)
    await new Promise((resolve) => setTimeout(resolve, 150))
  }
  // the first levels are learned, and fire nothing
  await new Promise((resolve) => setTimeout(resolve, 150))
  return { lines, press, child }
}

const widget = async (server: TestServer) =>
  (await server.ask('GET', '/api/sites/studio-corner/stand-ins/app')).json as {
    values: Record<string, number>
    online: Record<string, boolean>
  }

describe('the broker', () => {
  it('refuses a wrong password with return code 5 (MQTT 3.1.1, 3.2.2.3)', async () => {
    const server = await served()
    await expect(connect(server.brokerUrl, 'studio-corner.corner', 'guess')).rejects.toMatchObject({ code: 5 })
    await expect(connect(server.brokerUrl, 'nobody', 'guess')).rejects.toMatchObject({ code: 5 })
  })
  it('lets a controller subscribe only within its own branch', async () => {
    const server = await served()
    const client = await connect(
      server.brokerUrl,
      'studio-corner.corner',
      await brokerPassword(server, 'studio-corner', 'corner'),
    )
    const granted = async (filter: string) => {
      try {
        return (await client.subscribeAsync(filter, { qos: 1 }))[0]!.qos
      } catch {
        return 128 // 3.9.3: 0x80, failure
      }
    }
    expect(await granted('vestibule/studio-corner/corner/+/set')).toBe(1)
    expect(await granted('vestibule/fernhollow/#')).toBe(128)
    expect(await granted('#')).toBe(128)
  })
})

describe('who belongs to the site', () => {
  const edit = async (server: TestServer, site: string, patch: unknown[]) => {
    const { revision } = (await server.ask('GET', `/api/sites/${site}`)).json
    const tag = { 'If-Match': `"${revision}"` }
    const answer = await server.ask('PATCH', `/api/sites/${site}`, { label: 'edit', patch }, tag)
    expect(answer.status, answer.text).toBe(200)
  }
  const connections = async (server: TestServer): Promise<number> =>
    (await server.ask('GET', '/api/health')).json.connections

  it('a controller that is taken out is cut at once, and an undo lets it in again', async () => {
    const server = await served()
    await until(async () => (await server.ask('GET', '/api/health')).json.ok)
    const before = await connections(server)
    const { id } = (await server.ask('POST', '/api/sites', { name: 'Shed' })).json as { id: string }
    const { rooms, controllers } = (await server.ask('GET', '/api/sites/studio-corner')).json.site
    await edit(server, id, [
      { op: 'replace', path: '/rooms', value: rooms },
      { op: 'add', path: '/controllers/-', value: controllers[0] },
    ])
    const password = await brokerPassword(server, id, 'corner')
    const board = await connect(server.brokerUrl, 'shed.corner', password)
    const gone = new Promise((resolve) => board.once('close', () => resolve('gone')))
    await edit(server, id, [{ op: 'remove', path: '/controllers/0' }])
    expect(await gone).toBe('gone')
    await expect(connect(server.brokerUrl, 'shed.corner', password)).rejects.toMatchObject({ code: 5 })
    await server.ask('POST', `/api/sites/${id}/undo`, undefined, { 'If-Match': '"2"' })
    await connect(server.brokerUrl, 'shed.corner', password)
    await until(async () => (await connections(server)) > before)
  })
  it('the coprocessor of a pair, with what its secrets file names, hears and reports its main board’s topics', async () => {
    const server = await served()
    const file = (await server.ask('POST', '/api/sites/fernhollow/controllers/drying-radio/secrets')).text
    const named = (what: string) => new RegExp(`BROKER_${what} "([^"]+)"`).exec(file)![1]!
    const radio = await connect(server.brokerUrl, named('USER'), named('PASSWORD'))
    const listener = await connect(server.brokerUrl, 'fernhollow.drying', named('PASSWORD'))
    const [granted] = await radio.subscribeAsync('vestibule/fernhollow/drying/+/set')
    expect(granted!.qos).not.toBe(128)
    await listener.subscribeAsync('vestibule/fernhollow/drying/+/state')
    const heard = new Promise((resolve) => listener.once('message', (topic) => resolve(topic)))
    await radio.publishAsync('vestibule/fernhollow/drying/rack-lights/state', '{"on":true}')
    expect(await heard).toBe('vestibule/fernhollow/drying/rack-lights/state')
  })
  it('a controller whose password is taken back is cut at once, and gets another', async () => {
    const server = await served()
    const old = await brokerPassword(server, 'studio-corner', 'corner')
    const board = await connect(server.brokerUrl, 'studio-corner.corner', old)
    const gone = new Promise((resolve) => board.once('close', () => resolve('gone')))
    const key = 'controller corner/broker password'
    expect((await server.ask('DELETE', '/api/sites/studio-corner/credentials', { key })).status).toBe(200)
    expect(await gone).toBe('gone')
    const next = await brokerPassword(server, 'studio-corner', 'corner')
    expect(next).not.toBe(old)
    await expect(connect(server.brokerUrl, 'studio-corner.corner', old)).rejects.toMatchObject({ code: 5 })
    await connect(server.brokerUrl, 'studio-corner.corner', next)
  })
})

describe('firmware, broker and app service together', () => {
  it('a tap works the lamp, a press comes back to the phone, and a lost controller is shown as offline', async () => {
    const server = await served()
    const { lines, press, child } = await liveController(server)
    await until(async () => (await widget(server)).online['corner'])
    await server.ask('POST', '/api/sites/studio-corner/stand-ins/app/widgets/desk-lamp', { on: true })
    await until(() => lines.find((line) => /"out":"desk-lamp","level":1/.test(line)))
    await press()
    await until(async () => (await widget(server)).values['desk-lamp'] === 0)
    expect(lines.some((line) => line.includes('\\"on\\":false,\\"source\\":\\"wall\\"'))).toBe(true)
    // the board has said which tables it runs
    const entries = async () =>
      ((await server.ask('GET', '/api/sites/studio-corner/log')).json as { entries: { text: string }[] }).entries.map(
        (entry) => entry.text,
      )
    await until(async () => (await entries()).some((text) => /^Corner runs /.test(text)))
    child.kill('SIGKILL') // no DISCONNECT: the will speaks (3.1.2.5)
    await until(async () => (await widget(server)).online['corner'] === false)
  })
  it.skipIf(!existsSync('/usr/sbin/mosquitto'))(
    'on an independent broker of the house (mosquitto): press and state pass, and the wall works while it is dead',
    async () => {
      const folder = mkdtempSync(join(tmpdir(), 'vestibule-mosquitto-'))
      const port = 20_000 + (process.pid % 20_000)
      writeFileSync(
        join(folder, 'mosquitto.conf'),
        `listener ${port} 127.0.0.1\nallow_anonymous true\npersistence false\n`,
      )
      const start = () => spawn('/usr/sbin/mosquitto', ['-c', join(folder, 'mosquitto.conf')], { stdio: 'ignore' })
      let broker = start()
      open.push({ close: () => void broker.kill('SIGKILL') })
      const url = `mqtt://127.0.0.1:${port}`
      const listener = mqtt.connect(url, { reconnectPeriod: 200, protocolVersion: 4 })
      open.push({ close: () => listener.endAsync(true) })
      const states: string[] = []
      listener.on('error', () => undefined)
      listener.on('connect', () => listener.subscribe('vestibule/studio-corner/corner/desk-lamp/state'))
      listener.on('message', (_topic, payload) => states.push(payload.toString()))
      const server = await served({ brokerUrl: url })
      const { lines, press } = await liveController(server)
      await until(() => states.length > 0)
      await press()
      await until(() => states.at(-1)!.includes('"on":true'))
      broker.kill('SIGKILL')
      await press() // nobody to tell: the lamp goes out all the same
      await until(() => lines.filter((line) => /"out":"desk-lamp","level":0/.test(line)).length > 1)
      broker = start()
      await until(() => states.at(-1)!.includes('"on":false'), 20_000)
    },
  )
})
