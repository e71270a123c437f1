import { lazy, Suspense, useEffect, useMemo, useState } from 'react'
import { toast } from 'sonner'
import { boardIn } from '../../../core/boards'
import { firstPins, movesOf, planPins, writePlan, type PinPlan } from '../../../core/pins'
import { counted, rolesOf, type Controller } from '../../../core/site'
import { comes } from '../../parts/comes'
import { side, SideTabs, SideView, useSide } from '../../parts/Sides'
import { ViewHead } from '../../parts/ViewHead'
import { isTyping } from '../../parts/typing'
import { edit } from '../../store/editing'
import { selectShownController } from '../../store/selection'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { BoardSide } from './BoardSide'
import { NewController } from './NewController'

const PlanPreview = lazy(() => comes(async () => ({ default: (await import('./PlanPreview')).PlanPreview })))

interface BenchSide {
  readonly controller: Controller
  readonly plan: PinPlan
}

/** The sides of the bench, a row each. Charts, drawing and editors come when their side is looked at. */
const SIDES = [
  { id: 'board', name: 'Board', View: BoardSide },
  side<BenchSide>('supply', 'Supply', async () => (await import('./SupplyTab')).SupplyTab),
  side<BenchSide>('contacts', 'Contacts', async () => (await import('./ContactsTab')).ContactsTab),
  side<BenchSide>('start', 'Start-up', async () => (await import('./StartUpTab')).StartUpTab),
  side<BenchSide>('wiring', 'Wiring', async () => (await import('./WiringTab')).WiringTab),
  side<BenchSide>('profiles', 'Profiles', async () => (await import('./ProfilesTab')).ProfilesTab),
]

/** What is on the table: the board with its real pins, what each is for, and how it is wired. */
export function BenchView() {
  const controller = useAppSelector(selectShownController)
  return controller ? <Table controller={controller} /> : <EmptyTable />
}

function EmptyTable() {
  return (
    <div className="px-5 py-4">
      <ViewHead
        title="Bench"
        note="No controller yet. Add one: name it and choose its board. Then name what it switches, and plan the pins."
      />
      <NewController open />
    </div>
  )
}

/** Planning, by the button and by `p`: what would move is shown first; where nothing would, it is done. */
function usePlanning(controller: Controller, planned: PinPlan) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [previewed, setPreviewed] = useState(false)
  const plan = () => {
    if (movesOf(site, planned).length > 0) return setPreviewed(true)
    if (firstPins(site, planned) === 0) return void toast('Every role is at its best pin already.')
    dispatch(edit(`plan pins of ${controller.name}`, (draft) => writePlan(draft, planned)))
  }
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key === 'p' && !isTyping(event.target) && !event.ctrlKey && !event.metaKey) plan()
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  })
  const preview = previewed && (
    <Suspense fallback={null}>
      <PlanPreview controller={controller} onDone={() => setPreviewed(false)} />
    </Suspense>
  )
  return { plan, preview }
}

function Table({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const [current, pick] = useSide(SIDES)
  // the plan costs milliseconds: once a document, not once a look
  const planned = useMemo(() => planPins(site, controller.id), [site, controller.id])
  return (
    <div className="px-5 py-4">
      <TableHead key={controller.id} controller={controller} planned={planned} />
      {planned.kind === 'impossible' && (
        <p role="alert" className="mt-2 border border-error px-2 py-1 text-error">
          {planned.reason}
        </p>
      )}
      <div className="mt-2 print:hidden">
        <SideTabs label="Sides of the bench" sides={SIDES} current={current.id} onPick={pick} />
      </div>
      <SideView side={current} controller={controller} plan={planned} />
    </div>
  )
}

function TableHead({ controller, planned }: { controller: Controller; planned: PinPlan }) {
  const site = useAppSelector((state) => state.site.site)!
  const { plan, preview } = usePlanning(controller, planned)
  const roles = rolesOf(site, controller.id).length
  const impossible = planned.kind === 'impossible'
  const board = boardIn(site, controller.board)?.name ?? 'a board without a profile'
  return (
    <>
      <ViewHead title="Bench" note={`${controller.name}: ${board}, ${counted(roles, 'role')}`}>
        <button type="button" className="press-main" onClick={plan} disabled={impossible || roles === 0}>
          Plan pins
        </button>
        <NewController />
      </ViewHead>
      {preview}
    </>
  )
}
