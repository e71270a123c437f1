import {
  channelOf,
  kindOf,
  roomOf,
  topLevel,
  type Channel,
  type Group,
  type GroupWay,
  type Site,
  type SpokenWord,
  type VoiceWay,
} from '../site'
import { likeness } from './likeness'
import { voiceWays } from './names'
import { heardAs, numberSaid, withoutArticles, wordsOf } from './words'

/** What an utterance asks for. */
export type Spoken =
  | { readonly action: 'on' | 'off' | 'toggle' | 'up' | 'down' | 'pulse' | 'open' | 'close' | 'a' | 'b' | 'stop' }
  | { readonly action: 'level'; readonly level: number }

export type Resolution =
  | {
      readonly kind: 'device'
      readonly way: VoiceWay
      readonly channel: Channel
      readonly spoken: Spoken
      readonly score: number
      readonly why: readonly string[]
    }
  | {
      readonly kind: 'many'
      /** a room or a group */ readonly what: string
      readonly ways: readonly VoiceWay[]
      readonly spoken: Spoken
      readonly why: readonly string[]
    }
  | {
      readonly kind: 'group'
      readonly group: string
      readonly what: string
      readonly through: 'app' | 'hub'
      readonly spoken: Spoken
      readonly why: readonly string[]
    }
  | { readonly kind: 'ambiguous'; readonly ways: readonly VoiceWay[]; readonly why: readonly string[] }
  | { readonly kind: 'nothing'; readonly why: readonly string[] }

/** What is said first, and what it asks. Longer ones stand before shorter ones. */
const PHRASES: readonly (readonly [string, SpokenWord | 'set' | 'verb'])[] = [
  ['turn on', 'on'],
  ['turn off', 'off'],
  ['switch on', 'on'],
  ['switch off', 'off'],
  ['put on', 'on'],
  ['shut off', 'off'],
  ['shut down', 'off'],
  ['start', 'on'],
  ['light up', 'on'],
  ['kill', 'off'],
  ['turn up', 'up'],
  ['turn down', 'down'],
  ['speed up', 'up'],
  ['slow down', 'down'],
  ['raise', 'up'],
  ['increase', 'up'],
  ['lower', 'down'],
  ['decrease', 'down'],
  ['open', 'open'],
  ['unlock', 'open'],
  ['close', 'close'],
  ['shut', 'close'],
  ['lock', 'close'],
  ['stop', 'stop'],
  ['toggle', 'toggle'],
  ['buzz', 'pulse'],
  ['release', 'pulse'],
  ['set', 'set'],
  ['turn', 'verb'],
  ['switch', 'verb'],
  ['put', 'verb'],
  ['make', 'verb'],
  ['run', 'on'],
]
const TAILS: Readonly<Record<string, SpokenWord>> = {
  on: 'on',
  off: 'off',
  up: 'up',
  down: 'down',
  faster: 'up',
  slower: 'down',
  open: 'open',
  closed: 'close',
  close: 'close',
  stop: 'stop',
  brighter: 'up',
}
const POLITE = new Set([
  'please',
  'now',
  'thanks',
  'hey',
  'okay',
  'ok',
  'can',
  'could',
  'would',
  'will',
  'you',
  'just',
  'quickly',
])

interface Parsed {
  readonly word: SpokenWord | null
  readonly number: number | null
  readonly percent: boolean
  /** "all", "everything" was said */
  readonly all: boolean
  readonly rest: readonly string[]
  readonly room: readonly string[]
}

/** Takes the utterance apart: what is asked, a number, and the words that name the thing. */
function parse(utterance: string): Parsed {
  let words = wordsOf(utterance).filter((word) => !POLITE.has(word))
  let asked: SpokenWord | 'set' | 'verb' | null = null
  const phrase = PHRASES.find(([text]) => words.slice(0, text.split(' ').length).join(' ') === text)
  if (phrase) {
    words = words.slice(phrase[0].split(' ').length)
    asked = phrase[1]
  }
  const { number, percent, left } = takeNumber(words, asked === 'set')
  words = left
  const tail = TAILS[words.at(-1) ?? '']
  if (tail && (asked === null || asked === 'set' || asked === 'verb') && words.length > 1) {
    words = words.slice(0, -1)
    asked = tail
  }
  // "turn the lamp on": the word stands behind the name, or before the room
  const at = words.findIndex(
    (word, i) => (word === 'on' || word === 'off') && i > 0 && ['in', 'at'].includes(words[i + 1] ?? ''),
  )
  if (at > 0 && (asked === null || asked === 'verb')) {
    asked = words[at] as SpokenWord
    words = words.filter((_, i) => i !== at)
  }
  const inside = words.findIndex((word, i) => i > 0 && (word === 'in' || word === 'at'))
  const room = inside > 0 ? words.slice(inside + 1) : []
  const named = inside > 0 ? words.slice(0, inside) : words
  const all = named[0] === 'all' || named[0] === 'everything' || named[0] === 'every'
  return {
    word: asked === 'set' || asked === 'verb' ? null : asked,
    number,
    percent,
    all,
    rest: withoutArticles(all ? named.slice(1) : named).filter((word) => word !== 'of' && word !== 'everything'),
    room: withoutArticles(room),
  }
}

