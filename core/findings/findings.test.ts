import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { compileController } from '../image'
import { applyOperations, newSwitched, parseSite, type Input, type Site } from '../site'
import { checkSite, fixEdit, acceptEdit, isBlocking, type Finding } from '.'
import { cleanSite } from './cleanSite.testkit'

type Change = (site: Site) => void
const pin = (role: string, label: string): Change => (s) => { s.controllers[0]!.pins[role] = { pin: label, locked: false } }
const both = (...changes: Change[]): Change => (s) => changes.forEach((change) => change(s))
const input = (changes: Partial<Input>): Change => (s) => { Object.assign(s.inputs[0]!, changes) }
const widget = (changes: object): Change => (s) => { Object.assign(s.services[0]!.widgets[0]!, changes) }
const point = (changes: object, index = 0): Change => (s) => { Object.assign(s.services[0]!.points[index]!, changes) }
const channel = (changes: object): Change => (s) => { Object.assign(s.channels[0]!, changes) }
const controller = (changes: object): Change => (s) => { Object.assign(s.controllers[0]!, changes) }
const withoutWays = (kinds: string[]): Change => (s) => { s.ways = s.ways.filter((w) => w.channel !== 'bench-lamp' || !kinds.includes(w.kind)) }
const single = 'single-core-wifi-16'

