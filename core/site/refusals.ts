import { channelOf, inputOf } from './lookups'
import type { Site } from './schema'
import type { Way } from './ways'

/**
 * What no controller may be told, whatever its maker draws: it does not compile, a build says why, and a finding of
 * severity error stands where it was drawn (docs/behaviour.md, Refused at compile).
 */

/** Gestures that take a controller off the network, and how long they must be held, ms. */
export const LONG_HOLD_MS = { pair: 3_000, reset: 5_000 } as const

type Control = Site['controls'][number]

/** What a control must be held for; null: it takes nothing off the network. */
export const longHoldOf = (control: Control): number | null =>
  control.kind === 'controller' && (control.action === 'pair' || control.action === 'reset')
    ? LONG_HOLD_MS[control.action]
    : null

/** How long a control's own switch is held before it acts, ms; null: it is not held, or is no switch at the wall. */
export function heldFor(site: Site, { source }: Control): number | null {
  const input = source.kind === 'wall' ? inputOf(site, source.input) : undefined
  return source.kind === 'wall' && source.gesture === 'hold' && input?.kind === 'momentary' ? input.holdMs : null
}

/** One press of a remote, or a child at a switch, must not take a controller off the network. */
export function isTooNear(site: Site, control: Control): boolean {
  const least = longHoldOf(control)
  return least !== null && (heldFor(site, control) ?? 0) < least
}

/** A spike of a millisecond must not open a door: what pulses is worked by levels that have settled. */
export function opensAtASpike(site: Site, way: Way): boolean {
  if (way.kind !== 'wall') return false
  return channelOf(site, way.channel)?.kind === 'pulsed' && inputOf(site, way.input)?.settle === 'eager'
}

/** The hand that makes a controller offer itself, or forget: which switch, held how long, ms; null: there is none. */
export function handFor(
  site: Site,
  controller: string,
  action: 'pair' | 'reset',
): { readonly name: string; readonly holdMs: number } | null {
  for (const control of site.controls) {
    if (control.kind !== 'controller' || control.controller !== controller || control.action !== action) continue
    const holdMs = heldFor(site, control)
    const input = control.source.kind === 'wall' ? inputOf(site, control.source.input) : undefined
    if (input && holdMs !== null && holdMs >= LONG_HOLD_MS[action]) return { name: input.name, holdMs }
  }
  return null
}
