import { boardIn, gpioSpots, pinName, type BoardProfile } from '../boards'
import { serialSignalOf, type Controller } from '../site'
import type { Terminal } from './circuit'
import { fiveVolts, pinAt, type Feed, type Growing } from './growing'
import { divider } from './partWires'
import { supplyPin } from './supplyWires'

/** The coprocessor of a pair: its own supply, what keeps it awake, and the serial line, crossed. */

const PULL = '10 kΩ'
/** Pins that must be high for a bare radio module to run (memory of the chip maker's data sheet). */
const HIGH_TO_RUN = ['EN', 'RST', 'IO0', 'IO2']

/** The serial line of a coprocessor, at its own pins: the first pair of its board. */
export function coprocessorLine(board: BoardProfile): { readonly sends: string; readonly hears: string } {
  const pair = board.pairs === 'matrix' ? undefined : board.pairs.find(({ kind }) => kind === 'serial')
  const name = (gpio: number) => {
    const spot = gpioSpots(board).find((one) => one.gpio === gpio)
    return spot ? pinName(spot) : `GPIO ${gpio}`
  }
  return { sends: name(pair?.first ?? 1), hears: name(pair?.second ?? 3) }
}

/** Its feed: a bare 3.3 V module gets a regulator of its own, since no pin of the main board gives what it draws. */
function feedFor(growing: Growing, board: BoardProfile): Feed {
  const { build, ground } = growing
  const five = fiveVolts(growing)
  if (board.regulator.kind !== 'none') return five
  const words = 'Regulator to 3.3 V, 500 mA or more'
  const g = build.device('G', 'supply', words, words)
  const c = build.device('C', 'capacitor', '100 µF', 'capacitor 100 µF, 6.3 V or more', {
    notes: ['at the module’s pins'],
  })
  const out = { ref: g, pin: 'out' }
  build.wire([five.net, 'supply'], five.at, { ref: g, pin: 'in' }, 'coil-supply', { note: `${five.volts} V` })
  build.wire(['GND', 'ground'], ground, { ref: g, pin: '−' }, 'ground')
  build.wire(['+3V3 radio', 'supply'], out, { ref: c, pin: '+' }, 'logic-supply')
  build.wire(['GND', 'ground'], ground, { ref: c, pin: '−' }, 'ground')
  return { at: out, volts: 3.3, net: '+3V3 radio' }
}

function keepAwake({ build }: Growing, u: string, feed: Feed, board: BoardProfile): void {
  const spots = [...board.left, ...board.right]
  for (const label of HIGH_TO_RUN) {
    const spot = spots.find((one) => one.label === label)
    if (!spot) continue
    const r = build.device('R', 'resistor', PULL, `resistor ${PULL}`)
    const pin = spot.kind === 'gpio' ? pinName(spot) : label
    build.wire([`${u} ${label}`, 'signal'], { ref: u, pin }, { ref: r, pin: '1' }, 'signal', { note: 'high to run' })
    build.wire([feed.net, 'supply'], feed.at, { ref: r, pin: '2' }, 'logic-supply')
  }
}

/** The serial line, crossed; what a 5 V board sends goes through a divider. */
function wireLine(growing: Growing, u: string, other: BoardProfile): void {
  const { site, controller, build, board } = growing
  const sends = serialSignalOf(site, controller, 'serial-tx')
  const hears = serialSignalOf(site, controller, 'serial-rx')
  const pins = coprocessorLine(other)
  const crossed = 'crossed: what sends goes to what receives'
  const to: Terminal = { ref: u, pin: pins.hears }
  if (sends) {
    const from = pinAt(growing, sends.id)
    const words = { role: sends.id, note: crossed }
    if (board.logicVolts > other.logicVolts) divider(growing, ['line to the coprocessor', 'signal'], from, to, words)
    else build.wire(['line to the coprocessor', 'signal'], from, to, 'signal', words)
  }
  if (!hears) return
  const words = { role: hears.id, note: `${crossed}; ${other.logicVolts} V is high enough` }
  const from = pinAt(growing, hears.id)
  build.wire(['line from the coprocessor', 'signal'], from, { ref: u, pin: pins.sends }, 'signal', words)
}

/** Wires the coprocessor; gives the heading under which it stands. */
export function wirePair(growing: Growing, coprocessor: Controller): string | null {
  const { site, controller, build, ground } = growing
  const other = boardIn(site, coprocessor.board)
  if (!other) return null
  const u = build.device('U', 'board', coprocessor.name, other.name, { notes: [`coprocessor of ${controller.name}`] })
  const heading = `${u} ${coprocessor.name}, coprocessor`
  build.under(heading)
  const feed = feedFor(growing, other)
  const bare = other.regulator.kind === 'none'
  build.wire(['GND', 'ground'], ground, { ref: u, pin: 'GND' }, 'ground', { note: 'common ground' })
  const pin = { ref: u, pin: supplyPin(other, feed.volts) }
  const note = `${feed.volts} V${bare ? ', never 5 V' : ''}`
  build.wire([feed.net, 'supply'], feed.at, pin, bare ? 'logic-supply' : 'coil-supply', { note })
  if (bare) keepAwake(growing, u, feed, other)
  wireLine(growing, u, other)
  return heading
}
