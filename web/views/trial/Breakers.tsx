import { wiredHolders, wireOf } from '../../../core/services'
import { coprocessorOf, type Controller, type Site } from '../../../core/site'
import type { PartId } from '../../../core/parts'
import type { TrialSnapshot } from '../../../core/trial'
import type { TrialPart } from './parts'

interface Thing {
  readonly what: PartId
  readonly name: string
  readonly state: string
}

/** What all share. */
const sharedOf = (site: Site): Thing[] => [
  { what: 'wifi', name: 'Wi-Fi', state: 'OK' },
  { what: 'broker', name: 'Broker', state: 'OK' },
  ...(site.hubs.some((hub) => !wireOf(site, hub)) ? [{ what: 'hub' as const, name: 'Hub', state: 'OK' }] : []),
  // each service that has a connection of its own
  ...wiredHolders(site).map((service): Thing => ({ what: `service:${service.id}`, name: service.name, state: 'OK' })),
]

const LINK_WORDS: Readonly<Record<string, string>> = { off: '', up: 'online', joining: 'connecting …' }

/** How a controller stands to the network. */
function linkWords(site: Site, snapshot: TrialSnapshot, controller: Controller): string {
  const known = LINK_WORDS[snapshot.links[controller.id] ?? '']
  if (known !== undefined) return known
  if (controller.link !== 'none') return 'offline'
  const radio = coprocessorOf(site, controller.id)
  return radio ? `by ${radio.name}` : 'no link'
}

/**
 * The row of things to break: what all share, then the power of each controller. A broken one is drawn broken: the line
 * has a gap.
 */
export function Breakers({ site, snapshot, act }: TrialPart) {
  const powers = site.controllers.map((controller): Thing => ({
    what: `power:${controller.id}`,
    name: controller.name,
    state: linkWords(site, snapshot, controller),
  }))
  const row = (thing: Thing) => {
    const broken = snapshot.broken.includes(thing.what)
    const turn = () => act({ kind: 'break', what: thing.what, broken: !broken })
    return <Breaker key={thing.what} thing={thing} broken={broken} onTurn={turn} />
  }
  return (
    <div
      role="group"
      aria-label="Things to break"
      className="mt-2 flex flex-wrap items-center gap-1.5 border-y border-hair py-1.5"
    >
      <span className="text-small text-soft">Break:</span>
      {sharedOf(site).map(row)}
      <span className="ml-2 text-small text-soft">Power:</span>
      {powers.map(row)}
    </div>
  )
}

function Breaker({ thing, broken, onTurn }: { thing: Thing; broken: boolean; onTurn: () => void }) {
  return (
    <button
      type="button"
      aria-pressed={broken}
      title={broken ? 'restore it' : 'break it'}
      className={
        'rounded-plate flex items-center gap-1.5 border-[1.5px] border-ink bg-panel px-2 py-1 text-note ' +
        'font-semibold aria-pressed:border-dashed aria-pressed:border-error aria-pressed:bg-transparent ' +
        'aria-pressed:text-error'
      }
      onClick={onTurn}
    >
      <svg viewBox="0 0 20 12" width="20" height="12" aria-hidden="true">
        <path d={broken ? 'M0 6h6l2-4m4 8 2-4h6' : 'M0 6h20'} fill="none" stroke="currentColor" strokeWidth="1.8" />
      </svg>
      <span>{thing.name}</span>
      <span className="font-normal text-soft" data-link={thing.what}>
        {broken ? 'down, restore' : thing.state}
      </span>
    </button>
  )
}
