import type { BoardProfile, PartProfile, Signal } from '../boards'
import { baseDrive, BUS_PULL_OHMS, DIVIDER, LIGHT_DIVIDER_OHMS, lightOhms, ohms, SENSOR_PULL_OHMS } from '../electrics'
import { serialSignalOf } from '../site'
import type { NetClass, Terminal } from './circuit'
import { fiveVolts, partFeed, pinAt, supplyRange, type Feed, type FittedPart, type Growing } from './growing'

/** Sensors, receivers, displays, modems: each with its supply, its signals, and what stands between. */

/** Signals that the board drives. */
const DRIVEN: readonly Signal['need'][] = ['output', 'pwm', 'serial-tx']

export const isDriven = ({ need }: Signal): boolean => DRIVEN.includes(need)

type SignalNet = readonly [string, NetClass]

/** A resistor from a terminal to a rail. */
function resistor(
  growing: Growing,
  value: number,
  net: SignalNet,
  from: Terminal,
  to: 'ground' | Feed,
  note: string,
): void {
  const { build, ground } = growing
  const words = ohms(value)
  const r = build.device('R', 'resistor', words, `resistor ${words}`, { notes: [note] })
  build.wire(net, from, { ref: r, pin: '1' }, 'signal', { note: `${words}, ${note}` })
  if (to === 'ground') build.wire(['GND', 'ground'], ground, { ref: r, pin: '2' }, 'ground')
  else build.wire([to.net, 'supply'], to.at, { ref: r, pin: '2' }, 'logic-supply', { note: `${to.volts} V` })
}

/** The two resistors that bring 5 V down; what comes in at `from` goes out to `to`. */
export function divider(
  growing: Growing,
  net: SignalNet,
  from: Terminal,
  to: Terminal,
  words: { role?: string; note: string },
): void {
  const { build, ground } = growing
  const [series, down] = [ohms(DIVIDER.seriesOhms), ohms(DIVIDER.groundOhms)]
  const r = build.device('R', 'resistor', series, `resistor ${series}`)
  const g = build.device('R', 'resistor', down, `resistor ${down}`)
  const divided: SignalNet = [`${net[0]} divided`, 'signal']
  build.wire(net, from, { ref: r, pin: '1' }, 'signal', {
    note: `5 V side of the divider; ${words.note}`,
    role: words.role ?? null,
  })
  build.wire(divided, { ref: r, pin: '2' }, to, 'signal', { note: '3.2 V side of the divider' })
  build.wire(divided, to, { ref: g, pin: '1' }, 'signal')
  build.wire(['GND', 'ground'], ground, { ref: g, pin: '2' }, 'ground')
}

/** 3.3 V: the board's own logic, or the small 3.3 V pin of a 5 V board. */
const threeVolts = ({ board, logic, u }: Growing): Feed =>
  board.logicVolts === 3.3 ? logic : { at: { ref: u, pin: '3V3' }, volts: 3.3, net: '+3V3' }

/** A level shifter of a part, made when its first signal wants it: LV at 3.3 V, HV at 5 V, whichever the board has. */
function shifterOf(growing: Growing, { part, ref }: FittedPart): string {
  const { build, ground } = growing
  const [low, high] = [threeVolts(growing), fiveVolts(growing)]
  const t = build.device('T', 'level-shifter', `for ${ref}`, 'level shifter, 3.3 V to 5 V', { notes: [part.name] })
  build.wire(['GND', 'ground'], ground, { ref: t, pin: 'GND' }, 'ground')
  build.wire([low.net, 'supply'], low.at, { ref: t, pin: 'LV' }, 'logic-supply', { note: '3.3 V' })
  build.wire([high.net, 'supply'], high.at, { ref: t, pin: 'HV' }, 'coil-supply', { note: '5 V' })
  return t
}

