import { wiredHolders, wireOf } from '../services'
import { channelsOn, sensorsOn, waysTo, type Controller, type Service, type Site } from '../site'
import { MOST_LINKS, type ImageLink } from './types'

/** The link to the broker of the house, on which a controller speaks of itself. */
export const HOUSE: Pick<ImageLink, 'id' | 'own' | 'logs'> = { id: 'house', own: true, logs: true }

/** Services and hubs with a wire of their own, of which this controller has points; in the site's order. */
export const wiredServices = (site: Site, controller: Controller): Service[] =>
  wiredHolders(site).filter(({ points }) => points.some((point) => point.controller === controller.id))

/** Is there anything of this controller for the broker of the house? */
function speaksInHouse(site: Site, controller: Controller): boolean {
  const channels = channelsOn(site, controller.id)
  const here = new Set<string>(channels.map(({ id }) => id))
  // hubs with a wire of their own hear nothing of the broker of the house
  const hubs = new Set<string>(site.hubs.filter((hub) => !wireOf(site, hub)).map(({ id }) => id))
  return (
    (controller.modeEntity !== undefined && hubs.has(controller.modeEntity.hub)) ||
    channels.some(
      ({ id, kind }) => kind === 'feed' || waysTo(site, id).some((way) => way.kind === 'hub' && hubs.has(way.hub)),
    ) ||
    site.groups.some(
      (group) =>
        group.ways?.some((way) => way.kind === 'hub' && hubs.has(way.hub)) && group.members.some((id) => here.has(id)),
    ) ||
    // a modem has one connection: readings alone do not take it from the service
    (controller.link !== 'modem' && hubs.size > 0 && sensorsOn(site, controller.id).length > 0) ||
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

/** Does a controller speak of itself on the broker of the house? Its links alone say so, not whether its board can. */
export const isInHouse = (site: Site, controller: Controller): boolean =>
  linksWanted(site, controller).some(({ own }) => own)

/** Links of an image; one that goes to the house alone is not said, as before there were others. */
export function networkOf(site: Site, controller: Controller): { readonly links?: readonly ImageLink[] } {
  const links = linksWanted(site, controller).slice(0, MOST_LINKS)
  return links.length === 1 && links[0]!.own ? {} : { links }
}
