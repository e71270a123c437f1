import { DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { lazy, Suspense, useEffect } from 'react'
import { boardIn } from '../../../core/boards'
import { placeRole, planAndWrite, planPins } from '../../../core/bench'
import { roleName, rolesOf } from '../../../core/site'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { BenchTabs, useTab } from './BenchTabs'
import { BoardPins } from './BoardPins'
import { ConnectionList } from './ConnectionList'
import { ControllerFields } from './ControllerFields'
import { NewController } from './NewController'
import { RoleFields } from './RoleFields'
import { RoleList } from './RoleList'

// Charts, drawing and editors come when their side is looked at.
const SupplyTab = lazy(async () => ({ default: (await import('./SupplyTab')).SupplyTab }))
const ContactsTab = lazy(async () => ({ default: (await import('./ContactsTab')).ContactsTab }))
const StartUpTab = lazy(async () => ({ default: (await import('./StartUpTab')).StartUpTab }))
const WiringTab = lazy(async () => ({ default: (await import('./WiringTab')).WiringTab }))
const ProfilesTab = lazy(async () => ({ default: (await import('./ProfilesTab')).ProfilesTab }))

/** What is on the table: the board with its real pins, what each is for, and how it is wired. */
export function BenchView() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector((state) => state.screen.controller)
  const picked = useAppSelector((state) => state.screen.role)
  const [tab, setTab] = useTab()
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor),
  )
  const controller = site.controllers.find((candidate) => candidate.id === narrowed) ?? site.controllers[0]
  const plan = () => {
    if (controller) dispatch(edit(`plan pins of ${controller.name}`, (draft) => planAndWrite(draft, controller.id)))
  }
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const typing =
        event.target instanceof HTMLElement && ['INPUT', 'SELECT', 'TEXTAREA'].includes(event.target.tagName)
      if (event.key === 'p' && !typing && !event.ctrlKey && !event.metaKey) plan()
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  })
  if (!controller) {
    return (
      <div className="px-5 py-4">
        <h1 className="text-view font-bold">Bench</h1>
        <p className="mt-2 max-w-prose text-soft">
          Nothing is on the table yet. Put a board on it: it gets the channels that it switches, and Vestibule finds
          their pins.
        </p>
        <NewController open />
      </div>
    )
  }
  const board = boardIn(site, controller.board)
  const roles = rolesOf(site, controller.id)
  const role = roles.find((candidate) => candidate.id === picked)
  const planned = planPins(site, controller.id)
  const drop = ({ active, over }: DragEndEvent) => {
    const moved = roles.find((candidate) => candidate.id === active.id)
    if (moved && over)
      dispatch(
        edit(`${roleName(moved)} to ${String(over.id)}`, (draft) =>
          placeRole(draft, controller.id, moved.id, String(over.id)),
        ),
      )
  }
  return (
    <div className="px-5 py-4">
      <div className="flex items-baseline gap-4">
        <h1 className="text-view font-bold">Bench</h1>
        <p className="text-note text-soft">
          {controller.name}: {board?.name ?? 'a board without a profile'}, {roles.length}{' '}
          {roles.length === 1 ? 'role' : 'roles'}
        </p>
        <div className="ml-auto flex items-center gap-2">
          <button
            type="button"
            className="press"
            onClick={() =>
              dispatch(
                edit(`plan pins of ${controller.name}, keeping what is soldered`, (draft) =>
                  planAndWrite(draft, controller.id, { keepSoldered: true }),
                ),
              )
            }
            disabled={planned.kind === 'impossible' || Object.keys(controller.pins).length === 0}
            title="Moves a wire only where that mends something"
          >
            Plan, keep soldered
          </button>
          <button
            type="button"
            className="press-main"
            onClick={plan}
            disabled={planned.kind === 'impossible' || roles.length === 0}
          >
            Plan pins
          </button>
          <NewController />
        </div>
      </div>
      {planned.kind === 'impossible' && (
        <p role="alert" className="mt-2 border border-error px-2 py-1 text-error">
          {planned.reason}
        </p>
      )}
      <div className="mt-2 print:hidden">
        <BenchTabs tab={tab} onPick={setTab} />
      </div>
      <Suspense
        fallback={
          <p role="status" className="mt-4 text-soft">
            Loading …
          </p>
        }
      >
        {tab === 'supply' && <SupplyTab controller={controller} />}
        {tab === 'contacts' && <ContactsTab controller={controller} />}
        {tab === 'start' && <StartUpTab controller={controller} />}
        {tab === 'wiring' && <WiringTab controller={controller} />}
        {tab === 'profiles' && <ProfilesTab />}
      </Suspense>
      {tab === 'board' && (
        <DndContext
          sensors={sensors}
          onDragEnd={drop}
          accessibility={{
            screenReaderInstructions: {
              draggable:
                'Press space to lift the role, arrow keys to carry it, space to put it on a pin. Or choose ' +
                'its pin in the list beside.',
            },
          }}
        >
          <div className="mt-3 grid grid-cols-[minmax(0,1.12fr)_minmax(0,1fr)] gap-6">
            <div className="min-w-0">
              {board && <BoardPins board={board} controller={controller} />}
              <ConnectionList controller={controller} />
            </div>
            <div className="min-w-0">
              <RoleList controller={controller} roles={roles} />
              {role ? (
                <RoleFields
                  key={role.id}
                  controller={controller}
                  role={role}
                  plan={planned}
                  onClose={() => dispatch(screenActions.rolePicked(null))}
                />
              ) : (
                <ControllerFields key={controller.id} controller={controller} />
              )}
            </div>
          </div>
        </DndContext>
      )}
    </div>
  )
}
