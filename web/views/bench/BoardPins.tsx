import { useDraggable, useDroppable } from '@dnd-kit/core'
import { Lock } from 'lucide-react'
import { type BoardProfile, type GpioSpot, type Spot, pinNotes, type PowerSpot } from '../../../core/boards'
import { rolesByGpio } from '../../../core/pins'
import { roleName, rolesOf, type Controller, type Role } from '../../../core/site'
import { selectOpenFindings } from '../../store/findings'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** The board as its two real rows of pins, with the board's labels and the GPIO numbers. */
export function BoardPins({ board, controller }: { board: BoardProfile; controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const roles = rolesByGpio(site, controller.id)
  const unplaced = rolesOf(site, controller.id).filter((role) => !controller.pins[role.id])
  const rows = Math.max(board.left.length, board.right.length)
  const printed = board.name.split(',')[0]!
  return (
    <section aria-label={`Pins of the ${board.name}`}>
      {unplaced.length > 0 && (
        <div className="mb-2 flex flex-wrap items-center gap-1.5 border border-dashed border-bus p-2">
          <span className="text-small text-soft">no pin yet:</span>
          {unplaced.map((role) => (
            <RolePlate key={role.id} role={role} locked={false} />
          ))}
        </div>
      )}
      <div className="grid grid-cols-[minmax(0,1fr)_4.4rem_3rem_4.4rem_minmax(0,1fr)] auto-rows-[1.66rem]">
        <div
          className="relative rounded-md border-2 border-ink bg-panel"
          style={{ gridColumn: 3, gridRow: `1 / span ${rows}` }}
          aria-hidden="true"
        >
          {/* a name that is longer than its board stays above it, in the head */}
          {printed.length * 0.42 < rows * 1.66 && (
            <span className="font-place absolute top-1/2 left-1/2 -translate-x-1/2 -translate-y-1/2 -rotate-90 text-small whitespace-nowrap text-soft">
              {printed}
            </span>
          )}
          <span className="absolute bottom-0 left-1/2 h-2.5 w-6 -translate-x-1/2 rounded-t-sm border-2 border-b-0 border-ink" />
        </div>
        {Array.from({ length: rows }, (_, row) => (
          <div key={row} className="contents">
            <PinSide spot={board.left[row]} side="left" row={row + 1} roles={roles} controller={controller} />
            <PinSide spot={board.right[row]} side="right" row={row + 1} roles={roles} controller={controller} />
          </div>
        ))}
      </div>
    </section>
  )
}

/** The volts of a power pin, unless its label says them. */
const voltsBeside = ({ volts, label }: PowerSpot): string =>
  volts && !label.startsWith(String(volts).replace('.', 'V')) ? `${volts} V` : ''

/** Where a pin's label and its place stand in the grid; the body of the board takes the middle column. */
const placed = (side: 'left' | 'right', part: 'label' | 'place', row: number) => ({
  gridRow: row,
  gridColumn: side === 'left' ? (part === 'place' ? 1 : 2) : part === 'label' ? 4 : 5,
})

interface SideProps {
  readonly side: 'left' | 'right'
  readonly row: number
  readonly controller: Controller
}

function PinSide({
  spot,
  side,
  row,
  roles,
  controller,
}: SideProps & { spot: Spot | undefined; roles: Map<number, Role[]> }) {
  if (!spot) return null
  if (spot.kind === 'gpio')
    return <GpioSide spot={spot} side={side} row={row} here={roles.get(spot.gpio) ?? []} controller={controller} />
  return (
    <>
      <PinLabel side={side} row={row} label={spot.label} number={voltsBeside(spot)} power />
      <span
        style={placed(side, 'place', row)}
        className={`self-center truncate px-2 text-small text-soft ${side === 'left' ? 'text-right' : ''}`}
      >
        {spot.note ?? ''}
      </span>
    </>
  )
}

function GpioSide({ spot, side, row, here, controller }: SideProps & { spot: GpioSpot; here: readonly Role[] }) {
  const { setNodeRef, isOver } = useDroppable({ id: spot.label })
  const wrong = useAppSelector(selectOpenFindings).some(
    ({ where, severity }) =>
      where.controller === controller.id && here.some((role) => role.id === where.role) && severity !== 'note',
  )
  const notes = pinNotes(spot).join(', ')
  const looks = side === 'left' ? 'flex-row-reverse' : ''
  return (
    <>
      <PinLabel
        side={side}
        row={row}
        label={spot.label}
        number={`${spot.gpio}`}
        filled={here.length > 0}
        wrong={wrong}
      />
      <span
        ref={setNodeRef}
        style={placed(side, 'place', row)}
        className={`flex min-w-0 items-center gap-1.5 px-1 data-over:bg-brass-fill/30 data-over:outline-1 data-over:outline-brass ${looks}`}
        data-over={isOver || undefined}
        data-pin={spot.label}
        title={notes || undefined}
      >
        {here.map((role) => (
          <RolePlate key={role.id} role={role} locked={controller.pins[role.id]?.locked === true} />
        ))}
        {here.length === 0 && <FreePin notes={notes} side={side} />}
      </span>
    </>
  )
}

function FreePin({ notes, side }: { notes: string; side: 'left' | 'right' }) {
  const align = side === 'left' ? 'text-right' : ''
  return (
    <span className={`min-w-0 truncate text-[0.6875rem] leading-tight text-soft ${align}`} title={notes}>
      {notes}
    </span>
  )
}

interface LabelProps {
  readonly side: 'left' | 'right'
  readonly row: number
  readonly label: string
  readonly number: string
  readonly filled?: boolean
  readonly wrong?: boolean
  readonly power?: boolean
}

function PinLabel({ side, row, label, number, filled, wrong, power }: LabelProps) {
  const inside = filled ? (wrong ? 'border-error bg-error' : 'bg-brass-fill') : ''
  const outline = power ? 'border-soft' : 'rounded-full border-brass'
  const words = `min-w-0 flex-1 whitespace-nowrap font-mono text-[0.75rem] leading-none ${side === 'left' ? 'text-right' : ''}`
  return (
    <span
      style={placed(side, 'label', row)}
      className={`flex items-center gap-1 px-0.5 ${side === 'left' ? '' : 'flex-row-reverse'}`}
    >
      <span className={words}>
        <span className={power ? 'text-soft' : 'font-semibold'}>{label}</span>
        {number && <span className="ml-1 text-[0.625rem] text-soft">{number}</span>}
      </span>
      <span aria-hidden="true" className={`size-2.5 shrink-0 border-[1.5px] ${outline} ${inside}`} />
    </span>
  )
}

/** A role, which can be dragged to another pin. Outputs are filled plates, inputs outlined ones. */
export function RolePlate({ role, locked }: { role: Role; locked: boolean }) {
  const dispatch = useAppDispatch()
  const picked = useAppSelector((state) => state.screen.role) === role.id
  const { attributes, listeners, setNodeRef, transform, isDragging } = useDraggable({ id: role.id })
  return (
    <button
      ref={setNodeRef}
      type="button"
      {...listeners}
      {...attributes}
      aria-pressed={picked}
      onClick={() => dispatch(screenActions.rolePicked(picked ? null : role.id))}
      style={
        transform
          ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 30, position: 'relative' }
          : undefined
      }
      className={
        'rounded-plate flex min-h-6 max-w-40 min-w-6 items-center gap-1 border-[1.5px] border-plate px-1.5 ' +
        'text-[0.75rem] leading-5 font-semibold ' +
        `${role.kind === 'output' ? 'bg-plate text-plate-ink' : 'bg-panel text-ink'} ` +
        `${isDragging ? 'opacity-80 shadow-lg' : ''} aria-pressed:outline-2 aria-pressed:outline-offset-1 ` +
        'aria-pressed:outline-brass-fill'
      }
    >
      {locked && <Lock size={10} aria-label="locked" />}
      <span className="truncate">{roleName(role)}</span>
    </button>
  )
}
