import type { SelectorInput, SteppedChannel } from '../site'
import { assign, FORBIDDEN } from '../pins'

/** What a selector's wiring can say of a stepped channel. */
export interface SelectorReading {
  /** levels 0 to L that some code stands for */
  readonly expressed: readonly number[]
  /** levels that no code stands for */
  readonly missing: readonly number[]
  /** levels that several codes stand for, with those codes */
  readonly collisions: readonly { readonly level: number; readonly codes: readonly number[] }[]
  /** codes for levels that the channel does not have */
  readonly beyond: readonly number[]
}

export function readSelector(input: SelectorInput, channel: SteppedChannel): SelectorReading {
  const codesOf = new Map<number, number[]>()
  input.table.forEach((level, code) => {
    if (level !== null) codesOf.set(level, [...(codesOf.get(level) ?? []), code])
  })
  const levels = channel.patterns.map((_, level) => level)
  return {
    expressed: levels.filter((level) => codesOf.has(level)),
    missing: levels.filter((level) => !codesOf.has(level)),
    collisions: [...codesOf]
      .filter(([level, codes]) => codes.length > 1 && level < levels.length)
      .map(([level, codes]) => ({ level, codes })),
    beyond: [...codesOf].filter(([level]) => level >= levels.length).flatMap(([, codes]) => codes),
  }
}

export interface Rewiring {
  readonly level: number
  readonly code: number
  /** bits to be joined at that detent, from 1 */
  readonly bits: readonly number[]
  /** wires to add or to move */
  readonly wires: number
}

const bitsOf = (code: number): number[] => [0, 1, 2, 3].filter((bit) => code & (1 << bit)).map((bit) => bit + 1)

/**
 * The smallest rewiring that lets every level be said: each missing level gets a code that is free, or that only
 * repeats another, at least total number of joined bits. Null: there are not enough codes, a further bit is needed.
 */
export function smallestRewiring(input: SelectorInput, channel: SteppedChannel): Rewiring[] | null {
  const reading = readSelector(input, channel)
  if (reading.missing.length === 0) return []
  const spare = new Set(
    reading.collisions.flatMap(({ codes }) => [...codes].sort((a, b) => bitsOf(a).length - bitsOf(b).length).slice(1)),
  )
  const usable = (code: number): boolean =>
    input.table[code] === null || spare.has(code) || reading.beyond.includes(code)
  const costs = reading.missing.map((level) =>
    input.table.map((_, code) =>
      usable(code) && (code !== 0 || level === 0) ? Math.max(1, bitsOf(code).length) : FORBIDDEN,
    ),
  )
  const answer = assign(costs, input.table.length)
  if (answer.kind === 'impossible') return null
  return reading.missing.map((level, row) => ({
    level,
    code: answer.columns[row]!,
    bits: bitsOf(answer.columns[row]!),
    wires: costs[row]![answer.columns[row]!]!,
  }))
}

/** Levels whose pattern closes contacts that were never meant to be closed together. */
export function forbiddenPatterns(
  channel: SteppedChannel,
): { readonly level: number; readonly contacts: readonly number[] }[] {
  return channel.patterns.flatMap((pattern, level) =>
    channel.never
      .filter((set) => set.length > 0 && set.every((contact) => pattern.includes(contact)))
      .map((contacts) => ({ level, contacts })),
  )
}