/**
 * "… to level 3", "… to 50 percent", "… at half": the number at the end, which must come after "to", "at" or "level".
 */
function takeNumber(
  words: readonly string[],
  set: boolean,
): { number: number | null; percent: boolean; left: string[] } {
  const list = [...words]
  const percent = list.at(-1) === 'percent'
  if (percent) list.pop()
  const number = list.length > 1 ? numberSaid(list.at(-1)!) : undefined
  const before = list.at(-2) ?? ''
  if (number === undefined || !(percent || ['to', 'at', 'level', 'speed', 'step'].includes(before) || set))
    return { number: null, percent: false, left: [...words] }
  list.pop()
  while (['to', 'at', 'level', 'speed', 'step'].includes(list.at(-1) ?? '')) list.pop()
  return { number, percent, left: list }
}

/** What a word or a number means to a channel; undefined: its kind can do nothing of the sort. */
export function meaning(
  channel: Channel,
  word: SpokenWord | null,
  number: number | null,
  percent: boolean,
): Spoken | undefined {
  const { spoken } = kindOf(channel)
  if (number === null) {
    const action = word && spoken.words(channel)[word]
    return action ? ({ action } as Spoken) : undefined
  }
  const top = topLevel(channel)
  // the same rounding as a point's value: only nothing is off
  const level = percent || number > top ? Math.ceil((Math.min(100, number) * top) / 100) : number
  if (spoken.numbers === 'levels') return { action: 'level', level }
  return spoken.numbers === 'on or off' ? { action: level > 0 ? 'on' : 'off' } : undefined
}

const LEAST_SCORE = 0.75
/** Two names that fit this nearly equally leave a listener undecided. */
const UNDECIDED = 0.04

/**
 * What an utterance is taken for, and why: the same for the line on screen and for the stand-in of the voice service.
 */
export function resolveUtterance(site: Site, utterance: string): Resolution {
  const parsed = parse(utterance)
  const said = parsed.rest.join(' ')
  const why: string[] = [
    parsed.word || parsed.number !== null
      ? `asks: ${parsed.number !== null ? `${parsed.number}${parsed.percent ? ' %' : ''}` : parsed.word}`
      : 'asks for nothing that is known: on, off, up, down, open, close, stop, or a number',
  ]
  if (!parsed.word && parsed.number === null) return { kind: 'nothing', why }
  if (said) why.push(`names: “${said}”, heard as “${heardAs(said).join(' ')}”`)
  const group = groupSaid(site, parsed)
  if (group) return toGroup(group, parsed, why)
  const many = manyOf(site, parsed)
  const scored = voiceWays(site)
    .map((way) => ({ way, score: score(site, way, parsed) }))
    .filter(({ score: value }) => value >= LEAST_SCORE)
    .sort((a, b) => b.score - a.score)
  if (many && (!scored[0] || scored[0].score < many.score)) return toMany(many, parsed, why)
  if (!scored[0])
    return {
      kind: 'nothing',
      why: [...why, said ? 'no device, room or group is called anything like it' : 'names nothing'],
    }
  return toDevice(site, scored, parsed, why)
}

interface GroupSaid {
  readonly group: Group
  readonly way: Extract<GroupWay, { kind: 'voice' }>
}

/** A group that has a spoken name of its own, as a scene has. */
function groupSaid(site: Site, parsed: Parsed): GroupSaid | undefined {
  const said = parsed.rest.join(' ')
  if (said === '' || parsed.number !== null) return undefined
  return site.groups
    .flatMap((group) => (group.ways ?? []).map((way) => ({ group, way })))
    .find((one): one is GroupSaid => one.way.kind === 'voice' && likeness(said, one.way.name).score >= 0.9)
}

function toGroup({ group, way }: GroupSaid, parsed: Parsed, why: readonly string[]): Resolution {
  const spoken = groupMeaning(parsed.word)
  if (!spoken) return { kind: 'nothing', why: [...why, `group ${group.name} can be told on or off, not that`] }
  const what = `group ${group.name}`
  return {
    kind: 'group',
    group: group.id,
    what,
    through: way.through,
    spoken,
    why: [...why, `“${way.name}” is ${what}`],
  }
}

function toMany(many: Many, parsed: Parsed, why: readonly string[]): Resolution {
  const spoken = groupMeaning(parsed.word)
  if (!spoken) return { kind: 'nothing', why: [...why, `${many.what} can be told on or off, not that`] }
  return {
    kind: 'many',
    what: many.what,
    ways: many.ways,
    spoken,
    why: [...why, `${many.what}: ${many.ways.map((way) => way.name).join(', ')}`],
  }
}

