import { wiredHolders, wireOf } from '../../../core/services'
import { coprocessorOf, type Controller, type Site } from '../../../core/site'
import { FAULT_WORDS, partsOf, type FaultKind, type PartId } from '../../../core/parts'
import type { TrialSnapshot } from '../../../core/trial'
import { PartPicker } from './PartPicker'
import type { TrialPart } from './parts'

interface Thing {
  readonly what: PartId
  readonly name: string
  readonly state: string
}

/** What all share. */
const sharedOf = (site: Site): Thing[] => [
  { what: 'mains', name: 'Mains', state: '' },
  { what: 'router', name: 'Router', state: '' },
  { what: 'wifi', name: 'Wi-Fi', state: '' },
  { what: 'internet', name: 'Internet', state: '' },
  { what: 'broker', name: 'Broker', state: '' },
  ...(site.hubs.some((hub) => !wireOf(site, hub)) ? [{ what: 'hub' as const, name: 'Hub', state: '' }] : []),
  // each service that has a connection of its own
  ...wiredHolders(site).map((service): Thing => ({ what: `service:${service.id}`, name: service.name, state: '' })),
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
    const fault = snapshot.faults.find(({ part }) => part === thing.what)
    const down = snapshot.broken.includes(thing.what)
    const turn = () => act({ kind: 'break', what: thing.what, broken: !fault })
    return <Breaker key={thing.what} thing={thing} how={fault?.how ?? null} down={down} onTurn={turn} />
  }
  const shared = sharedOf(site)
  const chips = new Set<PartId>([...shared, ...powers].map(({ what }) => what))
  const others = snapshot.faults.filter(({ part }) => !chips.has(part))
  return (
    <div role="group" aria-label="Things to break" className="mt-1.5 space-y-1.5 border-y border-hair py-1.5">
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="text-small text-soft">Break:</span>
        {shared.map(row)}
      </div>
      <div className="flex flex-wrap items-center gap-1.5">
        <span className="text-small text-soft">Power:</span>
        {powers.map(row)}
        {others.map(({ part, how }) => (
          <OtherFault
            key={part}
            site={site}
            part={part}
            how={how}
            onMend={() => act({ kind: 'break', what: part, broken: false })}
          />
        ))}
        <PartPicker site={site} onBreak={(what, how) => act({ kind: 'break', what, how, broken: true })} />
      </div>
    </div>
  )
}

/** A part is out for a reason of its own, or down because another is. */
interface BreakerProps {
  readonly thing: Thing
  readonly how: FaultKind | null
  readonly down: boolean
  readonly onTurn: () => void
}

function stateWords({ thing, how, down }: BreakerProps): string {
  if (how === null) return down ? 'down' : thing.state
  return how === 'gone' ? 'down, restore' : `${FAULT_WORDS[how]}, restore`
}

function Breaker(props: BreakerProps) {
  const { thing, how, down, onTurn } = props
  const isOut = how !== null || down
  return (
    <button
      type="button"
      aria-pressed={how !== null}
      data-down={down}
      title={how === null ? 'break it' : 'restore it'}
      className={
        'rounded-plate flex items-center gap-1.5 border-[1.5px] border-ink bg-panel px-2 py-0.5 text-note ' +
        'font-semibold aria-pressed:border-dashed aria-pressed:border-error aria-pressed:bg-transparent ' +
        'aria-pressed:text-error data-[down=true]:border-dashed data-[down=true]:text-error'
      }
      onClick={onTurn}
    >
      <svg viewBox="0 0 20 12" width="20" height="12" aria-hidden="true">
        <path d={isOut ? 'M0 6h6l2-4m4 8 2-4h6' : 'M0 6h20'} fill="none" stroke="currentColor" strokeWidth="1.8" />
      </svg>
      <span>{thing.name}</span>
      <span className="font-normal text-soft" data-link={thing.what}>
        {stateWords(props)}
      </span>
    </button>
  )
}

/** A fault of a part that has no press of its own here. */
function OtherFault({ site, part, how, onMend }: { site: Site; part: PartId; how: FaultKind; onMend: () => void }) {
  const name = partsOf(site).get(part)?.name ?? part
  return (
    <button
      type="button"
      title="restore it"
      className="rounded-plate flex items-center gap-1.5 border-[1.5px] border-dashed border-error px-2 py-0.5 text-note font-semibold text-error"
      onClick={onMend}
    >
      <span aria-hidden="true">✕</span> {name} <span className="font-normal">{FAULT_WORDS[how]}, restore</span>
    </button>
  )
}
