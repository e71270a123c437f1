import { execFile, spawn } from 'node:child_process'
import { createSocket } from 'node:dgram'
import { connect } from 'node:net'
import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join, resolve } from 'node:path'
import { promisify } from 'node:util'
import mqtt from 'mqtt'
import { afterEach, describe, expect, it } from 'vitest'
import { compileController } from '../../core/image'
import { buildController } from '../../core/outputs'
import { secretsFile } from '../../core/outputs/secretsFile'
import { lampFanStrike } from '../../core/outputs/kinds.testkit'
import { readSite, type Controller, type Site } from '../../core/site'
import { pairingGreeting } from '../../core/wires'
import { firmwareFiles } from '../files'
import { STRICT_FLAGS } from '../host'
import { closeAll, mosquitto, onClose, pause, until } from './live.testkit'

// What a maker of a hub's controller does: `make sketch`, one line in settings.h, secrets.h filled in, and nothing
// else. The sketch runs on a stand-in for the core whose sockets are real ones.

const run = promisify(execFile)
afterEach(closeAll)

const parsed = readSite(readFileSync('demo/studio-corner.json', 'utf8'))
if (!parsed.ok) throw parsed.error
// over the broker of the house alone
const site: Site = { ...parsed.value, services: [], ways: parsed.value.ways.filter((way) => way.kind !== 'app') }
const image = compileController(site, 'corner')

async function sketch(
  port: number,
  more: readonly string[] = [],
  secretsToo = '',
  of: Site = site,
  reveal: (key: string) => string = () => 'x',
): Promise<string> {
  const [controller] = of.controllers as [Controller]
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-sketch-'))
  for (const file of buildController(of, controller.id, firmwareFiles()).files) {
    mkdirSync(dirname(join(folder, file.name)), { recursive: true })
    writeFileSync(join(folder, file.name), file.text)
  }
  await run('make', ['-s', '-C', join(folder, 'firmware'), 'sketch'])
  const at = join(folder, 'firmware', 'sketch')
  const settings = readFileSync(join(at, 'settings.h'), 'utf8')
  writeFileSync(join(at, 'settings.h'), `#define VESTIBULE_CORE_HEADER "mockCore.h"\n${settings}`)
  const broker = { address: '127.0.0.1', port, tls: false, user: '', password: '' }
  const secrets = secretsFile(of, controller, broker, reveal, () => ({ address: '', port: 0 }))
  writeFileSync(join(at, 'secrets.h'), secrets.replace('#endif', `${secretsToo}\n#endif`))
  const mock = join('firmware', 'test', 'mock')
  for (const header of readdirSync(mock)) copyFileSync(join(mock, header), join(at, header))
  const sources = readdirSync(at).filter((name) => name.endsWith('.cpp'))
  await run(
    'g++',
    [
      ...STRICT_FLAGS,
      ...['-O1', '-Wno-unused-const-variable', '-I.', ...more, ...sources],
      ...[resolve('firmware', 'test', 'coreLive.cpp'), '-pthread', '-o', 'sketch'],
    ],
    { cwd: at },
  )
  return join(at, 'sketch')
}

const lamp = image.channels.find(({ id }) => id === 'desk-lamp')!
const button = image.inputs.find(({ id }) => id === 's1')!

function start(program: string) {
  const child = spawn(program)
  onClose(() => child.kill('SIGKILL'))
  const lines: string[] = []
  child.stdout.on('data', (data: Buffer) => lines.push(...data.toString().split('\n').filter(Boolean)))
  child.stdin.on('error', () => undefined)
  const say = (line: string) => void child.stdin.write(`${line}\n`)
  const moves = () => lines.filter((line) => new RegExp(`^\\d+ D ${lamp.gpios[0]} `).test(line)).length
  const press = async (): Promise<number> => {
    const before = moves()
    const began = performance.now()
    say(`P ${button.gpios[0]} ${button.closedLevel}`)
    await until(() => moves() > before, 'the relay moves', 5000)
    const took = performance.now() - began
    say(`P ${button.gpios[0]} ${1 - button.closedLevel}`)
    await pause(50)
    return took
  }
  return { child, lines, say, press, moves }
}

/** The slow end of a connection is tried aside, as on a core that has tasks. */
const TASK = ['-DVESTIBULE_TASK(work,what)=std::thread(work,what).detach()', '-include', 'thread']

