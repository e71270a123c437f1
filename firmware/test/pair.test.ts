import { spawn } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import mqtt from 'mqtt'
import { afterEach, describe, expect, it } from 'vitest'
import { createDevice, instant, writeOutputs, type TraceLine } from '../../core/device'
import { tablesOf } from '../../core/image'
import { parseSite, readSite, type Site } from '../../core/site'
import { topics } from '../../core/topics'
import { buildAvr, runAvrTrace, simulatorSupported } from '../avr'
import { buildHost, runHostTrace } from '../host'
import { closeAll, mosquitto, onClose, pause, until } from './live.testkit'
import { writeTrace } from './fuzz.testkit'
import { playPair } from './pair.testkit'

/**
 * The demo's drying room, an 8-bit board with a coprocessor, and entities of the hub for its channels, so that the
 * network has a way to them.
 */
function dryingSite(): Site {
  const read = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
  if (!read.ok) throw read.error
  const draft = structuredClone(read.value) as unknown as { hubs: { id: string; entities: object[] }[]; ways: object[] }
  for (const [id, name] of [
    ['rack-lights', 'Rack lights'],
    ['dehumidifier', 'Dehumidifier'],
    ['rack-fan', 'Rack fan'],
  ] as const) {
    draft.hubs[0]!.entities.push({ id: `${id}-entity`, name, channel: id, topic: id })
    draft.ways.push({
      kind: 'hub',
      id: `${id}-hub`,
      channel: id,
      hub: draft.hubs[0]!.id,
      entity: `${id}-entity`,
      feedback: 'reports',
    })
  }
  const parsed = parseSite(draft)
  if (!parsed.ok) throw parsed.error
  return parsed.value
}
const site = dryingSite()
const { image, part } = tablesOf(site, 'drying-radio')
const scheme = topics(site.id, 'drying')

afterEach(closeAll)

describe('a pair of boards from one image', () => {
  it('the coprocessor runs the tables of its main board', () => {
    expect(part).toBe('mirror')
    expect(image).toEqual(tablesOf(site, 'drying').image)
    expect(image.link).toBe(false)
  })

  const set = (t: number, topic: string, payload: string): TraceLine => ({
    t,
    msg: { topic: scheme.set(topic), payload, retain: false },
  })
  const [rocker, button] = [image.inputs[0]!, image.inputs[1]!]
  const toMirror: TraceLine[] = [
    { t: 900, link: 'up' },
    set(3000, 'rack-lights', 'on'),
    set(5000, 'rack-fan', 'on'),
    set(6500, 'dehumidifier', 'toggle'),
    set(8000, 'rack-lights', 'off'),
    { t: 9000, link: 'down' },
    { t: 12_000, link: 'up' },
    set(14_000, 'rack-lights', 'on'),
  ]
  const toMain: TraceLine[] = [
    { t: 4000, pin: rocker.id, level: 0 },
    { t: 10_000, pin: button.id, level: 0 },
    { t: 10_200, pin: button.id, level: 1 },
  ]
  const run = playPair(image, toMain, toMirror, 18_000)

  it('a message works the main board, and its state comes back as a report', () => {
    const states = run.mirrorOutputs.flatMap((o) =>
      'pub' in o && o.pub.topic === scheme.state('rack-lights') ? [`${o.t} ${o.pub.payload}`] : [],
    )
    const closes = run.mainOutputs.flatMap((o) =>
      'out' in o && o.out === 'rack-lights' && o.t > 0 ? [`${o.t} ${o.level}`] : [],
    )
    // the message at 3000: a character takes two ms to be heard, the line that follows some 60 ms
    expect(closes[0]).toBe('3003 1')
    expect(
      states.some((state) => /^30[0-9]{2} .*"on":true,.*"source":"serial"/.test(state)),
      states.join('\n'),
    ).toBe(true)
    // a hand's press is heard on the network too, though nobody there asked for it
    expect(states.length).toBeGreaterThan(3)
    expect(
      run.mirrorOutputs.some((o) => 'pub' in o && o.pub.topic === scheme.status && o.pub.payload === 'online'),
    ).toBe(true)
  })
  it('the coprocessor’s firmware prints the same bytes', async () => {
    const { program } = await buildHost(image)
    expect(await runHostTrace(program, writeTrace(run.mirror), 0, 'mirror')).toBe(writeOutputs(run.mirrorOutputs))
  })
  it.skipIf(!simulatorSupported())(
    'the main board’s firmware on the simulated 8-bit core: its lines are those that the coprocessor heard',
    async () => {
      const { lines, troubles } = await runAvrTrace(await buildAvr(image), image, run.main)
      const expected = run.mainOutputs.flatMap((o) => ('line' in o ? [o.line] : []))
      expect(lines).toEqual(expected.slice(0, lines.length))
      expect(expected.length - lines.length).toBeLessThanOrEqual(1)
      expect(troubles).toEqual([])
    },
    60_000,
  )
})

describe.skipIf(!existsSync('/usr/sbin/mosquitto'))('a pair on a real broker', () => {
  it('a command through the broker closes the main board’s relay, and a silent main board is offline', async () => {
    const broker = mosquitto()
    await pause(300)
    const { program } = await buildHost(image)
    const radio = spawn(program, ['live', '127.0.0.1', String(broker.port), 'mirror'], {
      stdio: ['pipe', 'pipe', 'inherit'],
    })
    onClose(() => void radio.kill('SIGKILL'))
    // the main board stands at the other end of the line, in real time
    const main = createDevice({ ...image, serial: { ...image.serial!, statusMs: 300 } })
    const began = Date.now()
    let speaks = true
    const relays: string[] = []
    const step = (events: Parameters<typeof main.advance>[1] = []): void => {
      for (const output of main.advance(instant(Date.now() - began), events)) {
        if ('line' in output && speaks) radio.stdin.write(`${JSON.stringify({ t: 0, line: output.line })}\n`)
        if ('out' in output) relays.push(`${output.out}=${output.level}`)
      }
    }
    step([{ kind: 'power', on: true }])
    const beat = setInterval(() => step(), 20)
    onClose(() => clearInterval(beat))
    let text = ''
    radio.stdout.on('data', (chunk: Buffer) => {
      text += chunk.toString()
      for (let end = text.indexOf('\n'); end >= 0; end = text.indexOf('\n')) {
        const said = JSON.parse(text.slice(0, end)) as { char?: string }
        if (said.char !== undefined) step([{ kind: 'char', char: said.char }])
        text = text.slice(end + 1)
      }
    })
    const client = mqtt.connect(`mqtt://127.0.0.1:${broker.port}`)
    onClose(() => void client.end(true))
    const heard = new Map<string, string>()
    client.on('message', (topic, payload) => void heard.set(topic, payload.toString()))
    client.on('connect', () => client.subscribe(`${scheme.prefix}#`))
    await until(() => heard.get(scheme.status) === 'online', 'the pair comes online')
    client.publish(scheme.set('rack-lights'), 'on')
    await until(() => relays.at(-1) === 'rack-lights=1', 'the relay closes')
    await until(() => heard.get(scheme.state('rack-lights'))?.includes('"on":true') === true, 'the state comes back')
    speaks = false
    await until(() => heard.get(scheme.status) === 'offline', 'a silent main board is offline')
    speaks = true
    await until(() => heard.get(scheme.status) === 'online', 'it is heard again')
    radio.kill('SIGKILL')
    await until(() => heard.get(scheme.status) === 'offline', 'the will of a dead coprocessor', 30_000)
  }, 60_000)
})
