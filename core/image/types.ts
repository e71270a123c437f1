import type { Protocol } from '../infrared'
import type { Channel, ChannelAction, Gesture } from '../site'

/**
 * A compiled controller: the tables that both the interpreter (core/device) and the firmware runtime run on.
 * Plain data; indices point into the lists beside them. All times are milliseconds, all sensor values thousandths of
 * their unit.
 */
export interface ControllerImage {
  readonly format: 'vestibule-image'
  readonly version: 2
  readonly site: string
  readonly controller: string
  readonly board: string
  /** First 12 hex digits of SHA-256 (FIPS 180-4) over the tables' JSON without this field. */
  readonly hash: string
  readonly link: boolean
  readonly outage: 'local' | 'service'
  /** ways out of the house and to its hub, each with a life of its own; not said: one, which carries everything */
  readonly links?: readonly ImageLink[]
  readonly staggerMs: number
  readonly storeMs: number
  readonly minReportMs: number
  readonly heartbeatMs: number
  readonly sensorMs: number
  /** Seed of the retry jitter, never 0. */
  readonly seed: number
  readonly auto: { readonly start: boolean; readonly hand: 'yield' | 'leave' | 'ignore'; readonly yieldMs: number }
  /** null: no feed here that would need to know whether the hub lives */
  readonly watch: { readonly watchMs: number; readonly graceMs: number; readonly steadyMs: number } | null
  /** null: no link of characters */
  readonly serial: { readonly baud: number; readonly statusMs: number } | null
  /**
   * GPIO by which that link sends and hears, as planned for its part; NO_PIN: no part, so the board's first serial port
   */
  readonly line: { readonly sends: number; readonly hears: number }
  /** Auto and manual are worked on `mode/set`, and reported on `mode/state`; not said: no. */
  readonly modeTopic?: true
  /** relays that are told over the serial line: their frames, all of one length; not said: none */
  readonly told?: {
    readonly baud: number
    readonly relays: readonly { readonly off: readonly number[]; readonly on: readonly number[] }[]
  }
  /** the board's own light, which shows how the link stands, and the level that lights it; not said: none */
  readonly light?: { readonly gpio: number; readonly lit: 0 | 1 }
  /** GPIO of the infrared receiver, or NO_PIN */
  readonly receiver: number
  readonly inputs: readonly ImageInput[]
  readonly channels: readonly ImageChannel[]
  readonly groups: readonly ImageGroup[]
  readonly bindings: readonly ImageBinding[]
  readonly keys: readonly ImageKey[]
  readonly chars: readonly ImageChar[]
  readonly points: readonly ImagePoint[]
  readonly sensors: readonly ImageSensor[]
  readonly rules: readonly ImageRule[]
  readonly schedules: readonly ImageSchedule[]
}

/** A link of a controller: to the broker of the house, or to a service by a wire (core/wires). */
export interface ImageLink {
  readonly id: string
  /** who wins after an outage of this link */
  readonly outage: 'local' | 'service'
  /**
   * it carries what the controller says of itself: channels, gestures, sensors, mode, and what a hub sets; one
   * at most
   */
  readonly own: boolean
  /** log lines go there */
  readonly logs: boolean
}

/** Most links that a controller keeps up. */
export const MOST_LINKS = 3

/** Links of an image, in order; the one that is not said is to the house. */
export const linksOf = ({ links, outage }: Pick<ControllerImage, 'links' | 'outage'>): readonly ImageLink[] =>
  links ?? [{ id: 'house', outage, own: true, logs: true }]

/** What a board is to its tables: the controller itself, or the coprocessor that stands for it on the network. */
export type PairRole = 'main' | 'mirror'

/** A role without a pin compiles to this number, so that a trial can run before the pins are planned. */
export const NO_PIN = 255

export interface ImageInput {
  readonly id: string
  /** one pin, or one for each bit of a selector */
  readonly gpios: readonly number[]
  readonly kind: 'momentary' | 'rocker' | 'selector' | 'contact'
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
  /** selector: input whose contact must be closed for its level to count; not said: none */
  readonly gate?: number
}

/** A code of a selector that stands for no level. */
export const NO_LEVEL = 255
/** A channel without a position contact. */
export const NO_INPUT = 255

