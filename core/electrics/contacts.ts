import { boardIn, moduleIn, type ContactorProfile } from '../boards'
import { controllerOf, loadOf, type Channel, type Controller, type Load, type Site } from '../site'
import { figure, inSentence, type Calculation } from './calculation'

/**
 * What a load does to a contact. Utilisation categories: IEC 60947-4-1 (AC-1 resistive, AC-3 motors, AC-5a discharge
 * lamps, AC-5b incandescent), IEC 60947-5-1 (AC-15, DC-13: coils); inrush multiples are common practice.
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
  coil: { category: 'AC-15, DC-13', inrush: 10, powerFactor: 0.4, inductive: true, derate: 0.3 },
  unknown: { category: 'unknown', inrush: 100, powerFactor: 0.6, inductive: true, derate: 0.3 },
}

/**
 * A contact closes on a capacitor's inrush of under a millisecond without welding up to this multiple of its print
 * (common practice).
 */
export const SHORT_INRUSH_MULTIPLE = 8
/** Above this multiple the longer inrush of filaments and motors welds it. */
export const LONG_INRUSH_MULTIPLE = 3
/** Behind a low-voltage supply nothing draws more than its supply gives, motors apart (common practice). */
const LOW_VOLTAGE_INRUSH = 3
/**
 * V up to which the usual contact breaks its printed current at DC; above, an arc stands (memory of relay data
 * sheets).
 */
export const DC_ARC_VOLTS = 30
/** What is left of the print above it. */
const DC_ARC_DERATE = 0.1

/** What a contact is printed with. */
export interface ContactRating {
  readonly amps: number
  readonly volts: number
}

/** The contacts of a controller: those of its box, or of the module that it drives; null: nobody has said. */
export function contactRatingOf(site: Site, { board, module }: Controller): ContactRating | null {
  const boxed = boardIn(site, board)?.boxed
  if (boxed) return boxed.contact ?? null
  return module ? { amps: module.contactAmps, volts: module.contactVolts } : null
}

/** What hangs on a relay's contact: the load itself, or the coil of the contactor before it. */
interface Hanging {
  readonly words: string
  readonly amps: number
  readonly inrushAmps: number
  readonly category: string
  readonly derate: number
  readonly short: boolean
  readonly continuous: boolean
  readonly calculations: readonly Calculation[]
}

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
  /** volts across the open contact, and what it is printed for */
  readonly volts: number
  readonly mayVolts: number
  /** relay, or a contactor between */
  readonly advice: 'contact' | 'contactor'
  readonly suppression: Suppression | null
  /** the contactor between, judged by the load; null: none */
  readonly contactor: ContactorVerdict | null
  readonly calculations: readonly Calculation[]
}

export interface ContactorVerdict {
  readonly name: string
  readonly amps: number
  readonly mayAmps: number
  readonly used: number
}

export interface Snubber {
  readonly ohms: number
  readonly nanofarads: number
  /** what it is, without where it goes */
  readonly type: string
  readonly words: string
}

/** What quenches an inductive load: an RC where the current alternates, a diode where it does not. */
export interface Suppression {
  readonly kind: 'snubber' | 'diode'
  readonly words: string
}

const SMALL_RC = '100 Ω with 100 nF, X2'
const LARGE_RC = '47 Ω with 220 nF, X2'
/** Starting values across the contact: 100 Ω and 100 nF X2 to 1 A, 47 Ω and 220 nF above (common practice). */
export const snubberFor = (amps: number): Snubber =>
  amps <= 1
    ? { ohms: 100, nanofarads: 100, type: SMALL_RC, words: `${SMALL_RC}, across the contact` }
    : { ohms: 47, nanofarads: 220, type: LARGE_RC, words: `${LARGE_RC}, across the contact` }
/** Across the coil of a contactor (common practice). */
export const COIL_SNUBBER: Snubber = {
  ohms: 100,
  nanofarads: 100,
  type: SMALL_RC,
  words: `${SMALL_RC}, across the coil`,
}

/** mA that an RC across an open contact lets pass: I = 2π·f·C·U; its resistor counts for nothing at that. V, Hz. */
export const snubberLeak = ({ nanofarads }: Snubber, volts: number, hertz: number): number =>
  2 * Math.PI * hertz * nanofarads * 1e-9 * volts * 1000

