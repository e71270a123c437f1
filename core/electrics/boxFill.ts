import type { Enclosure, Site } from '../site'
import { figure, type Calculation } from './calculation'

/** in³ each conductor takes. Published: NEC table 314.16(B)(1). */
export const CONDUCTOR_CUBIC_INCHES: Readonly<Record<number, number>> = {
  18: 1.5,
  16: 1.75,
  14: 2.0,
  12: 2.25,
  10: 2.5,
  8: 3.0,
  6: 5.0,
}
/** Exactly, since the inch is 25.4 mm. */
export const CUBIC_CENTIMETRES_PER_CUBIC_INCH = 16.387064
/** Box volumes, in³. Published: NEC table 314.16(A). */
export const BOXES: readonly { readonly name: string; readonly cubicInches: number }[] = [
  { name: '3 × 2 × 2¾ device', cubicInches: 14.0 },
  { name: '3 × 2 × 3½ device', cubicInches: 18.0 },
  { name: '4 × 1½ square', cubicInches: 21.0 },
  { name: '4 × 2⅛ square', cubicInches: 30.3 },
]

export interface BoxFill {
  readonly cubicInches: number
  readonly volume: number
  readonly fits: boolean
  readonly calculations: readonly Calculation[]
}

/** Part of a metric box that what is in it may take: the rest is for wires and their bends (common practice). */
const METRIC_SHARE = 0.6

/**
 * Where box fill is no law of conductors counted one by one: what sits in the box against the volume on its label, cm³.
 */
export function metricFill(box: Enclosure): BoxFill {
  const volume = Math.round(box.volumeCubicInches * CUBIC_CENTIMETRES_PER_CUBIC_INCH)
  const most = volume * METRIC_SHARE
  const { moduleCubicCentimetres: inside } = box
  return {
    cubicInches: inside / CUBIC_CENTIMETRES_PER_CUBIC_INCH,
    volume: box.volumeCubicInches,
    fits: inside <= most,
    calculations: [
      {
        name: 'what sits in the box',
        value: inside,
        unit: 'cm³',
        formula: `${inside} cm³ of ${figure(most)} cm³, ${METRIC_SHARE * 100} % of the ${volume} cm³ on its label`,
        source: 'common practice: the rest is for wires and their bends; local code decides',
      },
    ],
  }
}

/** Box rules are those of the region: counted conductors where that is law, else the volume on the label. */
export const countsConductors = ({ mains }: Site): boolean => mains.volts === 120
export const fillOf = (site: Site, box: Enclosure): BoxFill => (countsConductors(site) ? boxFill(box) : metricFill(box))

/**
 * Box fill by NEC 314.16(B) (published): (1) each conductor that enters, one allowance; (2) all internal clamps
 * together one of the largest; (4) each yoke two of the largest; (5) all equipment grounds up to four together one of
 * the largest, each beyond a quarter. A module is counted by its own volume. Elsewhere local code counts differently.
 */
export function boxFill(box: Enclosure): BoxFill {
  const present = box.conductors.filter(({ count }) => count > 0)
  const largest = present.length ? Math.max(...present.map(({ awg }) => CONDUCTOR_CUBIC_INCHES[awg]!)) : 0
  const conductors = present.reduce((sum, { awg, count }) => sum + CONDUCTOR_CUBIC_INCHES[awg]! * count, 0)
  const clamps = box.internalClamps ? largest : 0
  const yokes = box.yokes * 2 * largest
  const grounds = box.groundingConductors === 0 ? 0 : largest * (1 + Math.max(0, box.groundingConductors - 4) / 4)
  const module = box.moduleCubicCentimetres / CUBIC_CENTIMETRES_PER_CUBIC_INCH
  const total = conductors + clamps + yokes + grounds + module
  const source = 'NEC 314.16(B), published; local code decides'
  const terms = [
    `${present.map(({ awg, count }) => `${count} · ${CONDUCTOR_CUBIC_INCHES[awg]}`).join(' + ') || '0'}`,
    ...(clamps ? [`${figure(clamps)} clamps`] : []),
    ...(yokes ? [`${box.yokes} · 2 · ${figure(largest)} yoke`] : []),
    ...(grounds ? [`${figure(grounds)} grounds`] : []),
    ...(module ? [`${module.toFixed(2)} module`] : []),
  ]
  return {
    cubicInches: total,
    volume: box.volumeCubicInches,
    fits: total <= box.volumeCubicInches,
    calculations: [
      {
        name: 'box fill',
        value: total,
        unit: 'in³',
        formula: `${terms.join(' + ')} = ${total.toFixed(2)} in³ of ${box.volumeCubicInches} in³`,
        source,
      },
    ],
  }
}
