import mqtt from 'mqtt'
import WebSocket from 'ws'
import { emptySite, newController, newInput, newSwitched, optoModule, type Site } from '../core/site'
import { planned } from '../core/outputs/setups.testkit'
import { addServiceOfKind, keepServiceKind, SERVICE_KINDS } from '../core/services'
import { addAppWay, addHubWay, addWallWay } from '../core/ways'
import { closeAll, mosquitto } from '../firmware/test/live.testkit'
import { intoServer } from '../server/kinds.testkit'
import { testServer } from '../server/server.testkit'
import type { RigState } from '../core/api'

/**
 * `npm run load -- [CONTROLLERS] [SECONDS] [COMMANDS A SECOND]`: so many host controllers, each a process of its own,
 * on one broker and one service's stand-in. A hub commands lamps; each command is a message there, a state back, and
 * a point to the service. Meanwhile fingers press, and the time until the phone shows it is taken.
 */
const [count = 200, seconds = 60, rate = 340] = process.argv.slice(2).map(Number)

function site(): Site {
  const site = emptySite('Load')
  const kind = SERVICE_KINDS.find(({ id }) => id === 'datapoint')!
  keepServiceKind(site, { ...kind, limits: { ...kind.limits, devices: null, messagesMonth: null, updateMs: null } })
  addServiceOfKind(site, 'datapoint')
  for (let i = 1; i <= count; i++) {
    const box = newController(site, `Box ${i}`, 'dual-core-wifi-30', { module: optoModule(2), minReportMs: 0 })
    site.controllers.push(box)
    const lamp = newSwitched(site, `Lamp ${i}`, box)
    site.channels.push(lamp)
    const input = newInput(site, `Button ${i}`, box, 'momentary')
    site.inputs.push(input)
    addWallWay(site, lamp, input)
    addHubWay(site, lamp)
    addAppWay(site, lamp, site.services[0]!.id, 1)
  }
  return planned(site)
}

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))
const percentile = (sorted: readonly number[], p: number): string =>
  (sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * p))] ?? Number.NaN).toFixed(1)

const broker = mosquitto()
const server = await testServer({ seed: false, brokerUrl: `mqtt://127.0.0.1:${broker.port}` })
const document = site()
const id = await intoServer(server, document)
const path = (rest: string) => `/api/sites/${id}${rest}`
const began = Date.now()
await server.ask('PUT', path('/rig'), { on: true })
for (;;) {
  const state = (await server.ask('GET', path('/rig'))).json as RigState
  const up = state.boards.filter(({ links }) => links.every((link) => link.state === 'up')).length
  if (up === count) break
  if (state.boards.some(({ trouble }) => trouble))
    throw new Error(state.boards.find(({ trouble }) => trouble)!.trouble!)
  if (Date.now() - began > (15 + count * 3) * 1000)
    throw new Error(`${up} of ${count} came up: ${JSON.stringify(state.boards[0])}`)
  await pause(1000)
}
console.log(`${count} controllers compiled, started and connected in ${Math.round((Date.now() - began) / 1000)} s`)

// a hub on the independent broker
const hub = mqtt.connect(`mqtt://127.0.0.1:${broker.port}`, { protocolVersion: 4, reconnectPeriod: 0 })
await new Promise((resolve, reject) => hub.once('connect', resolve).once('error', reject))
const seqs = new Map<string, number>()
let states = 0
hub.on('message', (topic, payload) => {
  states++
  seqs.set(topic.split('/')[2]!, Number(/"seq":(\d+)/.exec(payload.toString())?.[1]))
})
await hub.subscribeAsync(`vestibule/${id}/+/+/state`, { qos: 1 })
await pause(1000)

// the phone: what the pages are told
const phone = new WebSocket(`${server.url.replace('http', 'ws')}/api/live?site=${id}`, { origin: server.url })
await new Promise((resolve, reject) => phone.once('open', resolve).once('error', reject))
const waiting = new Map<string, (value: number) => void>()
let shown: Record<string, number> = {}
phone.on('message', (data: Buffer) => {
  const message = JSON.parse(data.toString()) as { kind: string; values?: Record<string, number> }
  if (message.kind !== 'points') return
  for (const [point, settle] of waiting) if (message.values![point] !== shown[point]) settle(message.values![point]!)
  shown = message.values!
})

const first = new Map(seqs)
states = 0
const boxes = document.controllers.map((controller) => controller.id as string)
const lampOf = new Map(document.channels.map((channel) => [channel.controller as string, channel.id as string]))
const sent = new Map(boxes.map((box) => [box, 0]))
// the last of the boxes are pressed, the others commanded
const pressed = boxes.slice(-Math.max(1, Math.floor(count / 10)))
const commanded = boxes.slice(0, -pressed.length)
const latencies: number[] = []
const end = Date.now() + seconds * 1000
let sentAll = 0
const commands = async () => {
  for (let due = Date.now(); Date.now() < end; due += 100) {
    for (let i = 0; i < rate / 10; i++) {
      const box = commanded[sentAll++ % commanded.length]!
      sent.set(box, sent.get(box)! + 1)
      hub.publish(`vestibule/${id}/${box}/${lampOf.get(box)!}/set`, 'toggle', { qos: 1 })
    }
    await pause(Math.max(0, due + 100 - Date.now()))
  }
}
const presses = async () => {
  for (let i = 0; Date.now() < end - 1000; i++) {
    const box = pressed[i % pressed.length]!
    const point = document.services[0]!.points.find(({ controller }) => controller === box)!.id as string
    const input = document.inputs.find(({ controller }) => controller === box)!.id
    const level = (value: number) => server.ask('POST', path(`/rig/${box}/events`), { pin: input, level: value })
    const from = performance.now()
    const seen = new Promise<number>((resolve) => waiting.set(point, () => resolve(performance.now() - from)))
    await level(0)
    latencies.push(await Promise.race([seen, pause(5000).then(() => Number.POSITIVE_INFINITY)]))
    waiting.delete(point)
    await level(1)
    await pause(60)
  }
}
await Promise.all([commands(), presses()])
await pause(3000)
const lost = commanded.filter((box) => seqs.get(box)! - (first.get(box) ?? 0) !== sent.get(box))
latencies.sort((a, b) => a - b)
const points = (await server.ask('GET', path('/stand-ins/datapoint'))).json as { used: { day: number } }
console.log(`${sentAll} commands in ${seconds} s, ${states} states heard, ${points.used.day} messages at the service`)
console.log(`${Math.round((sentAll + states + points.used.day) / seconds)} messages a second`)
console.log(`boxes whose last state does not count every command: ${lost.length}`)
console.log(
  `press to phone over ${latencies.length} presses, settle time included: p50 ${percentile(latencies, 0.5)} ms, ` +
    `p95 ${percentile(latencies, 0.95)} ms, p99 ${percentile(latencies, 0.99)} ms`,
)
console.log(`memory of the server: ${Math.round(process.memoryUsage.rss() / 1e6)} MB`)
phone.close()
await hub.endAsync(true)
await server.close()
closeAll()
process.exit(0)
