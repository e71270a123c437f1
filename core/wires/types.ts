/**
 * The tables of a controller's wires: what stands between its own topics and each of its links. Plain data, in the
 * order of the image's links; both engines (core/wires and firmware/wires) run them.
 */
export interface ControllerWires {
  readonly site: string
  readonly controller: string
  /** begins every topic of the controller itself */
  readonly prefix: string
  readonly links: readonly LinkWire[]
  /** what a phone must say that pairs the controller; not said: it is not paired */
  readonly pin?: Text
}

/** A part of a text that only the secrets file knows. */
export interface Unknown {
  /** a credential's key, "app/board-key/throwing"; or an address, "app/address" */
  readonly secret: string
}
/** A text whose secrets are filled in when the firmware is compiled. */
export type Text = readonly (string | Unknown)[]

/** What a value looks like on the wire, with the point's own range. */
export type Coding =
  | { readonly form: 'number' }
  | { readonly form: 'words'; readonly min: number; readonly max: number; readonly off: string; readonly on: string }
  | {
      readonly form: 'range'
      readonly min: number
      readonly max: number
      readonly least: number
      readonly most: number
    }

/** What the controller says under one of its topics, on the wire: before, value, after. */
export interface SayRow {
  /** the controller's topic behind its prefix, "vp/7/state" */
  readonly from: string
  /** mqtt: the topic; http and hook: the path */
  readonly to: Text
  readonly before: Text
  readonly coding: Coding
  readonly after: Text
  readonly qos: 0 | 1
  readonly retain: boolean
  /** least time between two values, ms; a value that comes too early waits, and the last one goes out. 0: none */
  readonly everyMs: number
}

/** What the wire says, under one of the controller's topics. */
export interface HearRow {
  /** mqtt: the topic; http: the path that is asked; hook: the path of the call up to the value */
  readonly from: Text
  /** JSON Pointer (RFC 6901); null: the whole */
  readonly pointer: string | null
  readonly to: string
  readonly coding: Coding
  /** least and greatest value that a call may give; others are refused before the controller hears of them */
  readonly min: number
  readonly max: number
  readonly meaning: 'wish' | 'held'
  /** its channel keeps a state: what a service remembers may set it */
  readonly lasting: boolean
}

export interface Place {
  readonly address: Text
  /** where the secrets file says the port, this is what stands there by default */
  readonly port: number
  readonly portSecret: string | null
  readonly tls: boolean
}

export interface OwnLink {
  readonly transport: 'own'
  readonly id: string
  readonly place: Place
  readonly client: Text
  readonly user: Text
  readonly password: Text
  readonly keepAliveS: number
}

export interface MqttLink extends Omit<OwnLink, 'transport'> {
  readonly transport: 'mqtt'
  readonly status: {
    readonly topic: Text
    readonly online: string
    readonly offline: string
    readonly retain: boolean
  } | null
  readonly log: Text | null
  readonly says: readonly SayRow[]
  readonly hears: readonly HearRow[]
  readonly count: { readonly topic: Text; readonly pointer: string | null } | null
  readonly sign: SignTable | null
}

/** What a message is signed over: before, topic, between, payload, after. */
export interface SignTable {
  readonly key: Text
  readonly before: Text
  /** null: the topic is not signed */
  readonly between: Text | null
  readonly after: Text
}

export interface HttpLink {
  readonly transport: 'http'
  readonly id: string
  readonly place: Place
  readonly headers: readonly Text[]
  readonly method: string
  readonly says: readonly SayRow[]
  readonly hears: readonly HearRow[]
  /** one request tells all that is heard; null: nothing is asked */
  readonly read: { readonly all: boolean; readonly everyMs: number } | null
}

export interface HookLink {
  readonly transport: 'hook'
  readonly id: string
  /** the controller's own port */
  readonly port: number
  readonly key: Text
  readonly keyInPath: boolean
  readonly hears: readonly HearRow[]
  /** where changes are told */
  readonly call: { readonly place: Place; readonly headers: readonly Text[]; readonly method: string } | null
  readonly says: readonly SayRow[]
}

export type LinkWire = OwnLink | MqttLink | HttpLink | HookLink
export type Transport = LinkWire['transport']
