import type { DeviceEvent, DeviceOutput } from '../device'
import type { FaultKind, PartId } from '../parts'

/** What one thing of the house does over time; "input:s1", "contact:bench-lights.0", "belief:w12". */
export type LaneId =
  | `input:${string}`
  | `contact:${string}`
  | `load:${string}`
  | `belief:${string}`
  | `fault:${PartId}`
  | `down:${PartId}`
  | 'hand'
  | 'message'

/** The number of a hand's deed, which all that follows from it bears. */
export type Cause = number

/**
 * What happened at an instant: a lane takes a value and keeps it until its next one; hands and messages are moments.
 * `t`: world time, ms.
 */
export type TrackEvent =
  | {
      readonly t: number
      readonly lane: `input:${string}` | `contact:${string}` | `load:${string}` | `belief:${string}` | `down:${PartId}`
      readonly value: number
      readonly cause: Cause | null
    }
  | { readonly t: number; readonly lane: `fault:${PartId}`; readonly value: FaultKind | null; readonly cause: null }
  | {
      readonly t: number
      readonly lane: 'hand'
      readonly text: string
      /** what it is aimed at */ readonly channels: readonly string[]
      readonly cause: Cause
    }
  | {
      readonly t: number
      readonly lane: 'message'
      /** who says it */ readonly from: string
      readonly topic: string
      readonly bytes: number
      readonly cause: Cause | null
    }

/** What a listener hears of a house while it runs. */
export interface HouseListener {
  readonly onTrack?: (event: TrackEvent) => void
  /** what a board is told, and what it does; `t`: world time, ms */
  readonly onTold?: (
    board: { readonly id: string; readonly part: 'main' | 'mirror' },
    t: number,
    events: readonly DeviceEvent[],
    outputs: readonly DeviceOutput[],
  ) => void
}
