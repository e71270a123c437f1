import { useMemo, useState } from 'react'
import { firstPins, movesOf, planKeeping, planPins, writePlan, type Move, type PinPlan } from '../../../core/pins'
import type { Controller, Site } from '../../../core/site'
import { solderedRoles } from '../../../core/wiring'
import { edit } from '../../store/editing'
import { tickedWires } from '../../store/logbook'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** How much a plan may move. */
type Freedom = 'wired' | 'mend' | 'anew'

const FREEDOMS: readonly (readonly [Freedom, string])[] = [
  ['wired', 'free pins only: what is soldered or flashed stays'],
  ['mend', 'move a wire only where that fixes a finding'],
  ['anew', 'best pins for all'],
]

/** Roles whose wire is there: ticked off as soldered; all that have a pin, where the board is flashed. */
function useWired(controller: Controller): ReadonlySet<string> {
  const site = useAppSelector((state) => state.site.site)!
  const wires = useAppSelector((state) => state.logbook.wires)
  const flashed = useAppSelector((state) => state.logbook.boards.some((board) => board.controller === controller.id))
  return useMemo(
    () =>
      flashed
        ? new Set(Object.keys(controller.pins))
        : solderedRoles(site, controller.id, tickedWires(wires, controller.id)),
    [site, controller, wires, flashed],
  )
}

const planOf = (site: Site, id: string, wired: ReadonlySet<string>, freedom: Freedom): PinPlan =>
  freedom === 'wired' ? planKeeping(site, id, wired) : planPins(site, id, { keepSoldered: freedom === 'mend' })

/** What a plan would move, before it is made; the maker chooses how much may move. */
export function PlanPreview({ controller, onDone }: { controller: Controller; onDone: () => void }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const wired = useWired(controller)
  const [freedom, setFreedom] = useState<Freedom>(wired.size > 0 ? 'wired' : 'anew')
  const plans = useMemo(
    () => new Map(FREEDOMS.map(([id]) => [id, planOf(site, controller.id, wired, id)])),
    [site, controller.id, wired],
  )
  const plan = plans.get(freedom)!
  const moves = movesOf(site, plan)
  const first = firstPins(site, plan)
  const make = () => {
    dispatch(edit(`plan pins of ${controller.name}`, (draft) => writePlan(draft, plan)))
    onDone()
  }
  return (
    <section aria-label="Plan pins" className="mt-2 border-l-3 border-brass-fill bg-panel px-3 py-2.5">
      <h2 className="font-semibold">{headOf(plan, moves, first)}</h2>
      <FreedomChoice freedom={freedom} onPick={setFreedom} count={(id) => countOf(site, plans.get(id)!)} />
      <MoveList moves={moves} wired={wired} />
      <Presses moves={moves.length} first={first} onMake={make} onDone={onDone} />
    </section>
  )
}

interface ChoiceProps {
  readonly freedom: Freedom
  readonly onPick: (freedom: Freedom) => void
  readonly count: (freedom: Freedom) => string
}

const FreedomChoice = ({ freedom, onPick, count }: ChoiceProps) => (
  <fieldset className="mt-1.5 flex flex-wrap gap-x-5">
    <legend className="sr-only">Wires that may move</legend>
    {FREEDOMS.map(([id, words]) => (
      <label key={id} className="flex min-h-6 items-center gap-1.5">
        <input
          type="radio"
          name="freedom"
          className="accent-(--ink)"
          checked={freedom === id}
          onChange={() => onPick(id)}
        />
        {words} <span className="text-soft">{count(id)}</span>
      </label>
    ))}
  </fieldset>
)

interface PressProps {
  readonly moves: number
  readonly first: number
  readonly onMake: () => void
  readonly onDone: () => void
}

const Presses = ({ moves, first, onMake, onDone }: PressProps) => (
  <div className="mt-2 flex gap-2">
    <button type="button" className="press-main" disabled={moves + first === 0} onClick={onMake}>
      {moves > 0 ? `Move ${moves === 1 ? '1 wire' : `${moves} wires`}` : 'Assign pins'}
    </button>
    <button type="button" className="press" onClick={onDone}>
      Cancel
    </button>
  </div>
)

const countOf = (site: Site, plan: PinPlan): string =>
  plan.kind === 'impossible' ? '(impossible)' : `(${movesOf(site, plan).length})`

function headOf(plan: PinPlan, moves: readonly Move[], first: number): string {
  if (plan.kind === 'impossible') return `${plan.reason}.`
  const parts = [
    ...(moves.length ? [`moves ${moves.length} ${moves.length === 1 ? 'wire' : 'wires'}`] : []),
    ...(first ? [`gives ${first} ${first === 1 ? 'role its' : 'roles their'} first pin`] : []),
  ]
  return parts.length ? `This ${parts.join(' and ')}.` : 'Nothing would move.'
}

function MoveList({ moves, wired }: { moves: readonly Move[]; wired: ReadonlySet<string> }) {
  if (moves.length === 0) return null
  return (
    <ul className="mt-1.5 max-h-48 overflow-auto text-note">
      {moves.map(({ role, name, from, to, reason }) => (
        <li key={role} className="grid @xl:grid-cols-[9rem_8rem_4.5rem_1fr] gap-2 py-0.5">
          <span className="truncate">{name}</span>
          <span className="font-mono">
            {from} → {to}
          </span>
          <span className="font-semibold text-error">{wired.has(role) ? '▲ wired' : ''}</span>
          <span className="truncate text-soft">{reason}</span>
        </li>
      ))}
    </ul>
  )
}
