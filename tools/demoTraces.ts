import type { TraceLine } from '../core/device'
import { linksOf, tablesOf, type ImageLink } from '../core/image'
import { encodeFrame } from '../core/infrared'
import { fernhollow } from './demoSites'

/**
 * A trace for each board of the pottery, that walks through every clause of docs/behaviour.md that its tables know.
 * Play them with
 * `npx vestibule run demo/fernhollow.json --controller ID --trace demo/traces/ID.jsonl --engine core|firmware|simavr`.
 */

type Happening = TraceLine extends infer Line ? (Line extends { t: number } ? Omit<Line, 't'> : never) : never

/** Builds a trace: `at` sets the time, `then` lets some pass. */
class Story {
  readonly lines: TraceLine[] = []
  private t = 0
  private readonly controller: string
  private readonly links: readonly ImageLink[]

  constructor(controller: string) {
    this.controller = controller
    this.links = linksOf(tablesOf(fernhollow(), controller).image)
    this.tell({ power: 'on' })
  }

  tell(...happenings: Happening[]): this {
    for (const happening of happenings.flatMap((one) => this.overLinks(one)))
      this.lines.push({ t: this.t, ...happening } as TraceLine)
    return this
  }
  /** All links come and go together, as they do with the network; a point's message comes over its service's own. */
  private overLinks(happening: Happening): Happening[] {
    if ('link' in happening)
      return this.links.map(({ id }, i) => (i === 0 ? happening : { ...happening, of: id })) as Happening[]
    if ('msg' in happening && happening.msg.topic.includes('/vp/') && this.links.some(({ id }) => id === 'app'))
      return [{ ...happening, of: 'app' }]
    return [happening]
  }
  after(ms: number, ...happenings: Happening[]): this {
    this.t += ms
    return this.tell(...happenings)
  }
  /** A contact to ground closes, opens. */
  close = (pin: string): Happening => ({ pin, level: 0 })
  open = (pin: string): Happening => ({ pin, level: 1 })
  /** A press as long as a hand's. */
  press(pin: string, ms = 120): this {
    return this.after(400, this.close(pin)).after(ms, this.open(pin)).after(60)
  }
  /** A contact that bounces before it rests closed. */
  bounce(pin: string): this {
    return this.after(400, this.close(pin))
      .after(2, this.open(pin))
      .after(3, this.close(pin))
      .after(1, this.open(pin))
      .after(4, this.close(pin))
      .after(60)
  }
  message(topic: string, payload: string, retain = false): Happening {
    return { msg: { topic: `vestibule/fernhollow/${this.controller}/${topic}`, payload, retain } }
  }
  /** A network that comes, is gone, and cannot be had for some retries. */
  outage(ms: number): this {
    return this.after(500, { link: 'down' })
      .after(1500, { link: 'down' })
      .after(3000, { link: 'down' })
      .after(ms, { link: 'up' })
  }
  powerCut(ms: number): this {
    return this.after(3000, { power: 'off' }).after(ms, { power: 'on' })
  }
  end(): TraceLine[] {
    this.after(5000, { end: true })
    return this.lines
  }
}

