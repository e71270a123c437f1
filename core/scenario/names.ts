import { beliefsOf, trueLevel, type TrialAction, type TrialSnapshot } from '../trial'
import type { PartId } from '../parts'
import { holdersOf } from '../services'
import { topLevel, type Channel, type Site } from '../site'
import type { Deed, Expectation } from './schema'

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

export function breakableOf(site: Site, what: Extract<Deed, { break: unknown }>['break']): PartId {
  if (typeof what === 'string') return what
  if ('power' in what) return `power:${find(site.controllers, what.power, 'controller').id}`
  return `service:${
    find(
      holdersOf(site).map(({ service }) => service),
      what.service,
      'service',
    ).id
  }`
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
  return 'break' in deed
    ? [{ kind: 'break', what: breakableOf(site, deed.break), broken: true }]
    : [{ kind: 'break', what: breakableOf(site, deed.mend), broken: false }]
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
  const channel = channelNamed(site, expectation.channel)
  const { level } = now.channels.find(({ id }) => id === channel.id)!
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
