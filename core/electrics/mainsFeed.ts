import { boardIn } from '../boards'
import { channelsOn, loadOf, type Controller, type MainsConductor, type Site } from '../site'
import { figure, type Calculation } from './calculation'
import { countedAmps } from './contacts'

/** Breaker, fuse and wire of a controller's mains side against what hangs on it. Cautions: local code decides. */

/**
 * A that copper may carry behind its breaker. AWG: NEC table 310.16, 60 °C, with 240.4(D) for the small ones
 * (published,
 * from memory). mm²: IEC 60364-5-52, two loaded conductors, PVC, reference method B2, 30 °C (published, from memory).
 */
const AWG_AMPS = { 14: 15, 12: 20, 10: 30, 8: 40, 6: 55 } as const
const AREA_AMPS = { 1: 13, 1.5: 16.5, 2.5: 23, 4: 30, 6: 38, 10: 52, 16: 69 } as const

export const conductorAmps = (conductor: MainsConductor): number =>
  conductor.by === 'awg' ? AWG_AMPS[conductor.awg] : AREA_AMPS[conductor.squareMillimetres]

/** A conductor's size as its region writes it: "1.5 mm²", "AWG 14". */
export const conductorSize = (conductor: MainsConductor): string =>
  conductor.by === 'awg' ? `AWG ${conductor.awg}` : `${conductor.squareMillimetres} mm²`

export interface FeedVerdict {
  /** A of all mains loads together, each that is on for hours at 125 % (NEC 210.20(A), published) */
  readonly amps: number
  readonly calculations: readonly Calculation[]
}

/** What the mains loads of a controller draw together. */
export function feedVerdict(site: Site, controller: Controller): FeedVerdict {
  const loads = channelsOn(site, controller.id).flatMap((channel) => {
    const load = loadOf(site, channel.load)
    return load?.supply === 'mains' ? [load] : []
  })
  // a load on two channels draws its current once
  const each = [...new Map(loads.map((load) => [load.id, load])).values()].map((load) => countedAmps(site, load))
  const amps = each.reduce((sum, one) => sum + one, 0)
  const terms = each.length > 0 ? each.map((one) => figure(one)).join(' + ') : '0'
  const { mains } = controller
  const against = mains ? `; breaker ${mains.breakerAmps} A, wire ${conductorAmps(mains.conductor)} A` : ''
  return {
    amps,
    calculations: [
      {
        name: 'all mains loads',
        value: amps,
        unit: 'A',
        formula: `${terms} = ${figure(amps)} A${against}`,
        source: 'sum; loads of three hours or more at 125 %, NEC 210.20(A), published',
      },
    ],
  }
}

/** Has the controller anything on mains: a load that is, one that nobody named, or a box that is fed by it? */
export const touchesMains = (site: Site, controller: Controller): boolean =>
  Boolean(boardIn(site, controller.board)?.boxed) ||
  channelsOn(site, controller.id).some((channel) => {
    const load = loadOf(site, channel.load)
    return !load || load.supply === 'mains'
  })
