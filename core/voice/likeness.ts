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

const memory = new Map<string, string>()

/** The double metaphone key of each word, joined (the published algorithm, by a package of the registry). */
function soundOf(words: readonly string[]): string {
  return words
    .map((word) => {
      let key = memory.get(word)
      if (key === undefined) {
        key = doubleMetaphone(word)[0] || word
        if (memory.size > 5_000) memory.clear()
        memory.set(word, key)
      }
      return key
    })
    .join('.')
}

/** From here on two names clash. */
export const CLASH = 0.8

/** How easily one name is heard as the other. */
export function likeness(a: string, b: string): Likeness {
  const plainA = withoutArticles(wordsOf(a)).join(' ')
  const plainB = withoutArticles(wordsOf(b)).join(' ')
  if (plainA === '' || plainB === '') return { score: 0, why: null }
  if (plainA === plainB) return { score: 1, why: 'the same' }
  const heardA = heardAs(a)
  const heardB = heardAs(b)
  if (heardA.join(' ') === heardB.join(' ')) return { score: 0.97, why: 'a number sounds like a word' }
  const soundA = soundOf(heardA)
  const soundB = soundOf(heardB)
  if (soundA.replace(/\./g, '') === soundB.replace(/\./g, '')) return { score: 0.93, why: 'sounds the same' }
  const letters = similar(heardA.join(' '), heardB.join(' '))
  const sounds = similar(soundA, soundB)
  const score = Math.max(letters, (letters + sounds) / 2)
  // "fan" is heard inside "glaze fan": a shorter name swallows the longer one's first or last word
  const [short, long] = heardA.length < heardB.length ? [heardA, heardB] : [heardB, heardA]
  const within = short.length < long.length && long.join(' ').endsWith(short.join(' '))
  if (within && score < CLASH) return { score: 0.8, why: 'one lies within the other' }
  // Two-word names that share a word are kept apart by the other, unless that one is nearly the same too.
  if (score >= CLASH && !differentWordsAlike(heardA, heardB)) return { score: Math.min(score, 0.75), why: null }
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
