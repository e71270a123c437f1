import { testList, type TestItem } from '../outputs'
import { channelOf, inputOf, remoteOf, linkOf, type Site, type Way } from '../site'
import type { TestAgain } from './retest'

/**
 * What must be tested when a board has been put in another's place, with the same tables: what was unsoldered, plugged
 * or joined anew. Relays, their contacts and the loads behind them were not touched, and what the tables alone decide
 * is as it was.
 */
export function testsOfNewBoard(site: Site, controller: string): { readonly again: TestAgain[]; readonly of: number } {
  const list = testList(site, controller)
  const told = new Set<string>()
  const first = (thing: string): boolean => !told.has(thing) && told.add(thing) !== undefined
  const again = list.flatMap((item): TestAgain[] => {
    const why = reasonsOf(site, item).filter(first)
    return why.length === 0 ? [] : [{ ...item, why }]
  })
  return { again, of: list.length }
}

/** What a test is the first to show of a new board; each is shown once. */
function reasonsOf(site: Site, item: TestItem): string[] {
  const [stage, kind, id] = item.key.split(':')
  const channel = item.channel === null ? undefined : channelOf(site, item.channel as never)
  const way = site.ways.find((one) => one.id === item.way)
  if (stage === 'load') return []
  if (way && channel) return [wayReason(site, way), `the wire to the relay of ${channel.name}`]
  switch (kind) {
    case 'start':
      return [`what ${channel?.name ?? id} does as the power comes back`]
    case 'rule': {
      const rule = site.rules.find((one) => one.id === id)
      return rule?.kind === 'threshold' ? [`the sensor of ${rule.name}`] : []
    }
    case 'position':
      return [`the door contact of ${channel?.name ?? id}`]
    case 'board':
    case 'pair':
      return [`the board itself: ${item.action}`]
    case 'outage':
      return id === 'network' ? ['the network'] : []
    default:
      return []
  }
}

function wayReason(site: Site, way: Way): string {
  switch (way.kind) {
    case 'wall':
      return `the wire to ${inputOf(site, way.input)?.name ?? way.input}`
    case 'remote':
      return `the receiver of ${remoteOf(site, way.remote)?.name ?? way.remote}`
    case 'link':
      return `the line of ${linkOf(site, way.link)?.name ?? way.link}`
    case 'app':
      return `its login at ${site.services.find(({ id }) => id === way.service)?.name ?? way.service}`
    case 'hub':
      return `its login at the broker, for ${site.hubs.find(({ id }) => id === way.hub)?.name ?? way.hub}`
    case 'voice':
      return `its login at ${site.services.find(({ id }) => id === way.service)?.name ?? way.service}`
  }
}