/** Rockers, a selector, a remote, a nearby link, points, limits, a schedule. */
function throwing(): TraceLine[] {
  const s = new Story('throwing')
  const key = (command: number, repeat = false): Happening => ({
    ir: { protocol: 'nec', address: 77, command, toggle: null, repeat },
  })
  s.after(100, s.open('s1'), s.open('s2'), s.open('s3'), s.open('s4')).after(500, { link: 'up' })
  s.bounce('s1').after(500, s.open('s1')).press('s3').press('s3')
  // settle: too short to count; a press at the same instant as another
  s.after(400, s.close('s3')).after(20, s.open('s3')).after(300, s.close('s2'), s.close('s4')).after(200, s.open('s4'))
  // minOffMs: the compressor waits after it has been off; asking off cancels the wait
  s.after(500, s.message('vp/4/set', '0'))
    .after(500, s.message('vp/4/set', '1'))
    .after(500, s.message('vp/4/set', '0'))
    .after(61_000, s.message('vp/4/set', '1'))
  // the selector: three contacts, levels with a gap, a change of mind within it, a code that stands for nothing
  s.after(300, s.close('r1.1'))
    .after(300, s.close('r1.2'), s.open('r1.1'))
    .after(40, s.close('r1.1'))
    .after(300, s.open('r1.1'), s.open('r1.2'), s.close('r1.3'))
    .after(300, s.close('r1.1'))
    .after(300, s.open('r1.1'))
  // a remote: once a press however long it is held, again and again for up, a repeat frame, edges, an unknown frame
  s.after(500, key(1))
    .after(110, key(1, true))
    .after(600, key(6))
    .after(110, key(6, true))
    .after(110, key(6, true))
    .after(110, key(6, true))
    .after(110, key(6, true))
    .after(600, key(5))
    .after(110, { ir: { protocol: 'nec-repeat' } })
  s.after(900, { edges: encodeFrame({ protocol: 'nec', address: 77, command: 3 }, 0) })
    .after(900, { edges: [2400, 600, 300, 300, 900, 900, 300] })
    .after(300, key(7))
  s.after(300, { char: 'A' })
    .after(300, { char: 'B' })
    .after(300, { char: 'B' })
    .after(300, { char: 'b' })
    .after(300, { char: '~' })
  s.after(
    300,
    s.message('bench-lights/set', 'off'),
    s.message('wedging-lamp/set', 'toggle'),
    s.message('clay-dust-fan/set', '3'),
    s.message('clay-dust-fan/set', 'up'),
  )
  // refused: retained, not understood, unknown, out of range
  s.after(
    300,
    s.message('bench-lights/set', 'on', true),
    s.message('bench-lights/set', 'ON'),
    s.message('kettle/set', 'on'),
    s.message('vp/6/set', '9'),
    s.message('vp/99/set', '1'),
    s.message('vp/7/set', '20'),
    s.message('vp/1/set', '1', true),
  )
  s.after(300, { sensor: 'throwing-air', value: 19.5 })
    .after(5000, { sensor: 'throwing-air', value: 19.7 })
    .after(5000, { sensor: 'throwing-air', value: 21 })
    .after(60_000)
  s.outage(4000).after(300, s.message('vp/2/set', '1')).after(3000)
  // the clock: a minute before the radio's evening
  s.after(300, s.message('vp/5/set', '1')).after(300, { clock: '2026-03-02T21:29:30' }).after(40_000)
  s.powerCut(400).after(1500, { link: 'up' })
  return s.end()
}

/** Following a rocker, press and hold, a limit, a rule with hysteresis and dwell, auto mode that yields. */
function glaze(): TraceLine[] {
  const s = new Story('glaze')
  s.after(50, s.close('s6'), s.open('s7'), s.open('s8')).after(500, { link: 'up' })
  s.after(400, s.open('s6'))
    .after(400, s.close('s6'))
    .press('s8', 200)
    .press('s8', 900)
    .press('s8', 300)
    .press('s7')
    .press('s7')
  const humidity = (value: number): Happening => ({ sensor: 'booth-humidity', value })
  s.after(2000, s.message('vp/5/set', '0')).after(500, s.message('vp/5/set', '1'))
  s.after(500, humidity(66))
    .after(5000, humidity(71))
    .after(5000, humidity(60))
    .after(20_000, humidity(64))
    .after(20_000, humidity(61))
    .after(20_000, humidity(61))
    .after(20_000, humidity(61))
    .after(20_000, humidity(61))
    .after(20_000, humidity(61))
  s.after(3000, humidity(75))
    .after(2000, s.message('booth-extractor/set', 'off'))
    .after(5000, humidity(76))
    .after(2000, s.message('vp/5/set', '1'))
    .after(40_000)
  s.after(500, humidity(80)).after(500, s.message('vp/3/set', '1')).after(2_710_000)
  s.outage(6000)
    .after(500, s.message('vp/1/held', '0', true))
    .powerCut(1000)
    .after(500, { link: 'up' })
    .after(4000)
  return s.end()
}

/** A board far out: a rocker, a strike that pulses and is locked out, a rule that works below its value. */
function yard(): TraceLine[] {
  const s = new Story('yard')
  s.after(100, s.open('s9'), s.open('key-switch')).after(31_000, { link: 'up' })
  s.bounce('s9')
    .after(700, s.open('s9'))
    .press('key-switch')
    .press('key-switch')
    .after(5000)
    .press('key-switch')
    .after(4000)
    .press('key-switch')
    .after(6000)
  s.after(500, s.message('vp/2/set', '1'))
    .after(1000, s.message('vp/2/set', '1'))
    .after(9000, s.message('vp/2/set', '0'))
    .after(300, s.message('vp/2/set', '1', true))
  const light = (value: number): Happening => ({ sensor: 'yard-daylight', value })
  s.after(1000, light(80))
    .after(20_000, light(45))
    .after(20_000, light(20))
    .after(25_000, light(70))
    .after(25_000, light(70))
    .after(40_000)
  s.outage(30_000)
    .after(500, s.message('vp/1/held', '1', true))
    .after(7000)
    .press('s9')
    .powerCut(2000)
    .after(32_000, { link: 'up' })
    .after(20_000)
  return s.end()
}

