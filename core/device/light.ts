/** How a controller's link stands, as its own light shows it. */
export const LIGHT_STATES = ['off', 'joining', 'up', 'refused', 'pairing'] as const
export type LightState = (typeof LIGHT_STATES)[number]

/** The times of each, ms, as lit and dark in turn; empty: always dark, or always lit. */
export const LIGHT_TIMES: Readonly<Record<LightState, readonly number[]>> = {
  off: [],
  joining: [500, 500],
  up: [],
  refused: [100, 100],
  pairing: [100, 100, 100, 700],
}

/** Whether the light is lit at an instant (ms since the start). */
export function isLit(state: LightState, nowMs: number): boolean {
  const times = LIGHT_TIMES[state]
  if (times.length === 0) return state === 'up'
  let rest = nowMs % times.reduce((sum, ms) => sum + ms, 0)
  return times.findIndex((ms) => (rest -= ms) < 0) % 2 === 0
}

/** What a person sees, for the sheet. */
export const LIGHT_WORDS: Readonly<Record<LightState, string>> = {
  off: 'dark: no network is asked for, or the board has no power',
  joining: 'slowly on and off, once a second: it is joining',
  up: 'steady: the link is up',
  refused: 'fast, five times a second: the network or the broker refuses it; look at its credentials',
  pairing: 'two short flashes a second: it is ready to pair',
}
