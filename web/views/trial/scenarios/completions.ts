import { FAULT_KINDS } from '../../../../core/parts'
import { holdersOf } from '../../../../core/services'
import type { Site } from '../../../../core/site'

/** What can be written next in a scenario, by what stands before it in its line. */

interface Word {
  readonly label: string
  readonly detail: string
}

const DEEDS: readonly Word[] = [
  { label: 'press: ', detail: 'a switch, for: 3 s' },
  { label: 'rock: ', detail: 'a rocker' },
  { label: 'turn: ', detail: 'a selector, to: CODE' },
  { label: 'key: ', detail: 'of a remote, of: REMOTE' },
  { label: 'say: ', detail: 'a line to the voice service' },
  { label: 'tap: ', detail: 'a widget, to: on' },
  { label: 'hub: ', detail: 'a channel, says: on' },
  { label: 'group: ', detail: 'by the hub, says: off' },
  { label: 'mode: ', detail: 'a controller, says: manual' },
  { label: 'reading: ', detail: 'a sensor, is: 21.5' },
  { label: 'curve: ', detail: 'a sensor, low: 10, high: 30' },
  { label: 'character: ', detail: 'over: LINK' },
  { label: 'clock: ', detail: 'local date and time' },
  { label: 'stand: ', detail: 'here, house or away' },
  { label: 'break: ', detail: 'a part, as: stuck' },
  { label: 'mend: ', detail: 'a part' },
  { label: 'replay: commands', detail: 'the network says commands again' },
]
const EXPECTATIONS: readonly Word[] = [
  { label: 'channel: ', detail: 'what its controller has, is: on' },
  { label: 'load: ', detail: 'what is seen of it, is: on' },
  { label: 'link: ', detail: 'of a controller, is: up' },
  { label: 'phone: ', detail: 'a widget, shows: on' },
  { label: 'screens: agree', detail: 'every screen shows what is' },
]
const STEP: readonly Word[] = [
  { label: 'at: ', detail: 'since the start' },
  { label: 'after: ', detail: 'since the step before' },
  { label: 'do: ', detail: 'what is done' },
  { label: 'expect: ', detail: 'what must be seen' },
  { label: 'within: ', detail: 'by then' },
]

const quoted = (name: string): string => (/^[\w][\w ’'.-]*$/.test(name) ? name : JSON.stringify(name))
const names = (list: readonly { readonly name: string; readonly id: string }[]): Word[] =>
  list.map(({ name, id }) => ({ label: quoted(name), detail: id }))
const words = (list: readonly string[]): Word[] => list.map((label) => ({ label, detail: '' }))

type Values = (site: Site) => Word[]
const PARTS: Values = () =>
  words([
    'mains',
    'router',
    'wifi',
    'internet',
    'hub-machine',
    'broker',
    'hub',
    'phone',
    'voice',
    '{ power: ',
    '{ service: ',
    '{ switch: ',
    '{ wire: ',
    '{ contact: ',
    '{ load: ',
    '{ part: ',
  ])

/** What may follow a word and its colon. */
const VALUES: Readonly<Record<string, Values>> = {
  press: (site) => names(site.inputs),
  hold: (site) => names(site.inputs),
  release: (site) => names(site.inputs),
  rock: (site) => names(site.inputs.filter(({ kind }) => kind === 'rocker')),
  turn: (site) => names(site.inputs.filter(({ kind }) => kind === 'selector')),
  key: (site) => names(site.remotes.flatMap(({ keys }) => keys)),
  of: (site) => names(site.remotes),
  tap: (site) => names(site.services.flatMap(({ widgets }) => widgets)),
  phone: (site) => names(site.services.flatMap(({ widgets }) => widgets)),
  hub: (site) =>
    names(site.channels.filter(({ id }) => site.ways.some((way) => way.kind === 'hub' && way.channel === id))),
  group: (site) => names(site.groups),
  mode: (site) => names(site.controllers),
  pair: (site) => names(site.controllers),
  reading: (site) => names(site.sensors),
  curve: (site) => names(site.sensors),
  sensor: (site) => names(site.sensors),
  over: (site) => names(site.links),
  channel: (site) => names(site.channels),
  load: (site) => names(site.channels),
  contact: (site) => names(site.channels),
  coil: (site) => names(site.channels),
  link: (site) => names(site.controllers),
  power: (site) => names(site.controllers),
  breaker: (site) => names(site.controllers),
  board: (site) => names(site.controllers),
  switch: (site) => names(site.inputs),
  wire: (site) => names(site.inputs),
  remote: (site) => names(site.remotes),
  service: (site) => names(holdersOf(site).map(({ service }) => service)),
  stand: () => words(['here', 'house', 'away']),
  as: () => words([...FAULT_KINDS]),
  is: () => words(['on', 'off', 'up', 'down']),
  shows: () => words(['on', 'off']),
  to: () => words(['on', 'off']),
  says: () => words(['on', 'off', 'toggle', 'pulse', 'auto', 'manual']),
  screens: () => words(['agree']),
  break: PARTS,
  mend: PARTS,
}

/** The words that may follow, and what of one is typed already; null: nothing is known of this place. */
export function wordsFor(
  site: Site,
  before: string,
): { readonly typed: string; readonly words: readonly Word[] } | null {
  const value = /([a-z]+):\s+("?[^,:{}[\]]*)$/.exec(before)
  if (value && value[1] !== 'do' && value[1] !== 'expect') {
    const list = VALUES[value[1]!]?.(site)
    return list ? { typed: value[2]!, words: list } : null
  }
  const typed = /[a-z]*$/.exec(before)![0]
  const rest = before.slice(0, before.length - typed.length)
  if (/(do|expect):\s*(\[?\s*\{?|\[.*[,{])\s*$/.test(rest)) {
    const isDeed = rest.lastIndexOf('do:') > rest.lastIndexOf('expect:')
    return { typed, words: isDeed ? DEEDS : EXPECTATIONS }
  }
  return /^\s*-?\s*\{?\s*$/.test(rest) || /,\s*$/.test(rest) ? { typed, words: STEP } : null
}
