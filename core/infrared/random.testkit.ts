/** A seeded generator (mulberry32, memory), for codes and the wrongs that are done to their signals. */
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

/** ±10 % on every duration, and a receiver's stretch of marks at the cost of spaces. */
export const disturbed = (list: readonly number[], random: () => number, stretch: number, jitter = 0.1): number[] =>
  list.map((us, i) =>
    Math.max(1, Math.round(us * (1 + (random() * 2 - 1) * jitter)) + (i % 2 === 0 ? stretch : -stretch)),
  )
