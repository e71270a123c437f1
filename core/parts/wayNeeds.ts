import { isInHouse, holdersOf, wireOf } from '../services'
import { channelOf, coprocessorOf, inputOf, type Site, type Way } from '../site'
import { isInternetService } from './graph'
import type { PartId } from './part'

/** Where a person is: beside the controller, elsewhere in the house, or away. What they can reach follows from it. */
export const PLACES = ['here', 'house', 'away'] as const
export type Place = (typeof PLACES)[number]
export const PLACE_WORDS: Readonly<Record<Place, string>> = {
  here: 'at the controller',
  house: 'in the house',
  away: 'away',
}

/** From the house's network to where a link leads. */
const overHouse = (site: Site, home: PartId): PartId[] =>
  home.startsWith('service:') && isInternetService(site, home.slice('service:'.length))
    ? ['wifi', 'internet']
    : ['wifi']

/** The network over which a board is reached, and where its link leads; the board that speaks among them. */
export function linkNeeds(site: Site, controller: string, home: PartId): PartId[] {
  const radio = coprocessorOf(site, controller)?.id ?? controller
  const speaker = site.controllers.find(({ id }) => id === radio)
  const line = site.links.find((link) => link.controller === controller && link.other === radio)
  return [
    `board:${radio}`,
    ...(line ? [`link:${line.id}` as const] : []),
    ...(speaker?.link === 'modem' ? [`modem:${radio}` as const] : overHouse(site, home)),
    home,
  ]
}

/** Where a service stands: itself, or on the house's broker. */
export function homeOfService(site: Site, id: string): PartId {
  const service = holdersOf(site).find((held) => held.service.id === id)?.service
  return service && wireOf(site, service) ? `service:${id}` : 'broker'
}

/** A service that answers in the house only: one of its broker, or one with an address that leads no farther. */
export function leadsInside(site: Site, id: string): boolean {
  const service = site.services.find((one) => one.id === id)
  return service !== undefined && (!wireOf(site, service) || isInHouse(service.host))
}

/** From where a way can be worked: the places that are near enough. */
export function reachedFrom(site: Site, way: Way): readonly Place[] {
  switch (way.kind) {
    case 'wall':
    case 'remote':
    case 'link':
      return ['here']
    case 'hub':
    case 'voice':
      return ['here', 'house']
    case 'app':
      return leadsInside(site, way.service) ? ['here', 'house'] : PLACES
  }
}

/** Every part between a hand and the channel's board; each must work. */
export function wayNeeds(site: Site, way: Way): PartId[] {
  const channel = channelOf(site, way.channel)
  if (!channel) return []
  switch (way.kind) {
    case 'wall': {
      const input = inputOf(site, way.input)
      const gate = input?.kind === 'selector' ? input.gate : undefined
      return [way.input, ...(gate === undefined ? [] : [gate])].flatMap((id): PartId[] => [
        `switch:${id}`,
        `wire:${id}`,
      ])
    }
    case 'remote':
      return [`remote:${way.remote}`, `receiver:${channel.controller}`]
    case 'link':
      return [`link:${way.link}`]
    case 'app': {
      const home = homeOfService(site, way.service)
      return ['phone', home, ...linkNeeds(site, channel.controller, home)]
    }
    case 'hub': {
      const isWired = site.hubs.some((hub) => hub.id === way.hub && wireOf(site, hub))
      const home: PartId = isWired ? `service:${way.hub}` : 'broker'
      return [...(isWired ? [] : ['hub' as const]), ...linkNeeds(site, channel.controller, home)]
    }
    case 'voice': {
      const through = way.through === null ? undefined : site.ways.find(({ id }) => id === way.through)
      if (through) return ['voice', ...wayNeeds(site, through).filter((part) => part !== 'phone')]
      return ['voice', ...linkNeeds(site, channel.controller, homeOfService(site, way.service))]
    }
  }
}
