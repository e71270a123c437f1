import { useEffect, useState } from 'react'
import type { Hold } from '../useTrial'

/** What of the run is looked at: it follows the instant, or stands where a hand has put it. */
export interface Stretch {
  readonly spanMs: number
  readonly fromMs: number | null
  readonly cause: number | null
  readonly wires: boolean
}

const LEAST_MS = 20
/** a year */
const MOST_MS = 366 * 86_400_000

export interface StretchHold extends Stretch {
  /** nearer or farther; `at`: the instant that stays where it is on the screen */
  readonly zoom: (factor: number, at?: { readonly t: number; readonly share: number }) => void
  readonly moveTo: (fromMs: number | null) => void
  readonly pick: (cause: number | null) => void
  readonly showWires: (wires: boolean) => void
}

/** The stretch is kept here, and told to the run whenever it changes. */
export function useStretch(hold: Hold, pixels: number): StretchHold {
  const [look, setLook] = useState<Stretch>({ spanMs: 60_000, fromMs: null, cause: null, wires: false })
  useEffect(() => hold.lookAt({ ...look, pixels }), [hold, look, pixels])
  return {
    ...look,
    zoom: (factor, at) =>
      setLook((before) => {
        const spanMs = Math.min(MOST_MS, Math.max(LEAST_MS, Math.round(before.spanMs * factor)))
        if (before.fromMs === null || !at) return { ...before, spanMs }
        return { ...before, spanMs, fromMs: Math.max(0, Math.round(at.t - at.share * spanMs)) }
      }),
    moveTo: (fromMs) =>
      setLook((before) => ({ ...before, fromMs: fromMs === null ? null : Math.max(0, Math.round(fromMs)) })),
    pick: (cause) => setLook((before) => ({ ...before, cause })),
    showWires: (wires) => setLook((before) => ({ ...before, wires })),
  }
}
