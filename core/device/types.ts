import type { ImageAction } from '../image'
import type { Frame } from '../infrared'

/** What a remote sent: a decoded frame, with the mark that a held key's later frames carry. */
export type RemoteFrame = Frame & { readonly repeat: boolean }

/** What happens to a device. Levels are electrical; `input` is an index into the image. */
export type DeviceEvent =
  | { readonly kind: 'power'; readonly on: boolean }
  | {
      readonly kind: 'link'
      readonly up: boolean
      /** in the image's links; not said: the first */ readonly of?: number
    }
  | { readonly kind: 'clock'; /** ms since Monday 00:00, local time */ readonly weekMs: number }
  | {
      readonly kind: 'level'
      readonly input: number
      /** contact of a selector, from 0; else 0 */ readonly bit: number
      readonly level: 0 | 1
    }
  | { readonly kind: 'frame'; readonly frame: RemoteFrame }
  | { readonly kind: 'edges'; /** µs, mark and space in turn */ readonly durations: readonly number[] }
  | {
      readonly kind: 'message'
      readonly topic: string
      readonly payload: string
      readonly retain: boolean
      /** the link over which it came; not said: the first */ readonly of?: number
    }
  | { readonly kind: 'char'; readonly char: string }
  | { readonly kind: 'line'; /** a status line of the main board, without its end */ readonly line: string }
  | {
      readonly kind: 'sensor'
      /** index into the image */ readonly sensor: number
      /** thousandths */ readonly value: number
    }

/** What a channel can be told. */
export interface Command {
  readonly action: Exclude<ImageAction, 'follow' | 'auto' | 'manual' | 'autoToggle' | 'pair' | 'reset' | 'report'>
  /** for `level` */
  readonly level: number
}

/**
 * What a device does, in the order in which it does it. `level` is logical: 1 is a closed relay. `of`: the link, by its
 * id; not said: the first.
 */
export type DeviceOutput =
  | { readonly t: number; readonly out: string; readonly level: 0 | 1 }
  | {
      readonly t: number
      readonly pub: { readonly topic: string; readonly payload: string; readonly retain: boolean }
      readonly of?: string
    }
  | { readonly t: number; readonly sub: string; readonly of?: string }
  | { readonly t: number; readonly link: 'joining'; readonly of?: string }
  | { readonly t: number; readonly store: string }
  | { readonly t: number; readonly line: string }
  | { readonly t: number; /** for the main board of a pair */ readonly char: string }
  | { readonly t: number; readonly do: 'pair' | 'reset' }

/** Where a change came from; reports say it. */
export const SOURCES = [
  'power',
  'wall',
  'remote',
  'app',
  'hub',
  'nearby',
  'serial',
  'service',
  'limit',
  'rule',
  'schedule',
  'watch',
  'contact',
] as const
export type Source = (typeof SOURCES)[number]
