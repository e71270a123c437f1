import type { Channel, PowerUp } from '../channels'
import type { InputId } from '../ids'
import type { WidgetKind } from '../services'
import type { ChannelAction } from '../ways'

/** One kind's channels out of the union of all. */
export type ChannelOf<Name extends Channel['kind']> = Extract<Channel, { kind: Name }>

/** What channels of every kind have. */
export type CommonShape = Pick<Channel, 'id' | 'name' | 'controller' | 'room' | 'load' | 'active' | 'essential'>

/** Something that a kind of channel understands. */
export interface ActionRow {
  readonly action: ChannelAction
  /** as a maker reads it in a list of choices; of an action on one output that output's own label is read instead */
  readonly words: string
  readonly output?: number
  /** understood on its `set` topic; of the action `level` these are the levels' digits */
  readonly set: boolean
  /** put before a maker who chooses what a gesture, a key or a character does */
  readonly offered: boolean
  /** understood only where a position contact tells which of the two a pulse would do */
  readonly needsPosition?: true
}

/** A row that is offered and is a word of the `set` topic, as most are. */
export const row = (action: ChannelAction, more: Partial<ActionRow> = {}): ActionRow => ({
  action,
  words: action,
  set: true,
  offered: true,
  ...more,
})
/** Understood, but neither a word of the `set` topic nor put before a maker. */
export const understood = (action: ChannelAction): ActionRow => row(action, { set: false, offered: false })

/** An output of a channel that has several. */
export interface OutputRow {
  /** behind the channel's name: "Fan 2", "Shutter up" */
  readonly label: string
  /** at a wire's end: "step 2", "up" */
  readonly words: string
}

/** The output of a channel that has one. */
export const SINGLE_OUTPUT: readonly OutputRow[] = [{ label: '', words: '' }]

/** Times and limits as a controller's tables hold them, ms; 0: none. */
export interface Timing {
  /** between opening and closing */
  readonly gapMs: number
  /** longest time on */
  readonly maxOnMs: number
  /** least time off */
  readonly minOffMs: number
}

/** A sensor's contact that knows where the thing stands. */
export interface Position {
  /** null: none is fitted, so nobody knows whether it moved */
  readonly input: InputId | null
  /** what a closed contact says */
  readonly closedMeans: 'closed' | 'open'
}

/**
 * Why a widget does not suit: it lets go when the finger does, it stays after what is over, it has too few positions.
 */
export type Misfit = 'lets go' | 'stays' | 'two positions'

/**
 * All that differs between kinds of channel, apart from the schema of its document (channels.ts) and from what the
 * runtime does with a command (core/device/channels.ts). What reads it asks here and does not ask for a kind by name.
 */
export interface Kind<C extends Channel> {
  readonly kind: C['kind']
  /** A channel with the usual answers to what only this kind is asked. */
  readonly begin: (common: CommonShape) => C

  // what it understands, and what is usual
  readonly actions: readonly ActionRow[]
  readonly usual: {
    /** what a press or a flip on the wall does */
    readonly press: ChannelAction
    /** what a second gesture on the same switch does */
    readonly second: ChannelAction
    /** one key each */
    readonly keys: readonly ChannelAction[]
    /** one character each; the first two share a letter, capital and small */
    readonly characters: readonly ChannelAction[]
    readonly widget: WidgetKind
  }
  readonly misfits: Partial<Readonly<Record<WidgetKind, Misfit>>>
  /** What means the same as a level, where a table has no such level: level 0 first; null: nothing does. */
  readonly saidAs: readonly (ChannelAction | null)[]

  // its outputs
  /** Its outputs have numbers: `fan.1`, `fan.2`; else it has one, which has its own name. */
  readonly numbered: boolean
  readonly outputs: (channel: C) => readonly OutputRow[]
  /** Contacts that are closed at each level, level 0 first. */
  readonly patterns: (channel: C) => readonly (readonly number[])[]
  readonly timing: (channel: C) => Timing
  /** Where the true state stands, by a sensor of its own; null: this kind has none. */
  readonly position: (channel: C) => Position | null
  /** `up` from the top goes to 0, `down` from 0 to the top. */
  readonly wraps: (channel: C) => boolean
  /** Level that `on` or a toggle leaves from before there was any other. */
  readonly firstLevel: (channel: C) => number

  // power and outages
  /** Stays as it is told. What does not stay never acts at power-up, and not because of what a service remembers. */
  readonly lasting: boolean
  readonly powerUp: (channel: C) => PowerUp
  /** What it does to a person when its contact closes unasked, as at power-up; null: it only comes on. */
  readonly unasked: string | null
  /** Its last level is kept over a power cut whatever its policy. */
  readonly keepsLastLevel: boolean
  /** Whether commands to a group reach it; `local`: only while it works by itself. */
  readonly inGroups: 'always' | 'local' | 'never'
  /** Its longest time runs from its being told, or from when its contact really closes. */
  readonly limitRunsFrom: 'command' | 'contact'

  // what is said of it
  /** Its reported state: {"on"}, {"on","level"}, or {"state"} with one of `states`. */
  readonly report: 'on' | 'level' | 'words'
  /** The words of its levels in a report, level 0 first; empty: it reports on and off. */
  readonly states: readonly string[]
  readonly modes: readonly string[]
  /** What a hub takes it for (docs/formats.md, hub file). */
  readonly entity: string
  /** What a person sees it do at a level. */
  readonly seen: (channel: C, level: number) => string
  /** What a contact that opens or closes means. */
  readonly moves: (channel: C, contact: number, closed: boolean, level: number) => string
  /** The end of every path: what closes, and for how long. `pins` are those of its outputs. */
  readonly closes: (channel: C, pins: readonly string[]) => readonly string[]
  /** How a point's value becomes a level, and a level a value; least and greatest are the point's. */
  readonly scaling: (channel: C, least: number, greatest: number) => { readonly to: string; readonly back: string }
  /** How a person tries it: with its widget (behind "on the phone"), and by voice. */
  readonly tries: (channel: C, place: string) => { readonly phone: string; readonly voice: string }

  // voice
  readonly spoken: {
    /** What each word asks of it; a word that is not here asks for nothing that it can do. */
    readonly words: (channel: C) => Partial<Readonly<Record<SpokenWord, ChannelAction>>>
    /** What a number asks for. */
    readonly numbers: 'levels' | 'on or off' | 'nothing'
    /** A line to try. */
    readonly example: (channel: C, name: string) => string
  }
}

/** What an utterance can ask for, apart from a number. */
export const SPOKEN_WORDS = ['on', 'off', 'toggle', 'up', 'down', 'open', 'close', 'stop', 'pulse'] as const
export type SpokenWord = (typeof SPOKEN_WORDS)[number]