/** Each finding with a site that has it and the nearest that has not. */
const CASES: { id: string; severity: string; board?: string; has: Change; hasNot: Change; says: RegExp }[] = [
  { id: 'P01', severity: 'error', has: (s) => pin('out:bench-lamp', s.controllers[0]!.pins['out:shelf-lamp']!.pin)(s), hasNot: () => {}, says: /is given to Bench lamp and Shelf lamp/ },
  { id: 'P02', severity: 'error', has: pin('out:bench-lamp', 'D34'), hasNot: pin('out:bench-lamp', 'D33'), says: /GPIO 34 can only be read/ },
  { id: 'P03', severity: 'error', has: pin('out:bench-lamp', 'D12'), hasNot: both(pin('out:bench-lamp', 'D12'), (s) => { s.controllers[0]!.module!.active = 'high'; s.channels.forEach((c) => { c.active = 'high' }) }), says: /GPIO 12 must be low while the board starts; the relay module rests it high/ },
  { id: 'P03', severity: 'error', board: single, has: pin('in:s1', 'D3'), hasNot: pin('in:s1', 'D5'), says: /must be high while the board starts; S1, closed at start, holds it low/ },
  { id: 'P04', severity: 'warning', has: pin('out:bench-lamp', 'D14'), hasNot: pin('out:bench-lamp', 'D5'), says: /GPIO 14 is pulsing for about 60 ms at start/ },
  { id: 'P05', severity: 'error', has: pin('out:bench-lamp', 'TX0'), hasNot: both(pin('out:bench-lamp', 'TX0'), controller({ serialLog: false })), says: /carries the serial log, which is on/ },
  { id: 'P06', severity: 'error', has: pin('out:bench-lamp', 'GPIO6'), hasNot: pin('out:bench-lamp', 'GPIO5'), says: /GPIO 6 belongs to the flash memory/ },
  { id: 'P07', severity: 'error', has: pin('in:s1', 'D34'), hasNot: both(pin('in:s1', 'D34'), input({ pull: 'fitted' })), says: /GPIO 34 has no internal pull-up and none is fitted/ },
  { id: 'P07', severity: 'error', has: input({ pull: 'none' }), hasNot: input({ pull: 'internal' }), says: /has no pull switched on/ },
  { id: 'P08', severity: 'error', has: both(input({ sense: 'analogue', pull: 'fitted' }), pin('in:s1', 'D4')), hasNot: both(input({ sense: 'analogue', pull: 'fitted' }), pin('in:s1', 'D32')), says: /second analogue bank/ },
  { id: 'P09', severity: 'error', board: single, has: addChannels(9), hasNot: addChannels(3), says: /only \d+ can carry them|no free pin/ },
  { id: 'P10', severity: 'danger', has: input({ volts: 5 }), hasNot: input({ volts: 3.3 }), says: /brings 5 V to .* the board stands 3.3 V/ },
  { id: 'P11', severity: 'warning', board: single, has: pin('out:bench-lamp', '4'), hasNot: pin('out:bench-lamp', 'GPIO4'), says: /"4" is read as GPIO 4, printed D2; it could also mean D4, which is GPIO 2/ },
  { id: 'P12', severity: 'error', has: both(input({ sense: 'analogue', pull: 'fitted' }), pin('in:s1', 'D23')), hasNot: both(input({ sense: 'analogue', pull: 'fitted' }), pin('in:s1', 'D35')), says: /does not give an analogue reading/ },
  { id: 'P13', severity: 'error', has: (s) => { delete s.controllers[0]!.pins['in:s1'] }, hasNot: () => {}, says: /1 of 4 roles have no pin yet: S1/ },
  { id: 'P14', severity: 'error', has: pin('out:bench-lamp', 'D99'), hasNot: pin('out:bench-lamp', 'D26'), says: /"D99" is no pin of the/ },
  { id: 'D01', severity: 'danger', has: (s) => { s.controllers[0]!.module!.coilJumper = 'fitted' }, hasNot: (s) => { s.controllers[0]!.module!.coilJumper = 'removed' }, says: /leaves 1.7 V across it, the knee is near 1.6 V: 0.10 mA/ },
  { id: 'D01', severity: 'error', has: (s) => { s.controllers[0]!.module!.coilJumper = 'fitted'; s.loads.forEach((l) => { l.supply = 'low-voltage' }) }, hasNot: (s) => { s.controllers[0]!.module!.active = 'high'; s.controllers[0]!.module!.coilJumper = 'fitted' }, says: /release margin -0.1 V/ },
  { id: 'L04', severity: 'danger', has: (s) => { s.loads[0]!.contact = 'neutral' }, hasNot: (s) => { s.loads[0]!.contact = 'neutral'; s.loads[0]!.supply = 'low-voltage' }, says: /switches the neutral of Bench lamp LED/ },
  { id: 'L06', severity: 'warning', has: (s) => { s.loads[0]!.type = 'heater' }, hasNot: both((s) => { s.loads[0]!.type = 'heater' }, channel({ maxOnMs: 60_000 })), says: /heats with 9 W/ },
  { id: 'M01', severity: 'error', has: point({ vp: 1 }, 1), hasNot: point({ vp: 9 }, 1), says: /vp1 stands for both Bench lamp and Shelf lamp/ },
  { id: 'M02', severity: 'warning', has: point({ max: 100 }), hasNot: point({ max: 100, step: 100 }), says: /0–100 by 1 \(101 positions\), Bench lamp has 2: 99 of 101/ },
  { id: 'M03', severity: 'error', has: widget({ inverted: true }), hasNot: widget({ inverted: false }), says: /inverted in the widget and again in the output driver/ },
  { id: 'M03', severity: 'error', has: channel({ active: 'high' }), hasNot: channel({ active: 'low' }), says: /The module closes on low, Bench lamp is driven to close on high/ },
  { id: 'M03', severity: 'warning', has: both(widget({ inverted: true }), channel({ active: 'high' })), hasNot: () => {}, says: /inverted in the widget, not in the output driver/ },
  { id: 'M04', severity: 'warning', has: widget({ kind: 'push' }), hasNot: widget({ kind: 'value' }), says: /sends 1 while held and 0 when let go/ },
  { id: 'M05', severity: 'warning', has: (s) => { const way = s.ways.find((w) => w.kind === 'app')!; if (way.kind === 'app') way.feedback = 'silent' }, hasNot: () => {}, says: /Bench lamp by app: the controller does not report/ },
  { id: 'M06', severity: 'warning', has: both(point({ default: 1 }), controller({ outage: 'service' })), hasNot: point({ default: 1 }), says: /vp1 has the default 1/ },
  { id: 'M07', severity: 'error', has: point({ access: 'read' }), hasNot: both(point({ access: 'read' }), widget({ kind: 'value' })), says: /its widget writes it, the point is read-only/ },
  { id: 'M11', severity: 'error', has: withoutWays(['wall', 'app', 'hub']), hasNot: withoutWays(['app', 'hub']), says: /Bench lamp has no way in/ },
  { id: 'M12', severity: 'error', has: (s) => { s.hubs[0]!.entities[1]!.topic = 'bench-lamp' }, hasNot: (s) => { s.hubs[0]!.entities[1]!.topic = 'shelf' }, says: /is already the topic of Bench lamp/ },
  { id: 'M12', severity: 'error', has: (s) => { s.hubs[0]!.entities[0]!.topic = 'bench/#' }, hasNot: (s) => { s.hubs[0]!.entities[0]!.topic = 'bench' }, says: /is not of a-z/ },
  { id: 'M12', severity: 'error', has: (s) => { s.hubs[0]!.entities[0]!.topic = 'status' }, hasNot: (s) => { s.hubs[0]!.entities[0]!.topic = 'states' }, says: /word of the topic scheme/ },
  { id: 'W02', severity: 'error', has: (s) => { const way = s.ways.find((w) => w.kind === 'wall')!; if (way.kind === 'wall') way.bindings = [{ gesture: 'flip', action: 'toggle' }] }, hasNot: (s) => { const way = s.ways.find((w) => w.kind === 'wall')!; if (way.kind === 'wall') way.bindings = [{ gesture: 'hold', action: 'off' }] }, says: /S1 is a momentary; it never makes "flip"/ },
  { id: 'B01', severity: 'warning', has: withoutWays(['wall']), hasNot: withoutWays(['app']), says: /worked only by app and hub: 2 of 2 ways need the network/ },
  { id: 'B01', severity: 'error', has: both(withoutWays(['wall']), channel({ essential: true })), hasNot: channel({ essential: true }), says: /2 of 2/ },
  { id: 'B04', severity: 'warning', has: channel({ powerUp: { policy: 'service', waitMs: 15_000, otherwise: null } }), hasNot: channel({ powerUp: { policy: 'service', waitMs: 15_000, otherwise: 'off' } }), says: /waits 15 s for the service, and nothing says what then/ },
  { id: 'B06', severity: 'note', has: controller({ outage: null }), hasNot: controller({ outage: 'service' }), says: /does not say whether the wall or the service wins/ },
]

