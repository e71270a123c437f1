import { levelsOf, linkNeeds, reachedFrom, turnsOff, type Place } from '../parts'
import { isFeed, kindOf, waysTo, type Channel, type Site, type Way } from '../site'
import { all, any, not, type Formula } from './formula'
import type { HouseFormulas } from './houseFormulas'
import type { Moved } from './inputsMove'

/** Who can turn a channel on, and off: by which ways, and when each of them is gone. */

/** A way that could do it, and when it does. */
export interface WayWorks {
  readonly way: string
  readonly works: Formula
}

const waysFrom = (site: Site, channel: Channel, from: Place): Way[] =>
  waysTo(site, channel.id).filter((way) => reachedFrom(site, way).includes(from) && commands(site, way))

/** A gauge shows, and is no way to ask for anything. */
function commands(site: Site, way: Way): boolean {
  if (way.kind !== 'app') return true
  const widgets = site.services.find(({ id }) => id === way.service)?.widgets ?? []
  return widgets.some(({ point, kind }) => point === way.point && kind !== 'value' && kind !== 'gauge')
}

/** The ways by which somebody who stands there can turn it on. */
export function waysOn(formulas: HouseFormulas, channel: Channel, from: Place): WayWorks[] {
  const { site } = formulas
  if (isFeed(channel)) return feedWays(formulas, channel, from)
  return waysFrom(site, channel, from).flatMap((way): WayWorks[] => {
    const levels = levelsOf(channel, way)
    if (levels.length === 0) return []
    const delivers = formulas.delivers(way, channel.controller)
    return [{ way: way.id, works: any(levels.map((level) => all([delivers, formulas.lit(channel, level)]))) }]
  })
}

/** The ways by which somebody who stands there can turn it off: what they ask for arrives, and then it is off. */
export function waysOff(formulas: HouseFormulas, channel: Channel, from: Place): WayWorks[] {
  if (isFeed(channel)) return feedWays(formulas, channel, from)
  const stays = formulas.lit(channel, 0)
  return waysFrom(formulas.site, channel, from)
    .filter((way) => turnsOff(channel, way))
    .map((way) => ({ way: way.id, works: all([formulas.delivers(way, channel.controller), not(stays)]) }))
}

/**
 * The lamps behind a feed are turned on and off by its switch: through the hub, or, while the hub is not heard, by the
 * relay itself, if the controller watches the hub.
 */
function feedWays(formulas: HouseFormulas, channel: Channel, from: Place): WayWorks[] {
  const { site } = formulas
  const hub = hubWorks(formulas, channel)
  const isWatched = waysTo(site, channel.id).some(
    (way) => way.kind === 'hub' && site.hubs.find(({ id }) => id === way.hub)?.watch,
  )
  return waysFrom(site, channel, from)
    .filter((way) => way.kind === 'wall')
    .map((way) => ({
      way: way.id,
      works: all([
        formulas.delivers(way, channel.controller),
        formulas.lit(channel, 1),
        isWatched ? any([hub, not(formulas.lit(channel, 0))]) : hub,
      ]),
    }))
}

/** The hub hears the board, and the board the hub. */
const hubWorks = (formulas: HouseFormulas, channel: Channel): Formula =>
  all([
    formulas.works('hub'),
    ...linkNeeds(formulas.site, channel.controller, 'broker').map((part) => formulas.works(part)),
  ])

/** A shorted wire looks like a press, and the hub turns the lamps over. */
const feedTurned = (formulas: HouseFormulas, channel: Channel): Formula =>
  all([
    any(
      waysTo(formulas.site, channel.id).flatMap((way) =>
        way.kind === 'wall' ? [formulas.failed(`wire:${way.input}`, 'stuck')] : [],
      ),
    ),
    hubWorks(formulas, channel),
    formulas.works(`board:${channel.controller}`),
  ])

/** Whether it is on, or at rest, behind what failed inputs have told it. */
const stands = (formulas: HouseFormulas, channel: Channel, moved: readonly Moved[]): Formula =>
  any(moved.map(({ when, level }) => all([when, formulas.lit(channel, level)])))

/** It is off, and by no way that reaches from there it comes on. `moved`: from level 0. */
export function nobodyTurnsOn(
  formulas: HouseFormulas,
  channel: Channel,
  from: Place,
  moved: readonly Moved[],
): Formula {
  const ways = waysOn(formulas, channel, from).map(({ works }) => works)
  const isOn = isFeed(channel)
    ? all([feedTurned(formulas, channel), formulas.lit(channel, 1)])
    : stands(formulas, channel, moved)
  return not(any([isOn, ...ways]))
}

/** It is on, and by no way that reaches from there it goes off. `moved`: from the level at which it is. */
export function nobodyTurnsOff(
  formulas: HouseFormulas,
  channel: Channel,
  from: Place,
  moved: readonly Moved[],
): Formula {
  const ways = waysOff(formulas, channel, from).map(({ works }) => works)
  const isOn = isFeed(channel)
    ? all([formulas.lit(channel, 1), not(feedTurned(formulas, channel))])
    : stands(formulas, channel, moved)
  return all([isOn, not(any(ways))])
}

/** The level at which a channel is that somebody has turned on. */
export const usualLevel = (channel: Channel): number => kindOf(channel).firstLevel(channel)
