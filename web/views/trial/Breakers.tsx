import type { Breakable } from '../../../core/trial'
import { coprocessorOf, type Controller } from '../../../core/site'
import type { TrialPart } from './parts'

interface Thing {
  readonly what: Breakable
  readonly name: string
  readonly state: string
}

/**
 * The row of things to break: what all share, then the power of each controller. A broken one is drawn broken: the line
 * has a gap.
 */
export function Breakers({ site, snapshot, act }: TrialPart) {
  const shared: Thing[] = [
    { what: 'wifi', name: 'Wi-Fi', state: 'there' },
    { what: 'broker', name: 'Broker', state: 'there' },
    ...(site.hubs.length ? [{ what: 'hub' as const, name: 'Hub', state: 'there' }] : []),
  ]
  const stateOf = (controller: Controller): string => {
    const radio = coprocessorOf(site, controller.id)
    switch (snapshot.links[controller.id]) {
      case 'off':
        return ''
      case 'up':
        return 'linked'
      case 'joining':
        return 'joining …'
      default:
        return controller.link !== 'none' ? 'alone' : radio ? `by ${radio.name}` : 'no link'
    }
  }
  const powers = site.controllers.map((controller): Thing => ({
    what: `power:${controller.id}`,
    name: controller.name,
    state: stateOf(controller),
  }))
  const row = ({ what, name, state }: Thing) => {
    const broken = snapshot.broken.includes(what)
    return (
      <button
        key={what}
        type="button"
        aria-pressed={broken}
        title={broken ? 'mend it' : 'break it'}
        className="rounded-plate flex items-center gap-1.5 border-[1.5px] border-ink bg-panel px-2 py-1 text-note font-semibold aria-pressed:border-dashed aria-pressed:border-error aria-pressed:bg-transparent aria-pressed:text-error"
        onClick={() => act({ kind: 'break', what, broken: !broken })}
      >
        <svg viewBox="0 0 20 12" width="20" height="12" aria-hidden="true">
          {broken ? (
            <path d="M0 6h6l2-4m4 8 2-4h6" fill="none" stroke="currentColor" strokeWidth="1.8" />
          ) : (
            <path d="M0 6h20" fill="none" stroke="currentColor" strokeWidth="1.8" />
          )}
        </svg>
        <span>{name}</span>
        <span className="font-normal text-soft" data-link={what}>
          {broken ? 'gone: mend' : state}
        </span>
      </button>
    )
  }
  return (
    <div
      role="group"
      aria-label="Things to break"
      className="mt-2 flex flex-wrap items-center gap-1.5 border-y border-hair py-1.5"
    >
      <span className="text-small text-soft">Break</span>
      {shared.map(row)}
      <span className="ml-2 text-small text-soft">or the power of</span>
      {powers.map(row)}
    </div>
  )
}
