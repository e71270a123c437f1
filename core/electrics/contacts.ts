import { loadOf, type Channel, type Load, type RelayModule, type Site } from '../site'
import { figure, type Calculation } from './calculation'

/**
 * What a load does to a contact. Utilisation categories: IEC 60947-4-1 (AC-1 resistive, AC-3 motors, AC-5a discharge
 * lamps, AC-5b incandescent); inrush multiples are common practice.
 */
export const LOAD_KINDS: Record<
  Load['type'],
  { category: string; inrush: number; powerFactor: number; inductive: boolean; derate: number }
> = {
  incandescent: { category: 'AC-5b', inrush: 15, powerFactor: 1, inductive: false, derate: 1 },
  motor: { category: 'AC-3', inrush: 8, powerFactor: 0.8, inductive: true, derate: 0.3 },
  heater: { category: 'AC-1', inrush: 1.5, powerFactor: 1, inductive: false, derate: 1 },
  led: { category: 'AC-5a', inrush: 100, powerFactor: 0.9, inductive: false, derate: 1 },
  electronic: { category: 'AC-5a', inrush: 100, powerFactor: 0.6, inductive: false, derate: 1 },
  unknown: { category: 'unknown', inrush: 100, powerFactor: 0.6, inductive: true, derate: 0.3 },
}

/**
 * A contact closes on a capacitor's inrush of under a millisecond without welding up to this multiple of its print
 * (common practice).
 */
export const SHORT_INRUSH_MULTIPLE = 8
/** Above this multiple the longer inrush of filaments and motors welds it. */
export const LONG_INRUSH_MULTIPLE = 3

export interface ContactVerdict {
  readonly channel: string
  readonly amps: number
  readonly inrushAmps: number
  readonly category: string
  /** what the contact may carry for this category */
  readonly mayAmps: number
  /** share of that, with the 80 % rule for continuous loads */
  readonly used: number
  readonly inrushFits: boolean
  /** relay, or a contactor between */
  readonly advice: 'contact' | 'contactor'
  readonly suppression: Snubber | null
  readonly calculations: readonly Calculation[]
}

export interface Snubber {
  readonly ohms: number
  readonly nanofarads: number
  readonly words: string
}

/** Starting values across the contact: 100 Ω and 100 nF X2 to 1 A, 47 Ω and 220 nF above (common practice). */
export const snubberFor = (amps: number): Snubber =>
  amps <= 1
    ? { ohms: 100, nanofarads: 100, words: '100 Ω with 100 nF, X2, across the contact' }
    : { ohms: 47, nanofarads: 220, words: '47 Ω with 220 nF, X2, across the contact' }

/** Amperes of a load: P / (U · power factor). Low-voltage loads are taken at 12 V DC. */
export function loadAmps(site: Site, load: Load): number {
  const volts = load.supply === 'mains' ? site.mains.volts : 12
  const { powerFactor } = LOAD_KINDS[load.type]
  return load.watts / (volts * (load.supply === 'mains' ? powerFactor : 1))
}

/** An inrush of a hundred times, as capacitors draw it, is over before a contact has stopped bouncing. */
const isShort = (kind: { readonly inrush: number }): boolean => kind.inrush === 100

/** A channel's contact against its load; undefined where one of them is not known. */
export function contactVerdict(site: Site, channel: Channel, module: RelayModule | null): ContactVerdict | undefined {
  const load = loadOf(site, channel.load)
  if (!load || !module) return undefined
  const kind = LOAD_KINDS[load.type]
  const amps = loadAmps(site, load)
  const inrushAmps = amps * kind.inrush
  // A printed rating is for resistive loads; motors get a third of it (common practice, AC-3 against AC-1).
  const mayAmps = module.contactAmps * kind.derate
  // NEC 210.20(A), published: a load of three hours or more counts at 125 %, so 80 % of the rating is left.
  const counted = load.continuous ? amps * 1.25 : amps
  const used = counted / mayAmps
  const inrushFits = inrushAmps <= module.contactAmps * (isShort(kind) ? SHORT_INRUSH_MULTIPLE : LONG_INRUSH_MULTIPLE)
  return {
    channel: channel.id,
    amps,
    inrushAmps,
    category: kind.category,
    mayAmps,
    used,
    inrushFits,
    advice: used > 1 || !inrushFits ? 'contactor' : 'contact',
    suppression: kind.inductive ? (load.supply === 'mains' ? snubberFor(amps) : null) : null,
    calculations: contactCalculations(site, load, { amps, inrushAmps, mayAmps, used }),
  }
}

/** The sums behind a verdict, as they stand on the sheet. */
function contactCalculations(
  site: Site,
  load: Load,
  { amps, inrushAmps, mayAmps, used }: Pick<ContactVerdict, 'amps' | 'inrushAmps' | 'mayAmps' | 'used'>,
): Calculation[] {
  const kind = LOAD_KINDS[load.type]
  const volts = load.supply === 'mains' ? site.mains.volts : 12
  const counted = load.continuous ? `1.25 · ${figure(amps)}` : figure(amps)
  return [
    {
      name: 'current',
      value: amps,
      unit: 'A',
      formula:
        `I = P / (U · λ) = ${load.watts} W / (${volts} V · ` +
        `${load.supply === 'mains' ? kind.powerFactor : 1}) = ${figure(amps)} A`,
      source: 'power; power factor common practice',
    },
    {
      name: 'inrush',
      value: inrushAmps,
      unit: 'A',
      formula: `${kind.inrush} · ${figure(amps)} A = ${figure(inrushAmps)} A${isShort(kind) ? ', under a millisecond' : ''}`,
      source: 'common practice',
    },
    {
      name: 'contact',
      value: used * 100,
      unit: '%',
      formula:
        `${counted} A of ${figure(mayAmps)} A ` +
        `(${kind.category}${kind.derate < 1 ? `, ${kind.derate} of the print` : ''}) = ${figure(used * 100)} %`,
      source: load.continuous
        ? 'NEC 210.20(A), published; categories IEC 60947-4-1'
        : 'categories IEC 60947-4-1; derating common practice',
    },
  ]
}
