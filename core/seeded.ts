/** A seeded generator of numbers in 0…1 (mulberry32, memory): the same seed gives the same on every machine. */
export function seeded(seed: number): () => number {
  let a = seed >>> 0
  return () => {
    a = (a + 0x6d2b79f5) >>> 0
    let x = a
    x = Math.imul(x ^ (x >>> 15), x | 1)
    x ^= x + Math.imul(x ^ (x >>> 7), x | 61)
    return ((x ^ (x >>> 14)) >>> 0) / 4294967296
  }
}

/** The same with what random controllers and traces are drawn by. */
export function choices(seed: number) {
  const next = seeded(seed)
  return {
    real: next,
    whole: (least: number, most: number) => least + Math.floor(next() * (most - least + 1)),
    pick: <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!,
    chance: (p: number) => next() < p,
  }
}
export type Choices = ReturnType<typeof choices>
