/** What a person, or fate, does in a trial. */
export type TrialAction =
  | { readonly kind: 'press'; readonly input: string }
  | { readonly kind: 'release'; readonly input: string }
  | { readonly kind: 'rock'; readonly input: string }
  | { readonly kind: 'turn'; readonly input: string; /** closed contacts of a selector, as bits */ readonly code: number }
  | { readonly kind: 'widget'; readonly service: string; readonly widget: string; readonly on: boolean; /** of a slider */ readonly value?: number }
  | { readonly kind: 'hub'; readonly hub: string; readonly entity: string; readonly command: string }
  | { readonly kind: 'break'; readonly what: Breakable; readonly broken: boolean }

export type Breakable = 'wifi' | 'broker' | `power:${string}`

export interface TimelineEntry {
  /** ms since the start of the trial */
  readonly t: number
  readonly kind: 'hand' | 'output' | 'network' | 'fault' | 'verdict' | 'refused'
  readonly text: string
  readonly channel?: string
}

export interface ChannelTruth {
  readonly id: string
  readonly controller: string
  /** 0: off */
  readonly level: number
  readonly source: string
  readonly powered: boolean
}

export interface TrialSnapshot {
  readonly now: number
  readonly channels: readonly ChannelTruth[]
  /** closed contacts as bits, by input */
  readonly closed: Readonly<Record<string, number>>
  /** by "service/widget" */
  readonly widgets: Readonly<Record<string, { readonly on: boolean; readonly value: number; readonly reachable: boolean }>>
  /** by "hub/entity"; null: nothing heard yet */
  readonly hub: Readonly<Record<string, number | null>>
  readonly links: Readonly<Record<string, 'down' | 'joining' | 'up' | 'off'>>
  readonly broken: readonly Breakable[]
  readonly timeline: readonly TimelineEntry[]
}
