import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readTrace, runTrace, writeOutputs, type TraceLine } from '../../core/device'
import { tablesOf } from '../../core/image'
import { readSite } from '../../core/site'
import { demoTraces } from '../../tools/demoTraces'
import { simulatorSupported } from '../avr'
import { buildHost, runHostTrace } from '../host'
import { compare } from './avr.testkit'

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const site = parsed.value

/**
 * The clauses of docs/behaviour.md that a board's trace walks through, each with what must be seen of it in its output.
 */
const CLAUSES: Record<string, readonly (readonly [string, RegExp])[]> = {
  throwing: [
    ['settle: a bouncing rocker is one flip, 25 ms after it rests', /"t":1035,"out":"bench-lights","level":1/],
    ['press on a momentary switch', /"out":"wedging-lamp","level":1/],
    ['least time off: a turn-on waits', /"t":66150,"out":"compressor-socket","level":1/],
    [
      'selector and gap',
      /"t":66775,"out":"clay-dust-fan.1","level":0\}[\s\S]*"t":66805,"out":"clay-dust-fan.2","level":1/,
    ],
    ['a code that stands for nothing', /selector r1: no level for code 5/],
    [
      'remote, and a held key that repeats',
      /clay-dust-fan\/state","payload":"\{\\"on\\":true,\\"level\\":2,\\"source\\":\\"remote\\"/,
    ],
    ['remote, from edges', /wedging-lamp\/state","payload":"\{\\"on\\":true,\\"source\\":\\"remote\\"/],
    ['“all off” of a group', /shelf-lights\/state","payload":"\{\\"on\\":false,\\"source\\":\\"remote\\"/],
    ['nearby character', /\\"source\\":\\"nearby\\"/],
    [
      'hub command, level in words',
      /clay-dust-fan\/state","payload":"\{\\"on\\":true,\\"level\\":4,\\"source\\":\\"hub\\"/,
    ],
    ['retained command', /set bench-lights: retained, ignored/],
    ['refused payload', /set bench-lights: not understood/],
    ['unknown channel, unknown point', /set: unknown channel[\s\S]*vp: unknown point/],
    ['sensor, dead band, staleness', /sensor\/throwing-air","payload":"21"[\s\S]*sensor throwing-air: stale/],
    ['retries with jitter', /("t":\d+,"link":"joining"[\s\S]*){4}/],
    [
      'schedule, without and with a clock',
      /schedule: no clock[\s\S]*vp\/5\/state","payload":"1"[\s\S]*vp\/5\/state","payload":"0"/,
    ],
    ['store', /"store":"bench-lights=1 shelf-lights=1/],
    ['power-up: last, staggered', /"out":"shelf-lights","level":1/],
    ['status line with its sum', /"line":"S bench-lights=.*\*[0-9A-F]{2}"/],
  ],
  glaze: [
    [
      'follow, and power-up by the wall',
      /"t":75,"out":"booth-lights","level":1\}[\s\S]*"t":975,"out":"booth-lights","level":0/,
    ],
    ['press waits for the release where a hold is bound', /"t":1975,"out":"sink-heater","level":1/],
    ['hold', /"t":3235,"out":"sink-heater","level":0/],
    ['auto, manual by a point', /\\"mode\\":\\"manual\\"[\s\S]*\\"mode\\":\\"auto\\"/],
    ['a hand in auto: yield', /\\"mode\\":\\"yield\\"/],
    [
      'rule, hysteresis and dwell',
      /"t":13290,"out":"booth-extractor","level":1\}[\s\S]*"t":133290,"out":"booth-extractor","level":0/,
    ],
    ['limit', /"t":2704095,"out":"sink-heater","level":0/],
    ['full report at the heartbeat', /"t":300550,"pub"/],
  ],
  yard: [
    ['pulse', /"out":"gate-strike","level":1\}[\s\S]*"out":"gate-strike","level":0/],
    ['pulse running, locked out', /gate-strike: pulse running[\s\S]*gate-strike: locked out/],
    ['flip on a bouncing rocker', /"out":"yard-lights","level":1/],
    ['retained command to a door', /vp2: retained, ignored/],
  ],
  drying: [
    ['serial characters', /"t":600,"out":"rack-lights","level":1/],
    ['unknown characters are counted', /"line":"S .*\?=1 \*/],
    ['steps with a gap', /"t":2100,"out":"rack-fan.1","level":0\}[\s\S]*"t":2130,"out":"rack-fan.2","level":1/],
    ['least time off at power-up', /"t":180000,"out":"dehumidifier","level":1/],
    ['last level after a power cut', /"store":"dehumidifier=/],
  ],
  'drying-radio': [
    ['offline until the main board is heard', /status","payload":"offline"[\s\S]*status","payload":"online"/],
    ['lines become reports', /rack-fan\/state","payload":"\{\\"on\\":true,\\"level\\":2,\\"source\\":\\"serial\\"/],
    ['damaged line', /serial: a status line was damaged/],
    ['silent main board', /serial: main board not heard/],
  ],
  window: [
    ['detached: the switch tells the hub', /window-spots\/gesture","payload":"press"/],
    [
      'watch, grace, local: the switch works the relay',
      /watch: hub not heard, feeds are local[\s\S]*"out":"window-spots","level":0/,
    ],
    [
      'steady: detached again, and closed',
      /"out":"window-spots","level":1\}[\s\S]*watch: hub is steady, feeds are detached|watch: hub is steady, feeds are detached[\s\S]*"out":"window-spots","level":1/,
    ],
    [
      'position contact is the state',
      /shutter-opener\/state","payload":"\{\\"state\\":\\"open\\",\\"source\\":\\"contact\\"/,
    ],
    ['a retained command never moves a door', /set shutter-opener: retained, ignored/],
  ],
}

describe.each(site.controllers.map((controller) => controller.id))(
  '%s of the pottery, by the trace that ships with the demo',
  (id) => {
    const { image, part } = tablesOf(site, id)
    const text = readFileSync(`demo/traces/${id}.jsonl`, 'utf8')
    const trace = readTrace(text)
    const expected = writeOutputs(runTrace(image, trace, part))

    it('is the trace that `npm run demo` writes', () => expect(trace).toEqual(demoTraces()[id]))
    it.each(CLAUSES[id]!)('%s', (_, seen) => expect(expected).toMatch(seen))
    it('the firmware prints the same bytes', async () => {
      const { program } = await buildHost(image)
      expect(await runHostTrace(program, text, 0, part)).toBe(expected)
    })
    if (image.board !== 'eight-bit-5v' || part === 'mirror') return
    it.skipIf(!simulatorSupported())(
      'the 8-bit board on the simulator: the same edges in the same millisecond, the same lines',
      async () => {
        // the board has no network and, as it ships, no sensors
        const reaches = (line: TraceLine): boolean =>
          'pin' in line || 'char' in line || 'power' in line || 'end' in line
        const { expected: edges, actual, late, lines, run } = await compare(image, trace.filter(reaches))
        expect(actual).toEqual(edges)
        expect(late).toBe(0)
        expect(lines.actual.length).toBeGreaterThanOrEqual(lines.expected.length - 3)
        expect(run.troubles).toEqual([])
        console.log(`${id} on simavr: ${actual.length} edges, ${lines.actual.length} of ${lines.expected.length} lines`)
      },
      60_000,
    )
  },
)