/** mA at 5 V that a silver contact of 10 A wants to stay clean (common practice; data sheets state a least load). */
export const SILVER_MILLIAMPS = 100

/** Volts between two lines: twice those to neutral of a split phase; of three phases as IEC 60038 names them. */
const LINE_TO_LINE = { 120: { one: 120, split: 240, three: 208 }, 230: { one: 230, split: 460, three: 400 } } as const
export const betweenLines = ({ mains: { volts, phases } }: Site): number => LINE_TO_LINE[volts][phases]

/** Volts of a load's circuit; 0 for a button input, which brings its own few. */
export function loadVolts(site: Site, { supply, volts, acrossLines }: Load): number {
  if (supply !== 'mains') return supply === 'low-voltage' ? volts : 0
  return acrossLines ? betweenLines(site) : site.mains.volts
}

const alternates = ({ supply, current }: Load): boolean => supply === 'mains' || current === 'ac'

/** Amperes of a load: P / (U · power factor), the factor 1 at direct current; 0 of a button input. */
export function loadAmps(site: Site, load: Load): number {
  const volts = loadVolts(site, load)
  return volts === 0 ? 0 : load.watts / (volts * (alternates(load) ? LOAD_KINDS[load.type].powerFactor : 1))
}

/** A strike is a coil, however its load was named. */
const isStrike = (channel: Channel): boolean =>
  channel.kind === 'pulsed' && channel.door !== null && channel.door.lock !== 'none'

/** What the load needs so that its switching off does not arc; null: nothing. */
export function suppressionFor(site: Site, channel: Channel, load: Load): Suppression | null {
  if (load.supply === 'dry') return null
  if (load.contactor !== null)
    return alternates(load)
      ? { kind: 'snubber', words: COIL_SNUBBER.words }
      : { kind: 'diode', words: 'a diode across the coil' }
  if (!LOAD_KINDS[load.type].inductive && !isStrike(channel)) return null
  if (alternates(load)) return { kind: 'snubber', words: snubberFor(loadAmps(site, load)).words }
  return { kind: 'diode', words: 'a diode across it, its ring towards +' }
}

function inrushOf(load: Load): number {
  const { inrush } = LOAD_KINDS[load.type]
  if (load.supply === 'mains' || load.type === 'motor') return inrush
  return load.type === 'coil' && !alternates(load) ? 1 : Math.min(inrush, LOW_VOLTAGE_INRUSH)
}

/** The load on the contact. */
function hangingLoad(site: Site, channel: Channel, load: Load): Hanging {
  const kind = LOAD_KINDS[load.type]
  const amps = loadAmps(site, load)
  const volts = loadVolts(site, load)
  const multiple = inrushOf(load)
  const arcs = !alternates(load) && volts > DC_ARC_VOLTS
  const short = multiple === 100
  const factor = alternates(load) ? kind.powerFactor : 1
  return {
    words: load.name,
    amps,
    inrushAmps: amps * multiple,
    category: kind.category,
    // A printed rating is for resistive loads; motors get a third of it (common practice, AC-3 against AC-1).
    derate:
      (isStrike(channel) ? Math.min(kind.derate, LOAD_KINDS.coil.derate) : kind.derate) * (arcs ? DC_ARC_DERATE : 1),
    short,
    continuous: load.continuous,
    calculations: [
      {
        name: 'current',
        value: amps,
        unit: 'A',
        formula: `I = P / (U · λ) = ${load.watts} W / (${volts} V · ${factor}) = ${figure(amps)} A`,
        source: 'power; power factor common practice',
      },
      {
        name: 'inrush',
        value: amps * multiple,
        unit: 'A',
        formula: `${multiple} · ${figure(amps)} A = ${figure(amps * multiple)} A${short ? ', under a millisecond' : ''}`,
        source: 'common practice',
      },
    ],
  }
}

/** A contactor's coil on the contact, AC-15: it draws more while it pulls in. */
function hangingCoil(site: Site, load: Load, { name, coil }: ContactorProfile): Hanging {
  const volts = loadVolts(site, load)
  const amps = coil.hold / volts
  const inrushAmps = coil.pullIn / volts
  const line = (what: string, va: number, value: number): Calculation => ({
    name: what,
    value,
    unit: 'A',
    formula: `I = S / U = ${va} VA / ${volts} V = ${figure(value)} A`,
    source: 'power; coil figures memory of usual data sheets',
  })
  return {
    words: `the coil of the ${inSentence(name)}`,
    amps,
    inrushAmps,
    category: 'AC-15',
    derate: LOAD_KINDS.coil.derate,
    short: false,
    continuous: load.continuous,
    calculations: [line('coil, held', coil.hold, amps), line('coil, pulling in', coil.pullIn, inrushAmps)],
  }
}

