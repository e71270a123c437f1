import { expect, it } from 'vitest'
import { lampFanStrike } from '../outputs/kinds.testkit'
import { compileController } from '../image'
import { quotasOf } from '../services'
import { runWireTrace, type AnyLine } from './trace'
import { compileWires } from './compile'
import { FarEnd } from './farEnd'

// A day of the site, worked off by the tables: what goes over the wire is what the service's sheet predicts, within one
// part in twenty.

const DAY_MS = 86_400_000
const reveal = (secret: string): string => secret

it.each(['datapoint', 'variable'])('a day’s traffic of a %s service is within the quota that is predicted', (kind) => {
  const site = lampFanStrike([kind])
  const image = compileController(site, 'box')
  const wires = compileWires(site, image)
  const link = wires.links[0]!
  if (link.transport !== 'mqtt') throw new Error('a wire over MQTT')
  const far = new FarEnd(link, reveal)
  const lines: AnyLine[] = [
    { t: 0, power: 'on' },
    { t: 1000, open: true },
  ]
  let count = 0
  const heard = (t: number, message: { topic: string; payload: string } | undefined): void =>
    void (message && lines.push({ t, heard: { ...message, stale: false } }))
  heard(1100, far.lastCount(0))
  // each channel changes so often a day, by turns at its switch and on the phone
  let wishes = 0
  site.channels.forEach((channel, c) => {
    for (let i = 0; i < site.day.changes; i++) {
      const t = Math.floor(((i + 0.5) / site.day.changes) * (DAY_MS - 200_000)) + c * 20_000 + 7_000
      if (i % 2 === 0) {
        const input = site.inputs[c]!.id
        lines.push({ t, pin: input, level: 0 }, { t: t + 100, pin: input, level: 1 })
      } else {
        wishes++
        const value = channel.kind === 'pulsed' ? 1 : i % 4 === 1 ? 0 : 1
        heard(t, far.wish(`vp/${c + 1}`, value, ++count))
      }
    }
  })
  lines.sort((a, b) => a.t - b.t)
  // wishes bear their numbers in the order in which they are made
  let next = 0
  const ordered = lines.map((line): AnyLine => {
    if (!('heard' in line) || line.t === 1100) return line
    next++
    const payload = line.heard.payload.replace(/(\d+)(\}?)$/, `${next}$2`)
    return { ...line, heard: { ...line.heard, payload } }
  })
  const outputs = runWireTrace(image, wires, reveal, [...ordered, { t: DAY_MS, end: true }])
  const said = outputs.filter((output) => 'what' in output && 'say' in output.what).length
  const predicted = quotasOf(site).find(({ service }) => service === kind)!.perDay
  console.log(`${kind}: ${said} said and ${wishes} heard a day, ${predicted} predicted`)
  expect(Math.abs(said + wishes - predicted) / predicted).toBeLessThan(0.05)
})
