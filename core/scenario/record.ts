import { stringify } from 'yaml'
import { FAULT_KINDS } from '../parts'
import type { Deed as Done, TrialAction } from '../trial'
import type { Site } from '../site'
import type { Deed } from './schema'

/** What was pressed in a trial, written down as a scenario that does the same. */

const named = (list: readonly { readonly id: string; readonly name: string }[], id: string): string => {
  const found = list.find((one) => one.id === id)
  // two things of one name are told apart by their ids
  return found && list.filter(({ name }) => name === found.name).length === 1 ? found.name : id
}

/** One action of a trial as a deed of a scenario; undefined: the site has no such thing any more. */
function deedOf(site: Site, action: TrialAction): Deed | undefined {
  switch (action.kind) {
    case 'press':
      return { hold: named(site.inputs, action.input) }
    case 'release':
      return { release: named(site.inputs, action.input) }
    case 'rock':
      return { rock: named(site.inputs, action.input) }
    case 'turn':
      return { turn: named(site.inputs, action.input), to: action.code }
    case 'key': {
      const remote = site.remotes.find(({ id }) => id === action.remote)
      return remote && { key: named(remote.keys, action.key), of: named(site.remotes, action.remote) }
    }
    case 'char':
      return { character: action.char, over: named(site.links, action.link) }
    case 'say':
      return { say: action.text }
    case 'reading':
      return { reading: named(site.sensors, action.sensor), is: action.value }
    case 'curve':
      return { curve: named(site.sensors, action.sensor), low: action.low, high: action.high }
    case 'clock':
      return { clock: action.local }
    case 'widget': {
      const widgets = site.services.flatMap((service) => service.widgets)
      return { tap: named(widgets, action.widget), to: action.value ?? (action.on ? 'on' : 'off') }
    }
    case 'hub': {
      const entity = site.hubs.flatMap(({ entities }) => entities).find(({ id }) => id === action.entity)
      return entity && { hub: named(site.channels, entity.channel), says: action.command }
    }
    default:
      return rarerDeed(site, action)
  }
}

type Word = Extract<Deed, { group: unknown }>['says']

function rarerDeed(site: Site, action: TrialAction): Deed | undefined {
  switch (action.kind) {
    case 'group':
      return { group: named(site.groups, action.group), says: action.command as Word }
    case 'mode':
      return { mode: named(site.controllers, action.controller), says: action.command === 'auto' ? 'auto' : 'manual' }
    case 'replay':
      return { replay: 'commands' }
    case 'stand':
      return { stand: action.place }
    case 'pair':
      return { pair: named(site.controllers, action.controller), pin: action.right ? 'right' : 'wrong' }
    case 'break': {
      const what = { part: action.what }
      if (!action.broken) return { mend: what }
      return { break: what, ...(FAULT_KINDS.includes(action.how ?? 'gone') && action.how ? { as: action.how } : {}) }
    }
    default:
      return undefined
  }
}

/** A time as a scenario writes it. */
const timeOf = (ms: number): string => (ms % 1_000 === 0 ? `${ms / 1_000} s` : `${ms} ms`)

/** The deeds of a trial as a scenario, with what every channel was in the end as its expectation. */
export function scenarioText(
  site: Site,
  title: string,
  deeds: readonly Done[],
  end: { readonly t: number; readonly levels: ReadonlyMap<string, number> },
): string {
  const byTime = new Map<number, Deed[]>()
  for (const { t, action } of deeds) {
    const deed = deedOf(site, action)
    if (deed) byTime.set(t, [...(byTime.get(t) ?? []), deed])
  }
  const steps = [...byTime].map(([t, list]) => ({ at: timeOf(t), do: list.length === 1 ? list[0] : list }))
  const expected = site.channels.flatMap(({ id, name }) => {
    const level = end.levels.get(id)
    return level === undefined
      ? []
      : [{ load: named(site.channels, id) || name, is: level === 0 ? 'off' : level === 1 ? 'on' : level }]
  })
  const last = { at: timeOf(Math.ceil(end.t)), expect: expected }
  return stringify(
    { scenario: title, steps: [...steps, ...(expected.length > 0 ? [last] : [])] },
    { lineWidth: 110, aliasDuplicateObjects: false },
  )
}
