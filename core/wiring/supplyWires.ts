import { moduleIn, type BoardProfile, type SupplyProfile } from '../boards'
import type { Controller, Site, SupplyPlan } from '../site'
import type { CircuitBuilder, Terminal } from './circuit'
import type { Feed, Growing } from './growing'
import { profileOf } from './growing'

/** Where current comes from, and how it reaches the board, the coils and what has a feed of its own. */

const NOT_NAMED = 'supply, not entered yet'

/**
 * The board's pin for a supply of these volts: 5 V pins take 5 V, an 8-bit board's VIN more, a bare module its 3.3 V.
 */
export function supplyPin(board: BoardProfile, volts: number): string {
  const labels = [...board.left, ...board.right].flatMap((spot) =>
    spot.kind === 'power' && spot.volts !== null && spot.volts > 0 ? [{ label: spot.label, volts: spot.volts }] : [],
  )
  const has = (label: string) => labels.some((one) => one.label === label)
  if (volts > 5.5 && has('VIN')) return 'VIN'
  const order = board.logicVolts === 5 ? ['5V', 'VIN'] : ['VSYS', 'VIN', '5V', '3V3']
  return order.find(has) ?? labels.at(0)?.label ?? 'supply'
}

const logicPin = (board: BoardProfile): string => (board.logicVolts === 5 ? '5V' : '3V3')

/** The supply with its terminals; a controller without a named one still has one, which the list says. */
function sourceOf(build: CircuitBuilder, source: SupplyProfile | undefined): Feed & { readonly minus: Terminal } {
  const name = source?.name ?? NOT_NAMED
  const notes = source ? [] : ['enter it on the bench: it is not checked']
  const ref = build.device('G', 'supply', name, name, { notes })
  const volts = source?.volts ?? 5
  return { at: { ref, pin: '+' }, minus: { ref, pin: '−' }, volts, net: `+${volts}V source` }
}

type Key = 'board' | 'coils' | 'own'

/** A feed behind its converter; without one it is the source's own rail. */
function feedOf(
  site: Site,
  build: CircuitBuilder,
  source: ReturnType<typeof sourceOf>,
  key: Key,
  id: string | null,
): Feed {
  const converter = id === null ? undefined : moduleIn(site, 'supply', id)
  if (!converter) return source
  const ref = build.device('G', 'supply', converter.name, converter.name)
  build.wire([source.net, 'supply'], source.at, { ref, pin: 'in' }, 'coil-supply', { note: `${source.volts} V` })
  build.wire(['GND', 'ground'], source.minus, { ref, pin: '−' }, 'ground')
  return { at: { ref, pin: 'out' }, volts: converter.volts, net: `+${converter.volts}V ${key}` }
}

const hasOwnFeed = (site: Site, controller: Controller): boolean =>
  controller.parts.some((part) => profileOf(site, part)?.rail === 'own')

/** The reservoir at the parts that draw in bursts (finding S03). */
function reservoir(build: CircuitBuilder, plan: SupplyPlan | null, own: Feed, ground: Terminal): void {
  if (!plan || plan.reservoirMicrofarads === 0) return
  const words = `${plan.reservoirMicrofarads} µF, low ESR, 10 V or more`
  const c = build.device('C', 'capacitor', words, `capacitor ${words}`, {
    notes: ['at the modem’s pins; mind its polarity'],
  })
  build.wire([own.net, 'supply'], own.at, { ref: c, pin: '+' }, 'coil-supply', { note: 'short and thick' })
  build.wire(['GND', 'ground'], ground, { ref: c, pin: '−' }, 'ground')
}

type Supplied = Pick<Growing, 'feeds' | 'logic' | 'ground'>

/** Wires the supply, and gives the rails that the rest hangs on. */
export function wireSupply(
  site: Site,
  controller: Controller,
  board: BoardProfile,
  build: CircuitBuilder,
  u: string,
): Supplied {
  build.under('Supply')
  const plan = controller.supply
  const ground: Terminal = { ref: u, pin: 'GND' }
  const source = sourceOf(build, plan ? moduleIn(site, 'supply', plan.source) : undefined)
  build.wire(['GND', 'ground'], source.minus, ground, 'ground', { note: 'common ground' })
  const ofBoard = feedOf(site, build, source, 'board', plan?.board ?? null)
  const pin = supplyPin(board, ofBoard.volts)
  build.wire([ofBoard.net, 'supply'], ofBoard.at, { ref: u, pin }, 'coil-supply', {
    note: `${ofBoard.volts} V to the board`,
  })
  const logicAt: Terminal = { ref: u, pin: logicPin(board) }
  const logic: Feed = {
    at: logicAt,
    volts: board.logicVolts,
    net: build.netOf(logicAt) ?? (board.logicVolts === 5 ? '+5V' : '+3V3'),
  }
  const coils = plan?.coilsFromLogic
    ? logic
    : feedOf(site, build, source, 'coils', controller.module ? (plan?.coils ?? null) : null)
  const needsOwn = hasOwnFeed(site, controller)
  const own = feedOf(site, build, source, 'own', needsOwn ? (plan?.own ?? null) : null)
  if (needsOwn) reservoir(build, plan, own, ground)
  return { ground, logic, feeds: { source, board: ofBoard, coils, own } }
}
