import type { Source } from '../device'
import type { FaultKind, PartId, Place } from '../parts'
import type { PairingTruth } from './pairings'

/** What a person, or fate, does in a trial. */
export type TrialAction =
  | { readonly kind: 'press'; readonly input: string }
  | { readonly kind: 'release'; readonly input: string }
  | { readonly kind: 'rock'; readonly input: string }
  | {
      readonly kind: 'turn'
      readonly input: string
      /** closed contacts of a selector, as bits */ readonly code: number
    }
  | {
      readonly kind: 'key'
      readonly remote: string
      readonly key: string
      /** a later frame of a held key */ readonly repeat: boolean
    }
  | { readonly kind: 'char'; readonly link: string; readonly char: string }
  | { readonly kind: 'say'; readonly text: string }
  | { readonly kind: 'reading'; readonly sensor: string; readonly value: number }
  | { readonly kind: 'clock'; /** local date and time, ISO 8601 */ readonly local: string }
  | {
      readonly kind: 'widget'
      readonly service: string
      readonly widget: string
      readonly on: boolean
      /** of a slider */ readonly value?: number
    }
  | { readonly kind: 'hub'; readonly hub: string; readonly entity: string; readonly command: string }
  | { readonly kind: 'mode'; readonly controller: string; readonly command: string }
  | { readonly kind: 'group'; readonly hub: string; readonly group: string; readonly command: string }
  /** the network says all that was commanded lately once more, as something remembered */
  | { readonly kind: 'replay' }
  /** a phone beside a controller says the PIN of its label, or another */
  | { readonly kind: 'pair'; readonly controller: string; readonly right: boolean }
  /** a sensor follows a day's curve from now on */
  | { readonly kind: 'curve'; readonly sensor: string; readonly low: number; readonly high: number }
  | { readonly kind: 'stand'; readonly place: Place }
  | {
      readonly kind: 'break'
      readonly what: PartId
      readonly broken: boolean
      /** not said: it is gone */
      readonly how?: FaultKind
    }

export const TIMELINE_KINDS = ['hand', 'output', 'network', 'fault', 'verdict', 'refused', 'said'] as const

export interface TimelineEntry {
  /** ms since the start of the trial */
  readonly t: number
  readonly kind: (typeof TIMELINE_KINDS)[number]
  readonly text: string
  readonly channel?: string
}

export interface ChannelTruth {
  readonly id: string
  readonly controller: string
  /** 0: off */
  readonly level: number
  /** contacts that are really closed, as bits */
  readonly contacts: number
  /** the level that the load is really at, as one who stands there sees it */
  readonly seen: number
  readonly source: Source
  readonly powered: boolean
  /** it has been told to turn on, and waits for its turn or its least time off */
  readonly waiting: boolean
  /** rules act on it; null: no rule does */
  readonly auto: boolean | null
  /** what the load really does: a lamp behind a feed, a door with a contact; null: as the contact says */
  readonly shines: boolean | null
  /** of a feed: the switch works the relay itself */
  readonly local: boolean
}

export interface TrialSnapshot {
  readonly now: number
  readonly channels: readonly ChannelTruth[]
  /** closed contacts as bits, by input */
  readonly closed: Readonly<Record<string, number>>
  /** by "service/widget" */
  readonly widgets: Readonly<
    Record<
      string,
      {
        readonly on: boolean
        readonly value: number
        readonly reachable: boolean
        /** what was asked for by hand and waits at the controller; null: nothing */
        readonly asked: number | null
      }
    >
  >
  /** by "hub/entity"; null: nothing heard yet */
  readonly hub: Readonly<Record<string, number | null>>
  /** entities, as in `hub`, whose controller has said that it waits to turn on */
  readonly hubWaits: readonly string[]
  /** controllers that the hub knows to be offline */
  readonly hubAway: readonly string[]
  /** last reading by sensor; null: none yet, or too old */
  readonly readings: Readonly<Record<string, number | null>>
  /** last status line by controller */
  readonly lines: Readonly<Record<string, string>>
  readonly links: Readonly<Record<string, 'down' | 'joining' | 'up' | 'off'>>
  /** by controller: where each of its links leads, and how it stands */
  readonly eachLink: Readonly<
    Record<string, readonly { readonly id: string; readonly state: 'down' | 'joining' | 'up' }[]>
  >
  /** parts that do not work now, for a reason of their own or another's */
  readonly broken: readonly PartId[]
  readonly faults: readonly { readonly part: PartId; readonly how: FaultKind }[]
  readonly place: Place
  readonly timeline: readonly TimelineEntry[]
  /** controllers that can be paired */
  readonly pairing: readonly PairingTruth[]
}