/** Characters and status lines, a fan in steps with a gap, least time off, mode by character. */
function drying(): TraceLine[] {
  const s = new Story('drying')
  s.after(100, s.open('s11'), s.open('s12'), s.open('s13'), s.open('s14'))
  s.after(500, { char: 'A' })
    .after(700, { char: 'a' })
    .after(400, { char: 'C' })
    .after(400, { char: 'C' })
    .after(400, { char: 'C' })
    .after(400, { char: 'C' })
    .after(400, { char: 'c' })
    .after(300, { char: '?' })
  s.bounce('s11').after(500, s.open('s11')).press('s13').press('s14').press('s14')
  // the dehumidifier has just had power: a turn-on waits its three minutes, and asking off cancels it
  s.press('s12').after(2000, { char: 'b' }).after(400, { char: 'B' }).after(181_000)
  s.after(300, { char: 'b' }).after(1000, { char: 'B' }).after(2000, { char: 'e' }).after(500, { char: 'D' })
  s.after(500, { sensor: 'rack-humidity', value: 75 })
    .after(20_000, { sensor: 'rack-humidity', value: 60 })
    .after(45_000)
  s.press('s13').press('s13').powerCut(600).after(2500).press('s13', 900)
  return s.end()
}

/** The drying room's coprocessor: what its main board says, what the network asks. */
function dryingRadio(): TraceLine[] {
  const s = new Story('drying')
  const line = (lights: number, dehumidifier: number, fan: number, damage = 0): Happening => {
    const text = `S rack-lights=${lights} dehumidifier=${dehumidifier} rack-fan=${fan} `
    return {
      line: `${text}*${([...text].reduce((sum, c) => sum ^ c.charCodeAt(0), 0) ^ damage).toString(16).toUpperCase().padStart(2, '0')}`,
    }
  }
  s.after(700, { link: 'up' })
    .after(300, line(0, 0, 0))
    .after(2000, line(1, 0, 0))
    .after(100, line(1, 0, 2))
    .after(2000, line(1, 0, 2, 1))
    .after(2000, line(1, 1, 2))
    .after(500, { line: 'hiss' })
  s.after(300, s.message('rack-lights/set', 'on'), s.message('vp/1/set', '1'))
    .after(7000)
    .after(300, s.message('rack-lights/set', 'off'))
    .after(300, line(0, 1, 2))
  s.outage(3000)
    .after(200, line(0, 0, 3))
    .powerCut(400)
    .after(500, line(0, 0, 3))
    .after(900, { link: 'up' })
  return s.end()
}

/** A feed and its watch, a door with a position contact. */
function window(): TraceLine[] {
  const s = new Story('window')
  const alive: Happening = { msg: { topic: 'vestibule/fernhollow/watch', payload: 'alive', retain: false } }
  s.after(100, s.open('window-switch'), s.open('shutter-button'), s.close('shutter-contact'))
    .after(600, { link: 'up' })
    .after(500, alive)
    .after(4000, alive)
  // detached: the switch only tells the hub
  s.press('window-switch').after(2000, alive)
  // the hub is silent: local after watch and grace, the switch works the relay; a retained heartbeat is none
  s.after(12_000)
    .after(4000)
    .press('window-switch')
    .after(500, { msg: { topic: 'vestibule/fernhollow/watch', payload: 'alive', retain: true } })
    .press('window-switch')
    .press('window-switch')
  // heard again, lost again within the steady time, heard for good
  s.after(1000, alive)
    .after(4000, alive)
    .after(11_000)
    .after(5000, alive)
    .after(5000, alive)
    .after(5000, alive)
    .after(3000)
  // no network: local again
  s.outage(20_000).after(500, alive).after(6000, alive).after(6000, alive)
  s.press('shutter-button')
    .after(800, s.open('shutter-contact'))
    .press('shutter-button')
    .after(400, s.message('shutter-opener/set', 'open'), s.message('shutter-opener/set', 'close'))
    .after(16_000, s.message('shutter-opener/set', 'close'))
    .after(900, s.close('shutter-contact'))
    .after(300, s.message('shutter-opener/set', 'pulse', true))
  s.after(300, s.message('window-spots/set', 'off')).powerCut(500).after(700, { link: 'up' }).after(300_000)
  return s.end()
}

/** Traces by the board's id. */
export const demoTraces = (): Record<string, TraceLine[]> => ({
  throwing: throwing(),
  glaze: glaze(),
  yard: yard(),
  drying: drying(),
  'drying-radio': dryingRadio(),
  window: window(),
})
