import { codeName } from '../../core/infrared'
import { channelOf, keyOf, pointOf, type Site, type Way } from '../../core/site'
import { columnOf, ruleWords, type Column } from '../../core/ways'
import { STEPS } from './steps'

/** Something that can be found by name, and where it stands. */
export interface Place {
  readonly key: string
  readonly name: string
  readonly detail: string
  /** step, and side of it, as the address has them */
  readonly step: string
  readonly controller?: string
  readonly cell?: { readonly channel: string; readonly column: Column }
  readonly role?: string
}

/** What a way is called, and what is said beside it; null: its own thing is gone, or it is found by its channel. */
function nameOfWay(site: Site, way: Way, channel: string): readonly [string, string] | null {
  switch (way.kind) {
    case 'app': {
      const point = pointOf(site, way.service, way.point)
      return point ? [`vp${point.vp}`, `${channel} by app`] : null
    }
    case 'hub': {
      const hub = site.hubs.find((candidate) => candidate.id === way.hub)
      const entity = hub?.entities.find((candidate) => candidate.id === way.entity)
      return entity ? [entity.topic, `${channel} by hub`] : null
    }
    case 'voice':
      return [`“${way.name}”`, `${channel} by voice`]
    case 'link':
      return [way.char, `${channel} ${way.action}, ${columnOf(site, way)}`]
    case 'remote': {
      const key = keyOf(site, way.remote, way.key)
      return key ? [codeName(key.code), `“${key.name}”, ${channel} ${way.action}`] : null
    }
    case 'wall':
      return null
  }
}

const placesOfWays = (site: Site): Place[] =>
  site.ways.flatMap((way): Place[] => {
    const named = nameOfWay(site, way, channelOf(site, way.channel)!.name)
    if (!named) return []
    const cell = { channel: way.channel, column: columnOf(site, way) }
    return [{ key: `way:${way.id}`, name: named[0], detail: named[1], step: 'ways', cell }]
  })

/** What stands on a side of the ways, beside the crossbar. */
const onSide = (thing: string, side: string, list: readonly { id: string; name: string; detail?: string }[]): Place[] =>
  list.map(({ id, name, detail = thing }) => ({ key: `${thing}:${id}`, name, detail, step: `ways?side=${side}` }))

const homeOf = (site: Site, controller: string) => site.controllers.find(({ id }) => id === controller)?.name ?? ''

const place = (thing: string, id: string, name: string, detail: string, more: Partial<Place>): Place => ({
  key: `${thing}:${id}`,
  name,
  detail,
  step: 'bench',
  ...more,
})

/** Controllers, and what is fitted to them. */
const placesOfControllers = (site: Site): Place[] => [
  ...site.controllers.map(({ id, name }) => place('controller', id, name, 'controller', { controller: id })),
  ...site.channels.map(({ id, name, controller }) =>
    place('channel', id, name, `channel of ${homeOf(site, controller)}`, {
      step: 'ways',
      cell: { channel: id, column: 'wall' },
    }),
  ),
  ...site.inputs.map(({ id, name, kind, controller }) =>
    place('input', id, name, `${kind} switch of ${homeOf(site, controller)}`, { controller, role: `in:${id}` }),
  ),
]

const placesOfRules = (site: Site): Place[] =>
  site.rules.map((rule) =>
    place('rule', rule.id, ruleWords(site, rule).title, `rule of ${channelOf(site, rule.channel)?.name ?? ''}`, {
      step: 'ways',
      cell: { channel: rule.channel, column: 'rule' },
    }),
  )

/** Everything on a site that has a name. */
export const placesOf = (site: Site): Place[] => [
  ...STEPS.map(({ id, name }) => place('step', id, name, 'step', { step: id })),
  ...placesOfControllers(site),
  ...placesOfWays(site),
  ...placesOfRules(site),
  ...onSide('group', 'rules', site.groups),
  ...onSide(
    'sensor',
    'rules',
    site.sensors.map(({ id, name, quantity, controller }) => ({
      id,
      name,
      detail: `${quantity} sensor of ${homeOf(site, controller)}`,
    })),
  ),
  ...onSide('service', 'services', site.services),
  ...onSide('template', 'templates', site.templates),
]
