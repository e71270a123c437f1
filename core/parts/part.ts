/**
 * A part of the house that can fail, by its kind and whose it is: "contact:bench-lights.0" is the first contact of that
 * channel's relay, "power:throwing" what feeds that controller.
 */
export type PartId =
  | 'mains'
  | 'router'
  | 'wifi'
  | 'internet'
  | 'hub-machine'
  | 'broker'
  | 'hub'
  | 'phone'
  | 'voice'
  | `breaker:${string}`
  | `power:${string}`
  | `board:${string}`
  | `modem:${string}`
  | `module:${string}`
  | `switch:${string}`
  | `wire:${string}`
  | `drive:${string}`
  | `opto:${string}`
  | `coil:${string}`
  | `contact:${string}`
  | `load:${string}`
  | `sensor:${string}`
  | `receiver:${string}`
  | `remote:${string}`
  | `link:${string}`
  | `service:${string}`
  | `strip:${string}`

/** How a part can fail; each part knows the ones that it can. */
export const FAULT_KINDS = [
  /** does nothing any more: no power, cut, burnt out, not there */
  'gone',
  /** does what it did last, whatever it is told: welded, held down, shorted */
  'stuck',
  /** answers five seconds late */
  'slow',
  /** loses every third message */
  'lossy',
  /** shows what was last asked of it, never what is */
  'lying',
  /** wired to the wrong side: on is off */
  'inverted',
  /** wired to the pin of the next one */
  'crossed',
  /** gives too little: sags when a coil pulls in */
  'weak',
  /** the jumper between logic and coil supply is on */
  'jumper',
] as const
export type FaultKind = (typeof FAULT_KINDS)[number]

export const FAULT_WORDS: Readonly<Record<FaultKind, string>> = {
  gone: 'failed',
  stuck: 'stuck',
  slow: 'slow',
  lossy: 'loses messages',
  lying: 'shows the last command only',
  inverted: 'wired the wrong way round',
  crossed: 'on the wrong pin',
  weak: 'too weak',
  jumper: 'jumper on',
}

export interface Part {
  readonly id: PartId
  readonly name: string
  /** all of these must work, or it does not */
  readonly needs: readonly PartId[]
  readonly faults: readonly FaultKind[]
  /** how long it takes from power to work, least and most, ms; absent: at once */
  readonly startsMs?: readonly [least: number, most: number]
  /** the controller that it belongs to; absent: the house's */
  readonly controller?: string
}

export type PartGraph = ReadonlyMap<PartId, Part>
