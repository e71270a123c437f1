import type { Question } from '../../../core/faults'
import { channelOf, keyOf, type Site, type Way } from '../../../core/site'

/** What a person wants of a channel: the button that asks the question. */
export const WANTS: Readonly<Record<Question, string>> = {
  on: 'turn it on',
  off: 'turn it off',
  screen: 'trust the screens',
  unbidden: 'have it stay still',
  limit: 'have it stop in time',
}

/** What a cell says where the question is so. */
export const SO: Readonly<Record<Question, string>> = {
  on: 'nobody',
  off: 'nobody',
  screen: 'lies',
  unbidden: 'moves',
  limit: 'stays on',
}

/** The same as a sentence behind a channel's name. */
export const SO_WORDS: Readonly<Record<Question, string>> = {
  on: 'nobody can turn it on',
  off: 'nobody can turn it off by a way in; the breaker remains',
  screen: 'a screen shows another state than the load has',
  unbidden: 'it comes on or moves by itself, at once or when power is back',
  limit: 'it stays on past its limit',
}
/** Before the hours of the whole house. */
export const SO_HOURS: Readonly<Record<Question, string>> = {
  on: 'At least one channel is without control for',
  off: 'At least one channel cannot be turned off for',
  screen: 'At least one screen is wrong for',
  unbidden: 'Until it is repaired, something is on by itself for',
  limit: 'A limit is of no use for',
}
export const FINE_WORDS: Readonly<Record<Question, string>> = {
  on: 'somebody can turn it on',
  off: 'somebody can turn it off',
  screen: 'its screens are right, or say that its board is offline',
  unbidden: 'it stays as it is',
  limit: 'its board ends it in time',
}

const KIND_WORDS: Readonly<Record<Way['kind'], string>> = {
  wall: 'wall',
  remote: 'remote',
  app: 'app',
  hub: 'hub',
  voice: 'voice',
  link: 'line',
}

/** The last way that is left, in a word: "wall only". */
export function onlyWords(site: Site, ways: readonly string[]): string {
  const kinds = new Set(ways.flatMap((id) => site.ways.find((way) => way.id === id)?.kind ?? []))
  return kinds.size === 1 ? `${KIND_WORDS[[...kinds][0]!]} only` : ''
}

/** A way as a person names it: "switch S1", "app", "key Power of Throwing remote". */
export function wayWords(site: Site, id: string): string {
  const way = site.ways.find((one) => one.id === id)
  if (!way) return id
  switch (way.kind) {
    case 'wall':
      return `switch ${site.inputs.find((input) => input.id === way.input)?.name ?? way.input}`
    case 'remote':
      return `key ${keyOf(site, way.remote, way.key)?.name ?? way.key}`
    case 'link':
      return `character ${way.char}`
    case 'voice':
      return `voice “${way.name}”`
    default:
      return KIND_WORDS[way.kind]
  }
}

/** Hours a year: minutes below one hour. */
export function hoursWords(hours: number): string {
  if (hours >= 10) return `${hours.toFixed(0)} h`
  if (hours >= 1) return `${hours.toFixed(1)} h`
  const minutes = hours * 60
  return minutes >= 1 ? `${minutes.toFixed(0)} min` : hours > 0 ? 'under 1 min' : '0 min'
}

export const nameOfChannel = (site: Site, id: string): string => channelOf(site, id)?.name ?? id
