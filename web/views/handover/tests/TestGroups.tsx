import { Check, Circle, Minus, X, type LucideIcon } from 'lucide-react'
import type { Outcome, TestRun } from '../../../../core/api'
import { openStage, STAGE_NAMES, STAGES, type Stage } from '../../../../core/outputs'
import { useAppSelector } from '../../../store/store'
import { byChannel, countOf, progressWords, type Item } from './testProgress'

const SIGNS: Readonly<Record<Outcome, readonly [LucideIcon, string]>> = {
  open: [Circle, 'text-soft'],
  passed: [Check, 'text-rest'],
  failed: [X, 'text-error'],
  skipped: [Minus, 'text-soft'],
}

interface Props {
  readonly run: TestRun
  /** of the controller: what is tested of it as a whole stands under this name */
  readonly name: string
  readonly current: string | null
  readonly onPick: (key: string) => void
}

/** All tests by stage and channel: what is done is one line, what is in hand stands open. */
export function TestGroups(props: Props) {
  return (
    <div className="min-w-0 space-y-4">
      {STAGES.map((stage, at) => (
        <StageGroup key={stage} {...props} stage={stage} number={at + 1} />
      ))}
    </div>
  )
}

function StageGroup({ run, name, current, onPick, stage, number }: Props & { stage: Stage; number: number }) {
  const site = useAppSelector((state) => state.site.site)!
  const items = run.items.filter((item) => item.stage === stage)
  const waiting = openStage(run.items, stage)
  if (items.length === 0) return null
  return (
    <section aria-label={STAGE_NAMES[stage]}>
      <h3 className="rule-head flex items-baseline">
        {number}. {STAGE_NAMES[stage]}
        <span className="ml-auto font-normal text-soft">{progressWords(items)}</span>
      </h3>
      {waiting && <p className="mt-1 text-note text-warning">Waits for “{STAGE_NAMES[waiting]}”.</p>}
      {byChannel(site, items, name).map((group) => (
        <details
          key={`${group.id}/${group.items.some(({ key }) => key === current)}`}
          open={group.items.some(({ key }) => key === current) || countOf(group.items, 'failed') > 0}
          className="border-b border-hair"
        >
          <summary className="min-h-7 cursor-pointer py-1 font-semibold">
            {group.name}
            <span className="ml-2 text-note font-normal text-soft">{progressWords(group.items)}</span>
          </summary>
          <ul className="mb-1.5 ml-4">
            {group.items.map((item) => (
              <ItemLine key={item.key} item={item} current={item.key === current} onPick={onPick} />
            ))}
          </ul>
        </details>
      ))}
    </section>
  )
}

function ItemLine({ item, current, onPick }: { item: Item; current: boolean; onPick: (key: string) => void }) {
  const [Sign, looks] = SIGNS[item.outcome]
  return (
    <li data-outcome={item.outcome}>
      <button
        type="button"
        aria-current={current ? 'step' : undefined}
        className="flex min-h-7 w-full items-baseline gap-2 px-1 py-0.5 text-left text-note hover:bg-panel aria-[current=step]:bg-panel aria-[current=step]:font-semibold"
        onClick={() => onPick(item.key)}
      >
        <Sign size={12} className={`shrink-0 translate-y-0.5 ${looks}`} aria-hidden="true" />
        <span className="min-w-0">
          <span className="sr-only">{item.outcome === 'open' ? 'not run' : item.outcome}: </span>
          {item.action}
          {item.note && <span className="block text-small font-normal text-soft">{item.note}</span>}
          {item.outcome !== 'open' && item.heard.length > 0 && (
            <span className="block text-small font-normal text-soft">Heard: {item.heard.join('; ')}</span>
          )}
        </span>
      </button>
    </li>
  )
}