/** What drives a part that draws more than a pin gives: low side, with a diode since a sounder kicks back. */
function onTransistor(growing: Growing, fitted: FittedPart, signal: Signal, milliamps: number): void {
  const { build, ground, board } = growing
  const { ref, part } = fitted
  const feed = fiveVolts(growing)
  const base = ohms(baseDrive(feed.volts, feed.volts / (milliamps / 1000), board.logicVolts).baseOhms)
  const role = `part:${part.id}:${signal.id}`
  const r = build.device('R', 'resistor', base, `resistor ${base}`)
  const q = build.device('Q', 'transistor', `drives ${ref}`, 'NPN transistor, 500 mA or more')
  const v = build.device('V', 'diode', `across ${ref}`, 'diode, 1 A, 100 V or more')
  const low = { ref, pin: '−' }
  build.wire([`${part.id} ${signal.id}`, 'signal'], pinAt(growing, role), { ref: r, pin: '1' }, 'signal', { role })
  build.wire([`base ${q}`, 'signal'], { ref: r, pin: '2' }, { ref: q, pin: 'B' }, 'signal')
  build.wire(['GND', 'ground'], ground, { ref: q, pin: 'E' }, 'ground')
  build.wire([`low side of ${ref}`, 'signal'], { ref: q, pin: 'C' }, low, 'signal')
  build.wire([feed.net, 'supply'], feed.at, { ref, pin: '+' }, 'coil-supply')
  build.wire([`low side of ${ref}`, 'signal'], low, { ref: v, pin: 'A' }, 'signal')
  build.wire([feed.net, 'supply'], { ref, pin: '+' }, { ref: v, pin: 'K' }, 'coil-supply', {
    note: 'the ring towards the supply',
  })
}

/** A part without a supply wire: a contact to ground, a lamp or a sounder on its pin. */
function bareSignal(growing: Growing, fitted: FittedPart, signal: Signal): void {
  const { build, ground, board } = growing
  const { ref, part, profile } = fitted
  const role = `part:${part.id}:${signal.id}`
  const net: SignalNet = [`${part.id} ${signal.id}`, 'signal']
  if (!isDriven(signal)) {
    build.wire(net, pinAt(growing, role), { ref, pin: '1' }, 'signal', { note: 'the board’s own pull-up', role })
    build.wire(['GND', 'ground'], ground, { ref, pin: '2' }, 'ground', { note: 'a contact: no supply wire' })
    return
  }
  const milliamps = profile.pinMilliamps ?? profile.draw.peak
  if (part.fitted?.includes('transistor')) return onTransistor(growing, fitted, signal, milliamps)
  build.wire(['GND', 'ground'], ground, { ref, pin: '−' }, 'ground')
  if (signal.need !== 'output') {
    build.wire(net, pinAt(growing, role), { ref, pin: '+' }, 'signal', { role })
    return
  }
  const words = ohms(lightOhms(board.logicVolts, milliamps))
  const r = build.device('R', 'resistor', words, `resistor ${words}`)
  build.wire(net, pinAt(growing, role), { ref: r, pin: '1' }, 'signal', { role })
  build.wire([`${part.id} light`, 'signal'], { ref: r, pin: '2' }, { ref, pin: '+' }, 'signal', { note: 'long leg' })
}

/**
 * Whether a signal must be brought down or up between board and part; one that is fed at the board's volts has them.
 */
export function levelStep({ logicVolts }: BoardProfile, profile: PartProfile, signal: Signal): 'down' | 'up' | null {
  if (profile.rail === 'none') return null
  const { least, most } = supplyRange(profile)
  if (profile.rail === 'logic' && least <= logicVolts && logicVolts <= most) return null
  if (signal.volts === logicVolts || signal.need === 'analogue' || signal.need.startsWith('i2c')) return null
  // the side that drives decides: down where it stands higher
  return isDriven(signal) === logicVolts > signal.volts ? 'down' : 'up'
}

