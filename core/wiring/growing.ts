import { moduleIn, pinName, type BoardProfile, type PartProfile } from '../boards'
import { isExpanderPin, readPinOn } from '../pins'
import type { Controller, Part, Site } from '../site'
import type { CircuitBuilder, Terminal } from './circuit'

/** A rail that feeds something: where it is taken from, and its volts. */
export interface Feed {
  readonly at: Terminal
  readonly volts: number
  readonly net: string
}

export interface FittedPart {
  readonly part: Part
  readonly profile: PartProfile
  readonly ref: string
}

/** What is known of a controller while its circuit grows. */
export interface Growing {
  readonly site: Site
  readonly controller: Controller
  readonly board: BoardProfile
  readonly build: CircuitBuilder
  /** the board's reference */
  readonly u: string
  readonly parts: readonly FittedPart[]
  readonly ground: Terminal
  readonly logic: Feed
  readonly feeds: Readonly<Record<'source' | 'board' | 'coils' | 'own', Feed>>
}

/** The terminal of a role: a pin of the board, or of the expander that stands for it. */
export function pinAt({ site, controller, u, parts }: Growing, role: string): Terminal {
  const choice = controller.pins[role]
  const reading = choice && readPinOn(site, controller, choice.pin)
  if (reading?.kind !== 'spot') return { ref: u, pin: `no pin yet for ${role}` }
  const { spot } = reading
  if (!isExpanderPin(spot)) return { ref: u, pin: pinName(spot) }
  const [partId, index] = spot.label.split('.')
  const expander = parts.find(({ part }) => part.id === partId)
  return expander ? { ref: expander.ref, pin: `P${index}` } : { ref: u, pin: spot.label }
}

/** A part's supply range, V; of one whose profile does not say, what usual parts of its signals stand. */
export function supplyRange({ supplyVolts, signals, rail }: PartProfile): { least: number; most: number } {
  if (supplyVolts) return supplyVolts
  return rail === '5V' || signals.some(({ volts }) => volts === 5) ? { least: 4.5, most: 5.5 } : { least: 3, most: 3.6 }
}

/** The rail that a part hangs on; null: it has no supply wire. */
export function partFeed(growing: Growing, profile: PartProfile): Feed | null {
  const { logic, feeds, board, u } = growing
  if (profile.rail === 'none') return null
  if (profile.rail === 'own') return feeds.own
  if (profile.rail === '5V') return fiveVolts(growing)
  // a 3.3 V part beside a board of 5 V hangs on the board's 3.3 V pin
  if (logic.volts > supplyRange(profile).most && board.lowRailMilliamps !== undefined)
    return { at: { ref: u, pin: '3V3' }, volts: 3.3, net: '+3V3' }
  return logic
}

/** 5 V for parts: the board's feed, or the board's own 5 V pin where it is fed at more. */
export const fiveVolts = ({ feeds, logic, u }: Growing): Feed =>
  feeds.board.volts <= 5.5 || logic.volts !== 5 ? feeds.board : { at: { ref: u, pin: '5V' }, volts: 5, net: '+5V' }

export const profileOf = (site: Site, part: Part): PartProfile | undefined => moduleIn(site, 'part', part.profile)
