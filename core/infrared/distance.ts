import { encodeFrame } from './encode'
import type { Code } from './types'

/**
 * How far apart two signals are: the time, µs, during which one is on and the other is off, both starting together. The
 * least over all pairs of taught codes says how easily two keys could be taken for one another.
 */
export function signalDistance(a: readonly number[], b: readonly number[]): number {
  const edges = (list: readonly number[]): number[] => {
    let at = 0
    return list.map((duration) => (at += duration))
  }
  const first = edges(a)
  const second = edges(b)
  let apart = 0
  let now = 0
  for (let i = 0, j = 0; i < first.length || j < second.length;) {
    const next = Math.min(first[i] ?? Infinity, second[j] ?? Infinity)
    const aOn = i < first.length && i % 2 === 0
    const bOn = j < second.length && j % 2 === 0
    if (aOn !== bOn) apart += next - now
    now = next
    if (first[i] === next) i++
    if (second[j] === next) j++
  }
  return apart
}

export interface NamedCode {
  readonly name: string
  readonly code: Code
}

/** The two codes that lie closest together, with their distance in µs; null: fewer than two. */
export function closestPair(
  codes: readonly NamedCode[],
): { readonly a: string; readonly b: string; readonly microseconds: number } | null {
  const signals = codes.map(({ name, code }) => ({ name, list: encodeFrame(code) }))
  let best: { a: string; b: string; microseconds: number } | null = null
  for (let i = 0; i < signals.length; i++) {
    for (let j = i + 1; j < signals.length; j++) {
      const microseconds = signalDistance(signals[i]!.list, signals[j]!.list)
      if (!best || microseconds < best.microseconds) best = { a: signals[i]!.name, b: signals[j]!.name, microseconds }
    }
  }
  return best
}