export type PowerUpPolicy = 'off' | 'on' | 'last' | 'wall' | 'service' | 'timetable'

export interface ImageChannel {
  readonly kind: Channel['kind']
  readonly id: string
  /** Topic level that stands for the channel. */
  readonly topic: string
  /** one output, or one for each contact */
  readonly gpios: readonly number[]
  /** closed contacts of each level as bits, level 0 first; all but stepped: [0, 1], paired: [0, 1, 2] */
  readonly patterns: readonly number[]
  /** between opening and closing: the gap of a stepped, the dead time of a paired channel */
  readonly gapMs: number
  readonly wrap: boolean
  /** level that `on` gives before there was any other; paired: the direction that the first toggle leaves */
  readonly onLevel: number
  readonly activeLow: boolean
  /** the limit; of a pulsed channel the length of the pulse, of a paired one its running time; 0: none */
  readonly maxOnMs: number
  /** least time off; of a pulsed channel its lockout; 0: none */
  readonly minOffMs: number
  readonly powerUp: PowerUpPolicy
  readonly waitMs: number
  readonly otherwise: 'off' | 'last'
  /** Takes commands on its `set` topic. */
  readonly takesSet: boolean
  /** Publishes its `state` topic. */
  readonly reports: boolean
  /** `all off` spares it. */
  readonly essential: boolean
  /** input of the position contact, or NO_INPUT */
  readonly contact: number
  /** a closed position contact says that the door is closed */
  readonly contactMeansClosed: boolean
}

export interface ImageGroup {
  readonly id: string
  /** in channel order */
  readonly members: readonly number[]
  /** what `on` gives to each member; NO_LEVEL: on. Not said: on for all */
  readonly levels?: readonly number[]
  /** Takes commands on its `set` topic; not said: no. */
  readonly takesSet?: boolean
}

export type ControllerAction = 'auto' | 'manual' | 'autoToggle' | 'pair' | 'reset' | 'report'
export type ImageAction = ChannelAction | ControllerAction

/** What a source does, and to what. */
export interface ImageDeed {
  readonly action: ImageAction
  /** for the action `level` of a key or a character */
  readonly level: number
  readonly on: 'channel' | 'group' | 'controller'
  /** in channels or groups; 0 for the controller itself */
  readonly index: number
}

export interface ImageBinding extends ImageDeed {
  readonly input: number
  readonly gesture: Gesture
}

export interface ImageKey extends ImageDeed {
  readonly protocol: Protocol | 'unknown'
  /** unknown: the upper half of the hash */
  readonly address: number
  /** unknown: the lower half of the hash */
  readonly command: number
  /** 0: once a press */
  readonly everyMs: number
}

export interface ImageChar extends ImageDeed {
  readonly char: string
  readonly source: 'serial' | 'nearby'
}

export interface ImagePoint {
  readonly vp: number
  readonly carries: 'channel' | 'sensor' | 'mode' | 'group'
  /** in channels, sensors or groups; 0 for the mode */
  readonly index: number
  /**
   * Least and greatest value. A value stands for the level ⌈(value − min) · L / (max − min)⌉, so that only the least is
   * off.
   */
  readonly min: number
  readonly max: number
  readonly reports: boolean
  /** in links; not said: the first */
  readonly link?: number
}

export interface ImageSensor {
  readonly id: string
  readonly deadBand: number
  readonly staleMs: number
}

/** A threshold with hysteresis: on at or beyond `on`, off at or beyond `off`, unchanged between. */
export interface ImageRule {
  readonly sensor: number
  readonly above: boolean
  readonly on: number
  readonly off: number
  readonly dwellMs: number
  readonly staleOff: boolean
  readonly channel: number
  /** 0: the last level */
  readonly level: number
}

export interface ImageSchedule {
  /** bit 0 is Monday */
  readonly days: number
  /** after midnight, local time */
  readonly minute: number
  readonly channel: number
  readonly action: 'on' | 'off' | 'level'
  readonly level: number
  /** one that was missed in the last 24 h is made up for when the clock becomes known or jumps ahead */
  readonly catchUp: boolean
}
