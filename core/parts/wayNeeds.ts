import { isInHouse, holdersOf, wireOf } from '../services'
import { channelOf, coprocessorOf, kindOf, type Channel, type Site, type Way } from '../site'
import type { PartId } from './part'

/** Where somebody stands: beside the controller, elsewhere in the house, or away. */
export type Standing = 'here' | 'house' | 'away'
export const STANDINGS = ['here', 'house', 'away'] as const satisfies readonly Standing[]

/** What every way to a channel needs: its board, and all between pin and load. */
function channelNeeds(channel: Channel): PartId[] {
  const contacts = kindOf(channel)
    .outputs(channel)
    .flatMap((_, k): PartId[] => [`coil:${channel.id}.${k}`, `contact:${channel.id}.${k}`])
  return [`board:${channel.controller}`, ...contacts, `load:${channel.id}`]
}

/** The network over which a board is reached, and where its link leads. */
function linkNeeds(site: Site, controller: string, home: PartId): PartId[] {
  const radio = coprocessorOf(site, controller)?.id ?? controller
  const speaker = site.controllers.find(({ id }) => id === radio)
  const line = site.links.find((link) => link.controller === controller && link.other === radio)
  return [
    `board:${radio}`,
    ...(line ? [`link:${line.id}` as const] : []),
    speaker?.link === 'modem' ? `modem:${radio}` : 'wifi',
    home,
  ]
}

function homeOfService(site: Site, id: string): PartId {
  const service = holdersOf(site).find((held) => held.service.id === id)?.service
  return service && wireOf(site, service) ? `service:${id}` : 'broker'
}

/** From where a way can be worked: the places that are near enough. */
export function reachedFrom(site: Site, way: Way): readonly Standing[] {
  switch (way.kind) {
    case 'wall':
    case 'remote':
    case 'link':
      return ['here']
    case 'hub':
    case 'voice':
      return ['here', 'house']
    case 'app': {
      const service = site.services.find(({ id }) => id === way.service)
      const isInside = service && (!wireOf(site, service) || isInHouse(service.host))
      return isInside ? ['here', 'house'] : STANDINGS
    }
  }
}

/** Every part that must work for a way to move its channel. */
export function wayNeeds(site: Site, way: Way): PartId[] {
  const channel = channelOf(site, way.channel)
  if (!channel) return []
  const own = channelNeeds(channel)
  switch (way.kind) {
    case 'wall':
      return [`switch:${way.input}`, `wire:${way.input}`, ...own]
    case 'remote':
      return [`remote:${way.remote}`, `receiver:${channel.controller}`, ...own]
    case 'link':
      return [`link:${way.link}`, ...own]
    case 'app': {
      const home = homeOfService(site, way.service)
      return ['phone', home, ...linkNeeds(site, channel.controller, home), ...own]
    }
    case 'hub': {
      const isWired = site.hubs.some((hub) => hub.id === way.hub && wireOf(site, hub))
      const home: PartId = isWired ? `service:${way.hub}` : 'broker'
      return [...(isWired ? [] : ['hub' as const]), ...linkNeeds(site, channel.controller, home), ...own]
    }
    case 'voice': {
      const through = way.through === null ? undefined : site.ways.find(({ id }) => id === way.through)
      if (through) return ['voice', ...wayNeeds(site, through).filter((part) => part !== 'phone')]
      return ['voice', ...linkNeeds(site, channel.controller, homeOfService(site, way.service)), ...own]
    }
  }
}
