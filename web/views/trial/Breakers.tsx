import type { Breakable } from '../../../core/trial'
import type { TrialPart } from './parts'

/** The row of things to break. A broken one is drawn broken: the line has a gap. */
export function Breakers({ site, snapshot, act }: TrialPart) {
  const things: { what: Breakable; name: string; state: string }[] = [
    { what: 'wifi', name: 'Wi-Fi', state: '' },
    { what: 'broker', name: 'Broker', state: '' },
    ...(site.hubs.length ? [{ what: 'hub' as const, name: 'Hub', state: '' }] : []),
    ...site.controllers.map((controller) => {
      const link = snapshot.links[controller.id]
      return { what: `power:${controller.id}` as const, name: `${controller.name}, power`, state: link === 'off' ? '' : controller.link === 'none' ? 'no link by design' : link === 'up' ? 'linked' : link === 'joining' ? 'joining …' : 'alone' }
    }),
  ]
  return (
    <div role="group" aria-label="Things to break" className="mt-3 flex flex-wrap gap-2 border-y border-hair py-2">
      {things.map(({ what, name, state }) => {
        const broken = snapshot.broken.includes(what)
        return (
          <button key={what} type="button" aria-pressed={broken} className="rounded-plate flex items-center gap-2 border-[1.5px] border-ink bg-panel px-2.5 py-1 text-note font-semibold aria-pressed:border-dashed aria-pressed:border-error aria-pressed:bg-transparent aria-pressed:text-error" onClick={() => act({ kind: 'break', what, broken: !broken })}>
            <svg viewBox="0 0 34 12" width="34" height="12" aria-hidden="true">
              {broken ? <path d="M1 6h10l3-4m6 8 3-4h10" fill="none" stroke="currentColor" strokeWidth="1.8" /> : <path d="M1 6h32" fill="none" stroke="currentColor" strokeWidth="1.8" />}
            </svg>
            <span>{name}</span>
            <span className="font-normal text-soft" data-link={what}>{broken ? 'gone: mend' : state || 'there: break'}</span>
          </button>
        )
      })}
    </div>
  )
}
