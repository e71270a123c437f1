/** What happens to a device. Levels are electrical; `input` is an index into the image. */
export type DeviceEvent =
  | { readonly kind: 'power'; readonly on: boolean }
  | { readonly kind: 'link'; readonly up: boolean }
  | { readonly kind: 'level'; readonly input: number; /** contact of a selector, from 0; else 0 */ readonly bit: number; readonly level: 0 | 1 }
  | { readonly kind: 'message'; readonly topic: string; readonly payload: string; readonly retain: boolean }

/** What a device does, in the order in which it does it. `level` is logical: 1 is a closed relay. */
export type DeviceOutput =
  | { readonly t: number; readonly out: string; readonly level: 0 | 1 }
  | { readonly t: number; readonly pub: { readonly topic: string; readonly payload: string; readonly retain: boolean } }
  | { readonly t: number; readonly sub: string }
  | { readonly t: number; readonly link: 'joining' }
  | { readonly t: number; readonly store: string }

/** Where a change came from; reports say it. */
export type Source = 'power' | 'wall' | 'app' | 'hub' | 'service' | 'limit'
