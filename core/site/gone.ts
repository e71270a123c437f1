import type { Site } from './schema'

/** A thing of the document that has a word by which people know it. */
interface Known {
  readonly key: string
  readonly word: string
}

const named = (kind: string, list: readonly { readonly id: string; readonly name: string }[]): Known[] =>
  list.map(({ id, name }) => ({ key: `${kind} ${id}`, word: `${kind} ${name}` }))

/** Everything with a name of its own, and each way, rule and group control. */
const known = (site: Site): Known[] => [
  ...named('controller', site.controllers),
  ...named('channel', site.channels),
  ...named('switch', site.inputs),
  ...named('sensor', site.sensors),
  ...named('group', site.groups),
  ...named('link', site.links),
  ...named('rule', site.rules),
  ...named('remote', site.remotes),
  ...named('service', site.services),
  ...named('hub', site.hubs),
  ...site.remotes.flatMap((remote) => named(`key of ${remote.name}:`, remote.keys)),
  ...site.services.flatMap((service) => [
    ...named(`point of ${service.name}:`, service.points),
    ...named(`widget of ${service.name}:`, service.widgets),
  ]),
  ...site.hubs.flatMap((hub) => named(`entity of ${hub.name}:`, hub.entities)),
]

const usedSwitches = (site: Site): Set<string> =>
  new Set(
    [...site.ways, ...site.controls].flatMap((way) => ('input' in way && way.input !== undefined ? [way.input] : [])),
  )

/** More than these are counted, not named. */
const MOST_NAMED = 4
const listed = (words: readonly string[]): string =>
  words.length <= MOST_NAMED
    ? words.join(', ')
    : `${words.slice(0, MOST_NAMED).join(', ')} and ${words.length - MOST_NAMED} more`

export interface Gone {
  /** what went beside the thing itself, as a person reads it; empty: nothing */
  readonly along: string
  /** switches that worked something and now work nothing */
  readonly idle: readonly string[]
}

/**
 * What an edit that takes something out took with it. `itself` is the word of the thing that was meant to go, `meant`
 * how many ways were.
 */
export function goneWith(before: Site, after: Site, itself: string, meant = 0): Gone {
  const left = new Set(known(after).map(({ key }) => key))
  const words = known(before)
    .filter(({ key }) => !left.has(key))
    .map(({ word }) => word)
  // widgets and entities bear the names of their channels: the thing itself is the one that is of nothing else
  const own = words.filter((word) => word.endsWith(` ${itself}`))
  const meantWord = own.find((word) => !word.includes(' of ')) ?? own[0]
  if (meantWord !== undefined) words.splice(words.indexOf(meantWord), 1)
  const ways = before.ways.length - after.ways.length - meant
  const along = [
    ...(ways > 0 ? [`${ways} ${ways === 1 ? 'way' : 'ways'}`] : []),
    ...(words.length ? [listed(words)] : []),
  ]
  const used = usedSwitches(after)
  const idle = after.inputs.filter(({ id }) => usedSwitches(before).has(id) && !used.has(id)).map(({ name }) => name)
  return { along: along.join(', '), idle }
}
