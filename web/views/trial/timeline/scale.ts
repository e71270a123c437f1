import { scaleUtc } from 'd3-scale'

/** Where an instant stands on the drawing, and the instants that are written at its head. */
export interface TimeScale {
  readonly x: (t: number) => number
  readonly t: (x: number) => number
  readonly ticks: readonly number[]
  readonly stepMs: number
}

/** The run's start is taken for midnight: then steps are seconds, minutes, hours and days. */
export function timeScale(from: number, to: number, width: number): TimeScale {
  const scale = scaleUtc([from, to], [0, width])
  const ticks = scale.ticks(Math.max(2, Math.floor(width / 130))).map(Number)
  return {
    x: (t) => scale(t),
    t: (x) => Number(scale.invert(x)),
    ticks,
    stepMs: ticks.length > 1 ? ticks[1]! - ticks[0]! : to - from,
  }
}
