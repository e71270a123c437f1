import { serviceKindIn } from '../services'
import { channelsOn, sensorsOn, waysTo, type Controller, type Service, type Site } from '../site'
import { MOST_LINKS, type ImageLink } from './types'

/** The link to the broker of the house, on which a controller speaks of itself. */
export const HOUSE: Pick<ImageLink, 'id' | 'own' | 'logs'> = { id: 'house', own: true, logs: true }

/** Services with a wire of their own, of which this controller has points; in the site's order. */
export const wiredServices = (site: Site, controller: Controller): Service[] =>
  site.services.filter(
    (service) => wireOf(site, service) && service.points.some((point) => point.controller === controller.id),
  )

/** How a build reaches a service by its own wire; undefined: over the broker of the house, or not at all. */
export function wireOf(site: Site, { kind }: Pick<Service, 'kind'>) {
  const wire = serviceKindIn(site, kind)?.wire
  return wire?.transport === 'own' ? undefined : wire
}

/** Is there anything of this controller for the broker of the house? */
function speaksInHouse(site: Site, controller: Controller): boolean {
  const channels = channelsOn(site, controller.id)
  const here = new Set<string>(channels.map(({ id }) => id))
  return (
    controller.modeEntity !== undefined ||
    channels.some(({ id, kind }) => kind === 'feed' || waysTo(site, id).some((way) => way.kind === 'hub')) ||
    site.groups.some(
      (group) => group.ways?.some(({ kind }) => kind === 'hub') && group.members.some((id) => here.has(id)),
    ) ||
    (site.hubs.length > 0 && sensorsOn(site, controller.id).length > 0) ||
    site.services.some(
      (service) => !wireOf(site, service) && service.points.some((point) => point.controller === controller.id),
    )
  )
}

/** All links that a controller would need, in order: the house's first. More than three do not compile. */
export function linksWanted(site: Site, controller: Controller): ImageLink[] {
  const outage = controller.outage ?? 'local'
  const services = wiredServices(site, controller).map((service): ImageLink => {
    const wire = wireOf(site, service)!
    const logs = wire.transport === 'mqtt' && wire.log !== null
    return { id: service.id, outage: service.outage ?? outage, own: false, logs }
  })
  const house = services.length === 0 || speaksInHouse(site, controller)
  return [...(house ? [{ ...HOUSE, outage }] : []), ...services]
}

/** Links of an image; one that goes to the house alone is not said, as before there were others. */
export function networkOf(site: Site, controller: Controller): { readonly links?: readonly ImageLink[] } {
  const links = linksWanted(site, controller).slice(0, MOST_LINKS)
  return links.length === 1 && links[0]!.own ? {} : { links }
}
