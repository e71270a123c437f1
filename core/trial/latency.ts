/**
 * How long things take in a house, as a least time and an exponential tail, ms. Common practice for a house's Wi-Fi and
 * a line to the internet; an exponential tail is the usual model of a queue that is seldom full (memory).
 */
export interface Latency {
  readonly leastMs: number
  /** mean of what comes on top */
  readonly tailMs: number
}

export const LATENCIES = {
  /** one way through the house's network */
  message: { leastMs: 3, tailMs: 5 },
  /** more, where a service stands in the internet */
  internet: { leastMs: 12, tailMs: 8 },
  /** a board joins the network and logs in */
  join: { leastMs: 400, tailMs: 200 },
} as const satisfies Record<string, Latency>

/** What a slow part adds, ms. */
export const SLOW_MS = 5_000
/** A lossy part loses so many of all messages. */
export const LOSS = 1 / 3
/** A lost segment is sent again after so long at first, ms (RFC 6298, 2.1). */
export const RETRANSMIT_MS = 1_000

/** What numbers are drawn from: a state that each draw moves on. */
export interface Drawing {
  random: number
}

/** The next number of the house, 0 to 1: mulberry32 over its state, as core/seeded.ts has it. */
export function draw(house: Drawing): number {
  const a = (house.random + 0x6d2b79f5) >>> 0
  house.random = a
  let x = Math.imul(a ^ (a >>> 15), a | 1)
  x ^= x + Math.imul(x ^ (x >>> 7), x | 61)
  return ((x ^ (x >>> 14)) >>> 0) / 4294967296
}

/** One time of a latency, whole ms: by the inverse of the exponential's distribution. */
export const drawMs = (house: Drawing, { leastMs, tailMs }: Latency): number =>
  Math.round(leastMs - tailMs * Math.log(1 - draw(house)))

/** Between two times alike, whole ms. */
export const drawBetween = (house: Drawing, [least, most]: readonly [number, number]): number =>
  Math.round(least + draw(house) * (most - least))
