/**
 * A compiled controller: the tables that both the interpreter (core/device) and the firmware runtime run on.
 * Plain data; indices point into the lists beside them. All times are milliseconds.
 */
export interface ControllerImage {
  readonly format: 'vestibule-image'
  readonly version: 1
  readonly site: string
  readonly controller: string
  readonly board: string
  /** First 12 hex digits of SHA-256 (FIPS 180-4) over the tables' JSON without this field. */
  readonly hash: string
  readonly link: boolean
  readonly outage: 'local' | 'service'
  readonly staggerMs: number
  readonly storeMs: number
  readonly minReportMs: number
  readonly heartbeatMs: number
  /** Seed of the retry jitter, never 0. */
  readonly seed: number
  readonly inputs: readonly ImageInput[]
  readonly channels: readonly ImageChannel[]
  readonly bindings: readonly ImageBinding[]
  readonly points: readonly ImagePoint[]
}

/** A role without a pin compiles to this number, so that a trial can run before the pins are planned. */
export const NO_PIN = 255

export interface ImageInput {
  readonly id: string
  /** one pin, or one for each bit of a selector */
  readonly gpios: readonly number[]
  readonly kind: 'momentary' | 'rocker' | 'selector'
  readonly pull: 'none' | 'up' | 'down'
  readonly analogue: boolean
  /** Electrical level of a closed contact. */
  readonly closedLevel: 0 | 1
  readonly settle: 'settle' | 'eager'
  readonly settleMs: number
  /** 0: nothing is bound to a hold, so a press need not wait for the release. */
  readonly holdMs: number
  /** selector: level of each code; NO_LEVEL where the code has none. Empty otherwise. */
  readonly table: readonly number[]
}

/** A code of a selector that stands for no level. */
export const NO_LEVEL = 255

export type PowerUpPolicy = 'off' | 'on' | 'last' | 'wall' | 'service'

export interface ImageChannel {
  readonly kind: 'switched' | 'stepped'
  readonly id: string
  /** Topic level that stands for the channel. */
  readonly topic: string
  /** one output, or one for each contact */
  readonly gpios: readonly number[]
  /** closed contacts of each level as bits, level 0 first; switched: [0, 1] */
  readonly patterns: readonly number[]
  readonly gapMs: number
  readonly wrap: boolean
  readonly onLevel: number
  readonly activeLow: boolean
  /** 0: no limit. */
  readonly maxOnMs: number
  /** 0: none. */
  readonly minOffMs: number
  readonly powerUp: PowerUpPolicy
  readonly waitMs: number
  readonly otherwise: 'off' | 'last'
  /** Takes commands on its `set` topic. */
  readonly takesSet: boolean
  /** Publishes its `state` topic. */
  readonly reports: boolean
}

export interface ImageBinding {
  readonly input: number
  readonly gesture: 'press' | 'release' | 'hold' | 'flip' | 'follow' | 'select'
  readonly action: 'on' | 'off' | 'toggle' | 'up' | 'down' | 'follow' | 'level'
  readonly channel: number
}

export interface ImagePoint {
  readonly vp: number
  readonly channel: number
  /** Least and greatest value. A value stands for the level ⌈(value − min) · L / (max − min)⌉, so that only the least is off. */
  readonly min: number
  readonly max: number
  readonly reports: boolean
}
