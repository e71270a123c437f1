import { betweenLines } from '../electrics'
import { loadOf, type Site } from '../site'
import type { TrialSnapshot } from './types'

/** What flows through a breaker now. */
export interface Meter {
  readonly controller: string
  readonly name: string
  readonly amps: number
  /** of its breaker; null: nobody has said */
  readonly breakerAmps: number | null
}

/** The current of each controller's mains loads that are on: watts by the site's volts, at a power factor of 1. */
export const metersOf = (site: Site, snapshot: TrialSnapshot): Meter[] =>
  site.controllers.flatMap(({ id, name, mains }): Meter[] => {
    const loads = site.channels.flatMap((channel) => {
      const load = loadOf(site, channel.load)
      if (channel.controller !== id || load?.supply !== 'mains') return []
      const on = (snapshot.channels.find((one) => one.id === channel.id)?.seen ?? 0) > 0
      return [on ? load.watts / (load.acrossLines ? betweenLines(site) : site.mains.volts) : 0]
    })
    if (loads.length === 0) return []
    return [
      { controller: id, name, amps: loads.reduce((sum, one) => sum + one, 0), breakerAmps: mains?.breakerAmps ?? null },
    ]
  })
