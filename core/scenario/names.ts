import { beliefsOf, trueLevel, type TrialAction, type TrialSnapshot } from '../trial'
import { partsOf, type PartId } from '../parts'
import { holdersOf } from '../services'
import { topLevel, type Channel, type Site } from '../site'
import type { Deed, Expectation, Never } from './schema'

/** A name of a scenario that the site does not have. */
export class NoSuchName extends Error {
  readonly code = 'no-such-name'
}

interface Named {
  readonly id: string
  readonly name: string
}

/** A thing by its name or its id. */
function find<T extends Named>(list: readonly T[], wanted: string, what: string): T {
  const found = list.find(({ name }) => name === wanted) ?? list.find(({ id }) => id === wanted)
  if (!found) throw new NoSuchName(`there is no ${what} "${wanted}" in this site`)
  return found
}

export const channelNamed = (site: Site, name: string): Channel => find(site.channels, name, 'channel')

/** The part that a scenario names. Throws NoSuchName. */
export function breakableOf(site: Site, what: Extract<Deed, { break: unknown }>['break']): PartId {
  if (typeof what === 'string') return what
  if ('part' in what) return partNamed(site, what.part)
  const [kind, wanted] = Object.entries(what)[0] as [string, string]
  const [list, word, contact] = PART_LISTS[kind]!(site)
  return `${kind}:${find(list, wanted, word).id}${contact ? '.0' : ''}` as PartId
}

function partNamed(site: Site, wanted: string): PartId {
  const parts = [...partsOf(site).values()]
  const found = parts.find(({ id }) => id === wanted) ?? parts.find(({ name }) => name === wanted)
  if (!found) throw new NoSuchName(`there is no part "${wanted}" in this site`)
  return found.id
}

type PartList = (site: Site) => readonly [list: readonly Named[], word: string, contact?: true]
const controllers: PartList = (site) => [site.controllers, 'controller']
const PART_LISTS: Readonly<Record<string, PartList>> = {
  ...{ power: controllers, breaker: controllers, board: controllers },
  service: (site) => [holdersOf(site).map(({ service }) => service), 'service'],
  switch: (site) => [site.inputs, 'switch'],
  wire: (site) => [site.inputs, 'switch'],
  contact: (site) => [site.channels, 'channel', true],
  coil: (site) => [site.channels, 'channel', true],
  load: (site) => [site.channels, 'channel'],
  sensor: (site) => [site.sensors, 'sensor'],
  remote: (site) => [site.remotes, 'remote'],
  link: (site) => [site.links, 'link'],
}

type State = Extract<Deed, { tap: unknown }>['to']
const isOn = (state: State): boolean => state === true || state === 'on' || (typeof state === 'number' && state > 0)

/** A deed of a scenario as what a person, or fate, does in the world; presses end after their time, ms. */
export function actionsOf(site: Site, deed: Deed): readonly (TrialAction & { readonly afterMs?: number })[] {
  if ('press' in deed) {
    const input = find(site.inputs, deed.press, 'switch').id
    return [
      { kind: 'press', input },
      { kind: 'release', input, afterMs: deed.for ?? PRESS_MS },
    ]
  }
  if ('rock' in deed) return [{ kind: 'rock', input: find(site.inputs, deed.rock, 'switch').id }]
  if ('turn' in deed) return [{ kind: 'turn', input: find(site.inputs, deed.turn, 'selector').id, code: deed.to }]
  if ('key' in deed) return keyPresses(site, deed)
  if ('say' in deed) return [{ kind: 'say', text: deed.say }]
  if ('tap' in deed) return [widgetAction(site, deed.tap, deed.to)]
  if ('hub' in deed) return [hubAction(site, deed.hub, deed.says)]
  if ('reading' in deed)
    return [{ kind: 'reading', sensor: find(site.sensors, deed.reading, 'sensor').id, value: deed.is }]
  if ('character' in deed) return [{ kind: 'char', link: find(site.links, deed.over, 'link').id, char: deed.character }]
  if ('clock' in deed) return [{ kind: 'clock', local: deed.clock }]
  if ('replay' in deed) return [{ kind: 'replay' }]
  return rarerActions(site, deed)
}

function rarerActions(site: Site, deed: Deed): readonly TrialAction[] {
  if ('hold' in deed) return [{ kind: 'press', input: find(site.inputs, deed.hold, 'switch').id }]
  if ('release' in deed) return [{ kind: 'release', input: find(site.inputs, deed.release, 'switch').id }]
  if ('group' in deed) return [groupAction(site, deed.group, deed.says)]
  if ('mode' in deed)
    return [{ kind: 'mode', controller: find(site.controllers, deed.mode, 'controller').id, command: deed.says }]
  if ('stand' in deed) return [{ kind: 'stand', place: deed.stand }]
  if ('curve' in deed) {
    const { low, high } = deed
    return [{ kind: 'curve', sensor: find(site.sensors, deed.curve, 'sensor').id, low, high }]
  }
  if ('pair' in deed)
    return [
      { kind: 'pair', controller: find(site.controllers, deed.pair, 'controller').id, right: deed.pin === 'right' },
    ]
  if ('break' in deed)
    return [{ kind: 'break', what: breakableOf(site, deed.break), broken: true, ...(deed.as ? { how: deed.as } : {}) }]
  return 'mend' in deed ? [{ kind: 'break', what: breakableOf(site, deed.mend), broken: false }] : []
}

