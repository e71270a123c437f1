/** What comes over a wire. `link`: in the controller's links. */
export type WireEvent =
  | { readonly kind: 'open'; readonly link: number; readonly open: boolean }
  | {
      readonly kind: 'heard'
      readonly link: number
      readonly topic: string
      readonly payload: string
      /** retained, or sent again (MQTT 3.1.1, 3.3.1.1 and 3.3.1.3): it may be old */ readonly stale: boolean
    }
  /** of the one request that is on its way; status 0: there was no answer */
  | { readonly kind: 'answer'; readonly link: number; readonly status: number; readonly body: string }
  | {
      readonly kind: 'call'
      readonly link: number
      readonly method: string
      readonly path: string
      /** of the head; empty: none */ readonly key: string
      /** Idempotency-Key of the head; empty: none */ readonly once: string
    }

/** What the engine does on a wire. */
export interface WireAction {
  readonly t: number
  readonly of: string
  readonly what:
    | { readonly connect: true }
    | { readonly hear: string; readonly qos: 0 | 1 }
    | {
        readonly say: {
          readonly topic: string
          readonly payload: string
          readonly qos: 0 | 1
          readonly retain: boolean
        }
      }
    | { readonly ask: { readonly method: string; readonly path: string; readonly body: string } }
    | { readonly reply: number }
    | { readonly note: string }
}

/** What it tells the runtime. */
export type DeviceWord =
  | { readonly kind: 'link'; readonly link: number; readonly up: boolean }
  | {
      readonly kind: 'message'
      readonly link: number
      readonly topic: string
      readonly payload: string
      readonly retain: boolean
    }
