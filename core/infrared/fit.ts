import type { Fitness } from './types'

/**
 * Durations of one frame, marks at even places. All arithmetic here and in the protocols' files is on whole numbers,
 * since the firmware (runtime/infrared.cpp) does the same without floating point.
 */
export interface Durations {
  readonly list: ArrayLike<number>
  readonly from: number
  /** one past the last; the last one is a mark */
  readonly to: number
}

/** Gathers how far durations lie from their nominal lengths, after a common stretch is taken off. */
export class Fit {
  private sum = 0
  private count = 0
  private worst = 0
  readonly stretch: number
  readonly tolerance: number

  constructor(stretch: number, tolerance: number) {
    this.stretch = stretch
    this.tolerance = tolerance
  }

  /** Takes a duration in; `mark` says which way the stretch works on it. False: it is too far off. */
  take(duration: number, nominal: number, mark: boolean): boolean {
    const plain = mark ? duration - this.stretch : duration + this.stretch
    const deviation = Math.trunc((Math.abs(plain - nominal) * 1000) / nominal)
    this.sum += deviation
    this.count++
    if (deviation > this.worst) this.worst = deviation
    return deviation <= this.tolerance
  }

  /** Are the durations near enough taken together? A single bad one may pass its own tolerance; twenty may not. */
  fitsOnTheWhole(): boolean {
    return this.sum <= this.count * MEAN_TOLERANCE
  }

  result(): Fitness {
    return {
      mean: this.count === 0 ? 0 : Math.trunc(this.sum / this.count),
      worst: this.worst,
      tolerance: this.tolerance,
      stretch: this.stretch,
    }
  }
}

/** Thousandths. Jitter of ±10 % gives a mean of 50. */
const MEAN_TOLERANCE = 100

/**
 * Largest stretch that is taken off, µs, and its opposite: receivers lengthen marks far more often than they shorten
 * them.
 */
export const MOST_STRETCH = 140
export const LEAST_STRETCH = -60

export const clampStretch = (stretch: number): number => Math.max(LEAST_STRETCH, Math.min(MOST_STRETCH, stretch))

/** Stretches that are tried where the protocol has no length that is always the same, µs. */
export const TRIED_STRETCHES = [0, 30, 60, 90, 120, -30] as const

/** A mean deviation, thousandths, at which no other stretch is tried. */
export const GOOD_ENOUGH = 30