/** The device that fits best, if no other fits nearly as well and its kind can do what is asked. */
function toDevice(site: Site, scored: readonly Scored[], parsed: Parsed, why: readonly string[]): Resolution {
  const best = scored[0]!
  // the same lamp may be known to several assistants
  const rivals = scored.filter(
    ({ way, score: value }, at) => best.score - value < UNDECIDED && (at === 0 || way.channel !== best.way.channel),
  )
  if (rivals.length > 1)
    return {
      kind: 'ambiguous',
      ways: rivals.map(({ way }) => way),
      why: [
        ...why,
        `could be ${rivals.map(({ way, score: value }) => `“${way.name}” (${value.toFixed(2)})`).join(' or ')}`,
      ],
    }
  const channel = channelOf(site, best.way.channel)!
  const spoken = meaning(channel, parsed.word, parsed.number, parsed.percent)
  if (!spoken) return { kind: 'nothing', why: [...why, `“${best.way.name}” is ${channel.kind} and cannot do that`] }
  return {
    kind: 'device',
    way: best.way,
    channel,
    spoken,
    score: best.score,
    why: [
      ...why,
      `“${best.way.name}” fits best (${best.score.toFixed(2)})`,
      ...(scored[1] ? [`next: “${scored[1].way.name}” (${scored[1].score.toFixed(2)})`] : []),
      ...(best.way.pin ? ['asks for its PIN first'] : []),
    ],
  }
}

interface Scored {
  readonly way: VoiceWay
  readonly score: number
}

/** How well a device fits: by its name, better where its room is said too. */
function score(site: Site, way: VoiceWay, parsed: Parsed): number {
  if (parsed.rest.length === 0 || parsed.all) return 0
  const said = parsed.rest.join(' ')
  const channel = channelOf(site, way.channel)!
  const room = roomOf(site, channel.room)?.name ?? ''
  const plain = likeness(said, way.name).score
  const placed = room ? likeness(said, `${room} ${way.name}`).score : 0
  const best = Math.max(plain, placed, thingInRoom(parsed.rest, room, way.name))
  if (parsed.room.length === 0) return best
  return likeness(parsed.room.join(' '), room).score >= LEAST_SCORE ? Math.min(1, best + 0.1) : best - 0.3
}

/** "the glaze room light": the room is said whole, and what is left is how the device's own name ends. */
function thingInRoom(rest: readonly string[], room: string, name: string): number {
  const place = wordsOf(room)
  const at = rest.findIndex((_, i) => place.length > 0 && place.every((word, k) => rest[i + k] === word))
  const thing = at < 0 ? [] : rest.filter((_, i) => i < at || i >= at + place.length)
  if (thing.length === 0) return 0
  const last = (words: readonly string[]): string => heardAs(words.slice(-thing.length).join(' ')).join(' ')
  return last(thing) === last(wordsOf(name)) ? 0.85 : 0
}

const groupMeaning = (word: SpokenWord | null): Spoken | undefined =>
  word === 'on' || word === 'off' || word === 'toggle'
    ? { action: word }
    : word === 'stop'
      ? { action: 'off' }
      : undefined

interface Many {
  readonly what: string
  readonly ways: VoiceWay[]
  readonly score: number
}

/** "everything in the glaze room", "all lights", "the yard", or a group by its name. */
function manyOf(site: Site, parsed: Parsed): Many | undefined {
  const ways = voiceWays(site)
  const inRoom = (id: string): VoiceWay[] => ways.filter((way) => channelOf(site, way.channel)?.room === id)
  const said = [...parsed.rest].join(' ')
  for (const group of site.groups) {
    const { score: value } = said ? likeness(said, group.name) : { score: 0 }
    if (value >= 0.9)
      return {
        what: `group ${group.name}`,
        ways: ways.filter((way) => group.members.includes(way.channel)),
        score: value,
      }
  }
  const roomSaid = parsed.room.length ? parsed.room.join(' ') : said
  const room = site.rooms.find((candidate) => roomSaid !== '' && likeness(roomSaid, candidate.name).score >= 0.9)
  if (
    room &&
    (parsed.all || (parsed.room.length === 0 && inRoom(room.id).length > 0)) &&
    (parsed.rest.length === 0 || parsed.room.length === 0)
  )
    return { what: room.name, ways: inRoom(room.id), score: 0.95 }
  if (parsed.all) {
    const noun = heardAs(said)[0]
    const among = room ? inRoom(room.id) : ways
    const named =
      noun === undefined
        ? among
        : among.filter(
            (way) =>
              heardAs(way.name).includes(noun) ||
              (noun === 'light' && heardAs(way.name).some((word) => ['lamp', 'spot', 'light'].includes(word))),
          )
    if (named.length)
      return { what: room ? `all of ${room.name}` : noun ? `every ${noun}` : 'everything', ways: named, score: 1 }
  }
  return undefined
}

/** What an utterance was taken for, in a few words: "Bench lights: on". */
export function resolutionWords(found: Resolution): string {
  if (found.kind === 'ambiguous') return 'undecided'
  if (found.kind === 'nothing') return 'nothing'
  const { spoken } = found
  const asked = spoken.action === 'level' ? `level ${spoken.level}` : spoken.action
  return `${found.kind === 'device' ? found.channel.name : found.what}: ${asked}`
}