function addChannels(count: number): Change {
  return (s) => {
    for (let i = 0; i < count; i++) s.channels.push(newSwitched(s, `More ${i}`, s.controllers[0]!))
  }
}

const changed = (board: string | undefined, change: Change): Site => {
  const site = produce(cleanSite(board), (draft) => void change(draft as Site))
  const parsed = parseSite(site)
  if (!parsed.ok) throw parsed.error
  return site
}
const ofId = (findings: readonly Finding[], id: string) => findings.filter((finding) => finding.id === id)

describe('the clean sites have no finding at all', () => {
  it.each(['dual-core-wifi-30', 'single-core-wifi-16'])('%s', (board) => expect(checkSite(cleanSite(board))).toEqual([]))
  it('eight-bit-5v', () => expect(checkSite(cleanSite('eight-bit-5v', { link: 'none' }))).toEqual([]))
})

describe.each(CASES)('$id $severity', ({ id, severity, board, has, hasNot, says }) => {
  it('a site that has it', () => {
    const list = ofId(checkSite(changed(board, has)), id)
    expect(list.length).toBeGreaterThan(0)
    expect(list[0]!.severity).toBe(severity)
    expect(list[0]!.what).toMatch(says)
  })
  it('the nearest site that has not', () => expect(ofId(checkSite(changed(board, hasNot)), id)).toEqual([]))
  it('each fix takes it away and leaves a legal site', () => {
    const site = changed(board, has)
    const finding = ofId(checkSite(site), id)[0]!
    for (const fix of finding.fixes) {
      const edit = fixEdit(site, finding, fix)
      const mended = applyOperations(site, edit.patch)
      expect(edit.patch.length).toBeGreaterThan(0)
      expect(parseSite(mended).ok).toBe(true)
      expect(ofId(checkSite(mended), id).filter((f) => f.what === finding.what)).toEqual([])
    }
  })
})

describe('T04', () => {
  const site = cleanSite()
  it('a board that runs other tables', () => expect(ofId(checkSite(site, { flashed: [{ controller: 'corner', hash: '0123456789ab' }] }), 'T04')[0]).toMatchObject({ severity: 'note' }))
  it('a board that runs these', () => expect(checkSite(site, { flashed: [{ controller: 'corner', hash: compileController(site, 'corner').hash }] })).toEqual([]))
})

describe('accepting', () => {
  const site = changed(undefined, widget({ kind: 'push' }))
  const finding = checkSite(site)[0]!
  const accepted = applyOperations(site, acceptEdit(site, finding, 'a doorbell lamp').patch)
  it('keeps the finding, with its reason', () => expect(checkSite(accepted)[0]).toMatchObject({ id: 'M04', accepted: 'a doorbell lamp' }))
  it('lapses when the facts change', () => {
    const later = produce(accepted, (draft) => { draft.services[0]!.points[0]!.max = 5 })
    expect(ofId(checkSite(later), 'M04')[0]!.accepted).toBeUndefined()
  })
  it('an accepted danger does not block', () => {
    const danger = changed(undefined, input({ volts: 5 }))
    expect(isBlocking(checkSite(danger))).toBe(true)
    expect(isBlocking(checkSite(applyOperations(danger, acceptEdit(danger, checkSite(danger)[0]!, 'a divider is fitted').patch)))).toBe(false)
  })
})
