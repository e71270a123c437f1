import { loadOf, roomOf, type Site, type VoiceWay } from '../site'
import { CLASH, likeness, type Alike } from './likeness'
import { heardAs, numberSaid, wordsOf } from './words'

/** A name that can be spoken: of a channel, a room or a group. */
export interface SpokenName {
  readonly kind: 'device' | 'room' | 'group'
  /** way, room or group */
  readonly id: string
  readonly name: string
  /** the voice service that knows a device by it */
  readonly service?: string
}

export interface Clash {
  readonly a: SpokenName
  readonly b: SpokenName
  readonly score: number
  readonly why: Alike
  /** a better name for b, or for a where b is no device; null: none was found */
  readonly proposal: { readonly way: string; readonly name: string } | null
}

export const voiceWays = (site: Site): VoiceWay[] => site.ways.filter((way): way is VoiceWay => way.kind === 'voice')

/** Every name that the voice service knows: devices, then rooms and groups that hold one. */
export function spokenNames(site: Site): SpokenName[] {
  const ways = voiceWays(site)
  const channels = new Set(ways.map((way) => way.channel as string))
  const rooms = site.rooms.filter((room) =>
    site.channels.some((channel) => channel.room === room.id && channels.has(channel.id)),
  )
  const groups = site.groups.filter((group) => group.members.some((member) => channels.has(member)))
  const called = site.groups.flatMap((group) =>
    (group.ways ?? []).flatMap((way) => (way.kind === 'voice' ? [{ id: group.id, name: way.name }] : [])),
  )
  return [
    ...ways.map((way): SpokenName => ({ kind: 'device', id: way.id, name: way.name, service: way.service })),
    ...rooms.map((room): SpokenName => ({ kind: 'room', id: room.id, name: room.name })),
    ...groups.map((group): SpokenName => ({ kind: 'group', id: group.id, name: group.name })),
    ...called.map((group): SpokenName => ({ kind: 'group', ...group })),
  ]
}

/** Pairs of names that can be taken for one another, the worst first, each with a better name. */
export function clashesOf(site: Site): Clash[] {
  const names = spokenNames(site)
  const clashes: Clash[] = []
  for (let i = 0; i < names.length; i++) {
    for (let j = i + 1; j < names.length; j++) {
      const a = names[i]!
      const b = names[j]!
      if (a.kind !== 'device' && b.kind !== 'device') continue
      // each assistant knows its own devices: the same name in two of them is no clash
      if (a.service !== undefined && b.service !== undefined && a.service !== b.service) continue
      const { score, why } = likeness(a.name, b.name)
      // a room's name within a device's is how people speak; only a room that sounds like the whole device clashes
      if (
        score < CLASH ||
        why === null ||
        (why === 'one lies within the other' && (a.kind !== 'device' || b.kind !== 'device'))
      )
        continue
      const way = b.kind === 'device' ? b.id : a.id
      const name = betterName(site, way)
      clashes.push({ a, b, score, why, proposal: name === null ? null : { way, name } })
    }
  }
  return clashes.sort((x, y) => y.score - x.score)
}

/** Words that say what a load is, for names that say nothing. */
const LOAD_WORDS: Record<string, readonly string[]> = {
  led: ['light', 'lamp', 'glow'],
  incandescent: ['lamp', 'light'],
  motor: ['fan', 'motor'],
  heater: ['heater'],
  electronic: ['socket'],
  unknown: ['switch'],
}

/**
 * A name that no other is taken for: with its room, by its load, or with a second word; null: none of those is free.
 */
export function betterName(site: Site, wayId: string): string | null {
  const way = voiceWays(site).find((candidate) => candidate.id === wayId)
  const channel = site.channels.find((candidate) => candidate.id === way?.channel)
  if (!way || !channel) return null
  const room = wordsOf(
    roomOf(site, channel.room)?.name ??
      site.controllers.find((controller) => controller.id === channel.controller)!.name,
  )
  const load = loadOf(site, channel.load)
  const nouns = load ? LOAD_WORDS[load.type]! : ['switch']
  const own = wordsOf(way.name).filter((word) => numberSaid(word) === undefined && !SYMBOL_WORDS.has(word))
  const place = room[0] ?? ''
  const last = own.at(-1) ?? nouns[0]!
  const candidates = [
    ...(own.length && !own.includes(place) ? [`${place} ${own.join(' ')}`] : []),
    ...(load ? [`${place} ${wordsOf(load.name).at(-1)}`] : []),
    ...nouns.map((noun) => `${place} ${noun}`),
    ...['main', 'back', 'side', 'upper', 'corner'].map((word) => `${place} ${word} ${last}`),
  ]
  const others = spokenNames(site).filter((name) => name.id !== wayId)
  return (
    candidates
      .map((name) => name.trim())
      .find(
        (name) =>
          name !== way.name &&
          troubleOf(name) === null &&
          others.every((other) => likeness(name, other.name).score < CLASH),
      ) ?? null
  )
}

const SYMBOL_WORDS = new Set(['relay', 'channel', 'output', 'device', 'gpio', 'vp'])
const VERBS = new Set([
  'turn',
  'switch',
  'set',
  'open',
  'close',
  'start',
  'stop',
  'raise',
  'lower',
  'dim',
  'toggle',
  'lock',
  'unlock',
  'all',
])

/** What is wrong with a name by itself (N04, N05), or null. */
export function troubleOf(name: string): { readonly finding: 'N04' | 'N05'; readonly what: string } | null {
  const signs = name.match(/[^\p{L}\p{N}\s'’]/gu)
  if (signs)
    return {
      finding: 'N04',
      what: `contains ${[...new Set(signs)].map((sign) => `“${sign}”`).join(' ')}, which cannot be spoken`,
    }
  const heard = heardAs(name)
  if (heard.length === 0) return { finding: 'N04', what: 'holds nothing that can be spoken' }
  if (VERBS.has(heard[0]!)) return { finding: 'N05', what: `begins with “${heard[0]}”, which is heard as the command` }
  if (heard.length === 1 && ['light', 'lamp', 'fan', 'switch', 'on', 'off', 'everything'].includes(heard[0]!))
    return { finding: 'N05', what: `is only “${name}”, which means all of them` }
  return null
}