/** Which of a contactor's ratings a load asks for. */
const ratingFor = ({ amps }: ContactorProfile, type: Load['type']): number =>
  type === 'heater'
    ? amps.resistive
    : type === 'motor' || type === 'coil' || type === 'unknown'
      ? amps.motor
      : amps.lamps

// NEC 210.20(A), published: a load of three hours or more counts at 125 %, so 80 % of the rating is left.
export const countedAmps = (site: Site, load: Load): number => loadAmps(site, load) * (load.continuous ? 1.25 : 1)

function contactorVerdict(site: Site, load: Load, profile: ContactorProfile): ContactorVerdict {
  const mayAmps = ratingFor(profile, load.type)
  return { name: profile.name, amps: loadAmps(site, load), mayAmps, used: countedAmps(site, load) / mayAmps }
}

/** The smallest contactor that a load may hang on. */
export const contactorThatFits = (
  site: Site,
  load: Load,
  offered: readonly ContactorProfile[],
): ContactorProfile | undefined => offered.find((profile) => contactorVerdict(site, load, profile).used <= 1)

/** A channel's contact against what hangs on it; undefined where the load or the contacts are not known. */
export function contactVerdict(site: Site, channel: Channel): ContactVerdict | undefined {
  const load = loadOf(site, channel.load)
  const controller = controllerOf(site, channel.controller)
  const rating = controller && contactRatingOf(site, controller)
  if (!load || !rating || load.supply === 'dry') return undefined
  const contactor = load.contactor === null ? undefined : moduleIn(site, 'contactor', load.contactor)
  const hanging = contactor ? hangingCoil(site, load, contactor) : hangingLoad(site, channel, load)
  const mayAmps = rating.amps * hanging.derate
  const used = (hanging.continuous ? hanging.amps * 1.25 : hanging.amps) / mayAmps
  const inrushFits = hanging.inrushAmps <= rating.amps * (hanging.short ? SHORT_INRUSH_MULTIPLE : LONG_INRUSH_MULTIPLE)
  return {
    channel: channel.id,
    amps: hanging.amps,
    inrushAmps: hanging.inrushAmps,
    category: hanging.category,
    mayAmps,
    used,
    inrushFits,
    volts: loadVolts(site, load),
    mayVolts: rating.volts,
    advice: used > 1 || !inrushFits ? 'contactor' : 'contact',
    suppression: suppressionFor(site, channel, load),
    contactor: contactor ? contactorVerdict(site, load, contactor) : null,
    calculations: [
      ...hanging.calculations,
      contactLine(hanging, mayAmps, used),
      ...(contactor ? contactorLines(site, load, contactor) : []),
    ],
  }
}

function contactLine({ amps, category, derate, continuous }: Hanging, mayAmps: number, used: number): Calculation {
  const counted = continuous ? `1.25 · ${figure(amps)}` : figure(amps)
  return {
    name: 'contact',
    value: used * 100,
    unit: '%',
    formula:
      `${counted} A of ${figure(mayAmps)} A ` +
      `(${category}${derate < 1 ? `, ${figure(derate)} of the print` : ''}) = ${figure(used * 100)} %`,
    source: continuous
      ? 'NEC 210.20(A), published; categories IEC 60947-4-1'
      : 'categories IEC 60947-4-1, -5-1; derating common practice',
  }
}

/** The load on the contactor. */
function contactorLines(site: Site, load: Load, profile: ContactorProfile): Calculation[] {
  const { amps, mayAmps, used } = contactorVerdict(site, load, profile)
  const counted = load.continuous ? `1.25 · ${figure(amps)}` : figure(amps)
  return [
    {
      name: 'contactor',
      value: used * 100,
      unit: '%',
      formula: `${counted} A of ${figure(mayAmps)} A (${LOAD_KINDS[load.type].category}) = ${figure(used * 100)} %`,
      source: profile.source,
    },
  ]
}
