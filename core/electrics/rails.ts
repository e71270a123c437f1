import { boardIn, moduleIn, type SupplyProfile } from '../boards'
import { relaysOn, type Controller, type Site, type SupplyPlan } from '../site'

/** Volts and amperes of each rail, as the plan says them. */

export type RailKey = 'board' | 'coils' | 'own'

export interface Rail {
  readonly key: RailKey
  readonly source: SupplyProfile
  /** null: fed straight from the source */
  readonly converter: SupplyProfile | null
  readonly volts: number
}

/** V that a linear regulator, and a step-down converter, lose at least (memory of usual data sheets). */
export const DROPOUT_VOLTS = { linear: 1.5, buck: 0.5 } as const

/** Why a converter cannot make its volts from the source's; null: it can. */
export function cannotConvert({ source, converter }: Rail): { readonly needs: number } | null {
  if (!converter) return null
  const needs = converter.volts + (converter.type === 'linear' ? DROPOUT_VOLTS.linear : DROPOUT_VOLTS.buck)
  return source.volts < needs ? { needs } : null
}

/** The rails of a plan; empty while its source is not known. */
export function railsOf(site: Site, plan: SupplyPlan): Rail[] {
  const source = moduleIn(site, 'supply', plan.source)
  if (!source) return []
  return (['board', 'coils', 'own'] as const).map((key) => {
    const id = plan[key]
    const converter = (id === null ? undefined : moduleIn(site, 'supply', id)) ?? null
    return { key, source, converter, volts: converter?.volts ?? source.volts }
  })
}

/** mA that a rail gives to what hangs on it, at its own volts; a burst counts as what its source gives to it. */
export function railMilliamps(site: Site, controller: Controller, key: RailKey): number {
  const { module, parts } = controller
  const drawn = (rails: readonly string[]) =>
    parts.reduce((sum, part) => {
      const profile = moduleIn(site, 'part', part.profile)
      return profile && rails.includes(profile.rail)
        ? sum + (profile.burstMs > 0 ? profile.draw.idle : profile.draw.peak)
        : sum
    }, 0)
  if (key === 'coils')
    return module ? (module.coilVolts / module.coilOhms) * 1000 * relaysOn(site, controller.id).length : 0
  if (key === 'own') return drawn(['own'])
  return (boardIn(site, controller.board)?.drawMilliamps.peak ?? 0) + drawn(['logic', '5V', 'none'])
}
