import { doubleMetaphone } from 'double-metaphone'
import { distance } from 'fastest-levenshtein'
import { heardAs, withoutArticles, wordsOf } from './words'

/** Why two names are taken for one another. */
export type Alike =
  | 'the same'
  | 'a number sounds like a word'
  | 'sounds the same'
  | 'nearly the same letters'
  | 'one lies within the other'

export interface Likeness {
  /** 0: nothing in common, 1: the same */
  readonly score: number
  readonly why: Alike | null
}

/** A name as it is compared: as it is written, as a listener writes it, and as it sounds. */
interface Heard {
  readonly plain: string
  readonly words: readonly string[]
  readonly text: string
  readonly sound: string
  readonly flat: string
}

/** More different names than any site has: beyond them what was worked out is let go. */
const MOST_REMEMBERED = 5_000

/** Works a value out once for each text; the texts of a site are compared in pairs, again and again. */
function remembered<T>(of: (text: string) => T): (text: string) => T {
  const memory = new Map<string, T>()
  return (text) => {
    let value = memory.get(text)
    if (value === undefined) {
      value = of(text)
      if (memory.size > MOST_REMEMBERED) memory.clear()
      memory.set(text, value)
    }
    return value
  }
}

/** The double metaphone key of a word (the published algorithm, by a package of the registry). */
const keyOf = remembered((word) => doubleMetaphone(word)[0] || word)
const soundOf = (words: readonly string[]): string => words.map(keyOf).join('.')

const heard = remembered((name): Heard => {
  const words = heardAs(name)
  const sound = soundOf(words)
  return {
    plain: withoutArticles(wordsOf(name)).join(' '),
    words,
    text: words.join(' '),
    sound,
    flat: sound.replace(/\./g, ''),
  }
})

/** From here on two names clash. */
export const CLASH = 0.8

/** How easily one name is heard as the other. */
export function likeness(a: string, b: string): Likeness {
  const [one, other] = [heard(a), heard(b)]
  if (one.plain === '' || other.plain === '') return { score: 0, why: null }
  if (one.plain === other.plain) return { score: 1, why: 'the same' }
  if (one.text === other.text) return { score: 0.97, why: 'a number sounds like a word' }
  if (one.flat === other.flat) return { score: 0.93, why: 'sounds the same' }
  const letters = similar(one.text, other.text)
  const sounds = similar(one.sound, other.sound)
  const score = Math.max(letters, (letters + sounds) / 2)
  // "fan" is heard inside "glaze fan": a shorter name swallows the longer one's first or last word
  const [short, long] = one.words.length < other.words.length ? [one, other] : [other, one]
  const within = short.words.length < long.words.length && long.text.endsWith(short.text)
  if (within && score < CLASH) return { score: 0.8, why: 'one lies within the other' }
  // Two-word names that share a word are kept apart by the other, unless that one is nearly the same too.
  if (score >= CLASH && !differentWordsAlike(one.words, other.words)) return { score: Math.min(score, 0.75), why: null }
  return { score, why: score >= CLASH ? 'nearly the same letters' : null }
}

const similar = (a: string, b: string): number => 1 - distance(a, b) / Math.max(a.length, b.length, 1)

/** The words in which two names differ: are they near enough to be taken for each other? */
function differentWordsAlike(a: readonly string[], b: readonly string[]): boolean {
  const onlyA = a.filter((word) => !b.includes(word))
  const onlyB = b.filter((word) => !a.includes(word))
  if (onlyA.length === 0 || onlyB.length === 0) return true
  return similar(onlyA.join(' '), onlyB.join(' ')) >= 0.7 || soundOf(onlyA) === soundOf(onlyB)
}