function groupAction(site: Site, wanted: string, command: string): TrialAction {
  const group = find(site.groups, wanted, 'group')
  const way = (group.ways ?? []).find(({ kind }) => kind === 'hub')
  if (way?.kind !== 'hub') throw new NoSuchName(`no hub has an entity for the group "${wanted}"`)
  return { kind: 'group', hub: way.hub, group: group.id, command }
}

/** Long enough to settle, ms. */
const PRESS_MS = 120
/** Frames of a held key (the usual remotes repeat each 108 to 114 ms; common practice). */
const REPEAT_MS = 110

function keyPresses(
  site: Site,
  deed: Extract<Deed, { key: unknown }>,
): readonly (TrialAction & { afterMs?: number })[] {
  const remote = find(site.remotes, deed.of, 'remote')
  const key = find(remote.keys, deed.key, `key of ${remote.name}`).id
  return Array.from({ length: deed.times ?? 1 }, (_, i) => ({
    kind: 'key' as const,
    remote: remote.id,
    key,
    repeat: i > 0,
    afterMs: i * REPEAT_MS,
  }))
}

function widgetAction(site: Site, wanted: string, to: State): TrialAction {
  const widgets = site.services.flatMap((service) =>
    service.widgets.map((widget) => ({ ...widget, service: service.id })),
  )
  const { id, service } = find(widgets, wanted, 'widget')
  return { kind: 'widget', service, widget: id, on: isOn(to), ...(typeof to === 'number' ? { value: to } : {}) }
}

function hubAction(site: Site, name: string, command: string): TrialAction {
  const channel = channelNamed(site, name).id
  const way = site.ways.find((one) => one.kind === 'hub' && one.channel === channel)
  if (way?.kind !== 'hub') throw new NoSuchName(`no hub has an entity for "${name}"`)
  return { kind: 'hub', hub: way.hub, entity: way.entity, command }
}

/** Throws NoSuchName where what is expected, or must never be, names what the site does not have. */
export function checkName(site: Site, one: Expectation | Never): void {
  if ('channel' in one) channelNamed(site, one.channel)
  else if ('load' in one) channelNamed(site, one.load)
  else if ('link' in one) find(site.controllers, one.link, 'controller')
  else if ('phone' in one)
    find(
      site.services.flatMap(({ widgets }) => widgets),
      one.phone,
      'widget',
    )
}

/** Why an expectation does not hold now; null: it does. */
export function unmet(site: Site, expectation: Expectation, now: TrialSnapshot): string | null {
  if ('screens' in expectation) {
    const wrong = site.channels.flatMap((channel) => {
      const truth = trueLevel(
        channel,
        now.channels.find(({ id }) => id === channel.id)!,
      )
      return beliefsOf(site, channel, now)
        .filter(({ level }) => level !== null && level !== truth)
        .map(({ who }) => `the ${who} shows another state of ${channel.name} than it has`)
    })
    return wrong[0] ?? null
  }
  if ('link' in expectation) {
    const { id } = find(site.controllers, expectation.link, 'controller')
    const state = now.links[id] === 'up' ? 'up' : 'down'
    return state === expectation.is ? null : `the link of ${expectation.link} is ${state}`
  }
  if ('phone' in expectation) return unmetPhone(site, expectation, now)
  const channel = channelNamed(site, 'load' in expectation ? expectation.load : expectation.channel)
  const found = now.channels.find(({ id }) => id === channel.id)!
  const level = 'load' in expectation ? found.seen : found.level
  return fits(expectation.is, level) ? null : `${channel.name} is ${wordOf(channel, level)}`
}

const fits = (state: State, level: number): boolean =>
  typeof state === 'number' ? level === state : isOn(state) === level > 0
const wordOf = (channel: Channel, level: number): string =>
  topLevel(channel) > 1 && level > 0 ? `at level ${level}` : level > 0 ? 'on' : 'off'

function unmetPhone(
  site: Site,
  { phone, shows }: Extract<Expectation, { phone: unknown }>,
  now: TrialSnapshot,
): string | null {
  const widgets = site.services.flatMap((service) =>
    service.widgets.map((widget) => ({ ...widget, key: `${service.id}/${widget.id}` })),
  )
  const shown = now.widgets[find(widgets, phone, 'widget').key]!
  const holds = typeof shows === 'number' ? shown.value === shows : isOn(shows) === shown.on
  return holds
    ? null
    : `${phone} on the phone shows ${typeof shows === 'number' ? shown.value : shown.on ? 'on' : 'off'}`
}