describe.skipIf(!existsSync('/usr/sbin/mosquitto'))('a sketch with nothing to fill in but its secrets', () => {
  it('joins, says what it is, obeys the hub, and comes back after its network and its broker were gone', async () => {
    const broker = mosquitto()
    const board = start(await sketch(broker.port, TASK))
    const hub = mqtt.connect(`mqtt://127.0.0.1:${broker.port}`, { reconnectPeriod: 200, protocolVersion: 4 })
    onClose(() => hub.end(true))
    const states: string[] = []
    hub.on('error', () => undefined)
    hub.on('connect', () => hub.subscribe('vestibule/studio-corner/corner/#'))
    hub.on('message', (topic, payload) => states.push(`${topic.split('/').slice(3).join('/')} ${payload.toString()}`))
    await until(() => states.some((line) => line === 'status online'), 'it is up')
    hub.publish('vestibule/studio-corner/corner/desk-lamp/set', 'on')
    await until(() => board.moves() === 1, 'the lamp comes on')
    await until(
      () => states.some((line) => line.startsWith('desk-lamp/state') && line.includes('"on":true')),
      'it says so',
    )
    board.say('W 0')
    const alone = await board.press()
    board.say('W 1')
    broker.kill()
    const dead = [alone, await board.press(), await board.press()]
    const before = states.length
    broker.start()
    const back = () => states.slice(before).some((line) => line === 'status online')
    await until(back, 'it is back', 20_000)
    board.say('E')
    await until(() => board.lines.some((line) => / W \d+$/.test(line)), 'it ends')
    const worst = Number(/ W (\d+)$/.exec(board.lines.at(-1)!)![1])
    console.log(
      `sketch: presses ${dead.map((ms) => ms.toFixed(1)).join(', ')} ms; the longest pass of the whole test ${worst} µs`,
    )
    expect(Math.max(...dead)).toBeLessThan(25 + 150)
    expect(worst).toBeLessThan(100_000)
  }, 120_000)

  it('asks a time server (RFC 4330) where it has schedules', async () => {
    // a server of the test's own, which says that it is Monday, 2026-11-23, 06:59:58 UTC
    const server = createSocket('udp4')
    const asked: Buffer[] = []
    server.on('message', (packet, from) => {
      asked.push(packet)
      const answer = Buffer.alloc(48)
      answer[0] = 0x24
      answer[1] = 2
      packet.copy(answer, 24, 40, 48)
      answer.writeUInt32BE((Date.UTC(2026, 10, 23, 6, 59, 58) / 1000 + 2_208_988_800) >>> 0, 40)
      server.send(answer, from.port, from.address)
    })
    await new Promise<void>((done) => server.bind(0, '127.0.0.1', done))
    onClose(() => server.close())
    const broker = mosquitto()
    const timed = structuredClone(site)
    timed.rules.push({
      kind: 'schedule',
      id: 'morning' as never,
      name: 'Morning',
      channel: 'desk-lamp' as never,
      days: [0, 1, 2, 3, 4],
      minute: 7 * 60,
      action: 'on',
      level: null,
    })
    const time = ['#undef VESTIBULE_TIME_SERVER', '#define VESTIBULE_TIME_SERVER "127.0.0.1"']
    const child = spawn(
      await sketch(broker.port, [`-DVESTIBULE_TIME_PORT=${server.address().port}`], time.join('\n'), timed),
    )
    onClose(() => child.kill('SIGKILL'))
    const lines: string[] = []
    child.stdout.on('data', (data: Buffer) => lines.push(...data.toString().split('\n')))
    await until(() => asked.length > 0, 'it asks')
    expect(asked[0]![0]).toBe(0x23)
    await until(
      () => lines.some((line) => new RegExp(` D ${lamp.gpios[0]} `).test(line)),
      'at seven the lamp comes on',
      8000,
    )
  }, 60_000)

  it('without a network it opens one of its own, is paired with its PIN there, and joins with what the phone says', async () => {
    const broker = mosquitto()
    const paired = lampFanStrike(['provisioned'])
    const service = paired.services[0]!.id
    const port = 20_000 + (process.pid % 20_000)
    const reveal = (key: string): string => (key.includes('pairing-pin') ? '48151623' : '')
    const board = start(await sketch(broker.port, [`-DVESTIBULE_PAIRING_PORT=${port}`], '', paired, reveal))
    const heard: string[] = []
    const phone = mqtt.connect(`mqtt://127.0.0.1:${broker.port}`, { reconnectPeriod: 200, protocolVersion: 4 })
    onClose(() => phone.end(true))
    phone.on('connect', () => phone.subscribe('#'))
    phone.on('message', (topic, payload) => heard.push(`${topic} ${payload.toString()}`))
    await until(() => board.lines.some((line) => line.endsWith(' A bench/box')), 'it opens a network of its own')
    const says = (text: string): Promise<string> =>
      new Promise((resolve) => {
        let answer = ''
        const socket = connect(port, '127.0.0.1', () => socket.write(text))
        socket.on('data', (data) => (answer += data.toString()))
        socket.on('error', () => undefined)
        socket.on('close', () => resolve(answer))
        setTimeout(() => socket.destroy(), 1500)
      })
    expect(await says(pairingGreeting('48151624'))).toBe('wrong 4\n')
    expect(heard).toEqual([])
    const told = [
      ...['network Pottery', 'secret dry clay', `address ${service} 127.0.0.1`, `port ${service} ${broker.port}`],
      ...[`user ${service} lamp`, `password ${service} 48151623`, 'end', ''],
    ].join('\n')
    expect(await says(pairingGreeting('48151623') + told)).toMatch(/^ok bench\/box [0-9a-f]+\ndone\n$/)
    await until(() => heard.includes('device/state {"online":true}'), 'it is online')
    expect(board.lines.some((line) => /\d+ A $/.test(line))).toBe(true)
  }, 60_000)
})