/** A signal of a part that has a supply. */
function fedSignal(growing: Growing, fitted: FittedPart, signal: Signal, shifter: () => string): void {
  const { build, board } = growing
  const { ref, part, profile } = fitted
  const role = `part:${part.id}:${signal.id}`
  const bus = signal.need.startsWith('i2c')
  const net: SignalNet = [bus ? signal.need : `${part.id} ${signal.id}`, 'signal']
  const pin = pinAt(growing, role)
  const end = { ref, pin: signal.id }
  const note = signal.need.startsWith('serial') ? 'crossed: what sends goes to what receives' : ''
  const step = levelStep(board, profile, signal)
  if (step === 'down' && part.fitted?.includes('divider')) {
    if (isDriven(signal)) divider(growing, net, pin, end, { role, note })
    else divider(growing, [`${part.id} ${signal.id} at 5 V`, 'signal'], end, pin, { role, note })
    return
  }
  if (step !== null && part.fitted?.includes('level-shifter')) {
    const t = shifter()
    const [ours, theirs] = board.logicVolts === 5 ? ['HV', 'LV'] : ['LV', 'HV']
    build.wire(net, pin, { ref: t, pin: `${ours} ${signal.id}` }, 'signal', { role, note })
    build.wire([`${net[0]} shifted`, 'signal'], { ref: t, pin: `${theirs} ${signal.id}` }, end, 'signal')
    return
  }
  build.wire(net, pin, end, 'signal', { note, role })
  if (signal.need === 'analogue') resistor(growing, LIGHT_DIVIDER_OHMS, net, end, 'ground', 'lower half of the divider')
  if (signal.need === 'input-pull-up' && profile.pullOhms === undefined)
    resistor(
      growing,
      SENSOR_PULL_OHMS,
      net,
      end,
      partFeed(growing, profile)!,
      'left out where the part’s own board has one',
    )
}

export function wirePart(growing: Growing, fitted: FittedPart): void {
  const { build, ground } = growing
  const { ref, part, profile } = fitted
  build.under(`${ref} ${part.name}`)
  const feed = partFeed(growing, profile)
  if (feed === null) {
    for (const signal of profile.signals) bareSignal(growing, fitted, signal)
    return
  }
  build.wire(['GND', 'ground'], ground, { ref, pin: 'GND' }, 'ground', {
    note: profile.rail === 'own' ? 'common ground with the board' : '',
  })
  build.wire(
    [feed.net, 'supply'],
    feed.at,
    { ref, pin: 'supply' },
    feed.volts <= 3.3 ? 'logic-supply' : 'coil-supply',
    { note: `${feed.volts} V` },
  )
  let t: string | null = null
  const shifter = () => (t ??= shifterOf(growing, fitted))
  for (const signal of profile.signals) fedSignal(growing, fitted, signal, shifter)
}

/** Pull-ups of a two-wire bus, once for all parts on it, unless one of them brings its own. */
export function wireBus(growing: Growing): void {
  const { build, parts } = growing
  const onBus = parts.filter(({ profile }) => profile.signals.some(({ need }) => need === 'i2c-sda'))
  if (onBus.length === 0 || onBus.some(({ profile }) => profile.pullOhms !== undefined)) return
  build.under('Two-wire bus')
  const { ref, profile } = onBus[0]!
  // the bus stands at the volts of its weakest part; what is higher counts them as high all the same
  const rail = onBus
    .flatMap((one) => partFeed(growing, one.profile) ?? [])
    .reduce((a, b) => (b.volts < a.volts ? b : a))
  for (const { id, need } of profile.signals)
    if (need.startsWith('i2c'))
      resistor(
        growing,
        BUS_PULL_OHMS,
        [need, 'signal'],
        { ref, pin: id },
        rail,
        'left out where a part’s own board has them',
      )
}

/** Whether a part carries the serial line of a pair: then it is the coprocessor, which has rows of its own. */
export const isLineOf = ({ site, controller }: Growing, part: string): boolean =>
  serialSignalOf(site, controller, 'serial-tx')?.part.id === part
