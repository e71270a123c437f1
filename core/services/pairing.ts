import type { Controller, Site } from '../site'
import { controllersOf } from './credentials'
import { holdersOf } from './holders'
import { serviceKindIn } from './serviceKinds'

/** How a board keeps its offer; the same in firmware/wires/pairing.h. */
export const PAIRING = {
  /** an offer ends by itself */
  offerMs: 600_000,
  /** wrong PINs, one after the other, until nobody is heard */
  mostWrong: 5,
  closedMs: 600_000,
} as const

/** The credential that pairs a controller: the first PIN that a service or hub of it has for each board. */
export function pinKeyOf(site: Site, controller: Controller): string | undefined {
  for (const { service } of holdersOf(site)) {
    const pin = serviceKindIn(site, service.kind)?.secrets.find(({ shape, per }) => shape === 'pin' && per === 'device')
    if (pin && controllersOf(site, service.id).includes(controller.id))
      return `${service.id}/${pin.id}/${controller.id}`
  }
  return undefined
}
