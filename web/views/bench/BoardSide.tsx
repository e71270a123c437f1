import { DndContext, KeyboardSensor, PointerSensor, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core'
import { lazy, Suspense } from 'react'
import { placeRole, type PinPlan } from '../../../core/pins'
import { boardIn } from '../../../core/boards'
import { roleName, rolesOf, type Controller } from '../../../core/site'
import { comes } from '../../parts/comes'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { BoardPins } from './BoardPins'
import { ConnectionList } from './ConnectionList'
import { ControllerFields } from './ControllerFields'
import { RoleList } from './RoleList'

// All that can be set of a role comes when one is picked.
const RoleFields = lazy(() => comes(async () => ({ default: (await import('./RoleFields')).RoleFields })))

const SPOKEN = {
  draggable:
    'Press space to lift the role, arrow keys to carry it, space to put it on a pin. ' +
    'Or choose its pin in the list beside.',
}

/** The board with its pins and wires; beside it what it works, and the picked one of these. */
export function BoardSide({ controller, plan }: { controller: Controller; plan: PinPlan }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const picked = useAppSelector((state) => state.screen.role)
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 4 } }),
    useSensor(KeyboardSensor),
  )
  const board = boardIn(site, controller.board)
  const roles = rolesOf(site, controller.id)
  const role = roles.find((candidate) => candidate.id === picked)
  const drop = ({ active, over }: DragEndEvent) => {
    const moved = roles.find((candidate) => candidate.id === active.id)
    if (!moved || !over) return
    const pin = String(over.id)
    dispatch(edit(`${roleName(moved)} to ${pin}`, (draft) => placeRole(draft, controller.id, moved.id, pin)))
  }
  const close = () => dispatch(screenActions.rolePicked(null))
  return (
    <DndContext sensors={sensors} onDragEnd={drop} accessibility={{ screenReaderInstructions: SPOKEN }}>
      <div className="mt-3 grid @3xl:grid-cols-[minmax(0,1.12fr)_minmax(0,1fr)] gap-6">
        <div className="min-w-0">
          {board && <BoardPins board={board} controller={controller} />}
          <ConnectionList controller={controller} />
        </div>
        <div className="min-w-0">
          <RoleList controller={controller} roles={roles} />
          {role ? (
            <Suspense fallback={null}>
              <RoleFields key={role.id} controller={controller} role={role} plan={plan} onClose={close} />
            </Suspense>
          ) : (
            <ControllerFields key={controller.id} controller={controller} />
          )}
        </div>
      </div>
    </DndContext>
  )
}
