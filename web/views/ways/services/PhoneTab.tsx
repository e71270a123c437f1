import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core'
import { useState, type ReactNode } from 'react'
import { Link } from 'react-router'
import type { Point, Service, Site, Widget } from '../../../../core/site'
import { moveWidget } from '../../../../core/ways'
import { familyOf } from '../../../../core/services'
import { PhoneScreen } from '../../../parts/PhoneScreen'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { withId } from '../../../store/useChange'
import { WidgetFields } from './WidgetFields'

/** The phone's screens, laid out by dragging; the same screens show live values in the trial. */
export function PhoneTab() {
  const site = useAppSelector((state) => state.site.site)!
  const services = site.services.filter(
    (service) => familyOf(site, service.kind) === 'service' && service.widgets.length > 0,
  )
  if (services.length === 0)
    return (
      <p className="text-soft">
        No widget yet. Fill the App column of the crossbar: each point gets a widget that suits its channel.
      </p>
    )
  return (
    <div className="space-y-6">
      {services.map((service) => (
        <Screen key={service.id} site={site} service={service} />
      ))}
      <p className="text-note text-soft">
        Drag a widget, or lift it with Space and move it with the arrow keys.{' '}
        <Link className="underline" to={`/${site.id}/trial`}>
          The trial
        </Link>{' '}
        shows these screens with live values.
      </p>
    </div>
  )
}

/** Values that widgets were tried with here; they touch nothing. */
function useTried(service: Service) {
  const [tried, setTried] = useState<Record<string, number>>({})
  const shownOf = (widget: Widget, point: Point) => {
    const value = tried[point.id] ?? point.default
    return { value, on: (value !== point.min) !== widget.inverted, reachable: true }
  }
  const touch = (widget: Widget, on: boolean, value?: number) => {
    const point = withId(service.points, widget.point)!
    const sent = value ?? (on !== widget.inverted ? point.max : point.min)
    setTried((before) => ({ ...before, [point.id]: sent }))
  }
  return { shownOf, touch }
}

/** Takes hold of a widget by mouse or by keys, and puts it where another stands. */
function useDrag(service: Service) {
  const dispatch = useAppDispatch()
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor),
  )
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (!over || active.id === over.id) return
    const name = withId(service.widgets, String(active.id))?.name
    dispatch(
      edit(`move ${name} on the phone`, (draft) => moveWidget(draft, service.id, String(active.id), String(over.id))),
    )
  }
  return { sensors, onDragEnd }
}

function Screen({ site, service }: { site: Site; service: Service }) {
  const [picked, setPicked] = useState<string | null>(null)
  const { shownOf, touch } = useTried(service)
  const drag = useDrag(service)
  const widget = service.widgets.find((one) => one.id === picked)
  const wrap = (one: Widget, inside: ReactNode) => (
    <Movable widget={one} picked={picked === one.id} onPick={() => setPicked(one.id)}>
      {inside}
    </Movable>
  )
  const tried = (one: Widget, on: boolean, value?: number) => {
    setPicked(one.id)
    touch(one, on, value)
  }
  return (
    <section aria-label={service.name} className="grid @3xl:grid-cols-[21rem_1fr] gap-6">
      <div>
        <h2 className="rule-head">{service.name}</h2>
        <DndContext {...drag}>
          <div className="mt-2">
            <PhoneScreen site={site} service={service} shownOf={shownOf} touch={tried} wrap={wrap} />
          </div>
        </DndContext>
      </div>
      {widget ? (
        <WidgetFields service={service} widget={widget} key={widget.id} />
      ) : (
        <p className="self-center text-soft">Pick a widget to edit it.</p>
      )}
    </section>
  )
}

interface MovableProps {
  readonly widget: Widget
  readonly picked: boolean
  readonly onPick: () => void
  readonly children: ReactNode
}

/** A widget with a handle to drag it by, and a place to drop others on. */
function Movable({ widget, picked, onPick, children }: MovableProps) {
  const { transform, ...drag } = useDraggable({ id: widget.id })
  const place = useDroppable({ id: widget.id })
  const outline = `data-over:outline-3 data-over:outline-brass-fill ${picked ? 'outline-2 outline-ink' : ''}`
  const moved = transform ? { transform: `translate(${transform.x}px, ${transform.y}px)`, zIndex: 10 } : undefined
  const hold = (node: HTMLDivElement | null) => {
    drag.setNodeRef(node)
    place.setNodeRef(node)
  }
  return (
    <div ref={hold} data-over={place.isOver || undefined} className={`relative h-full ${outline}`} style={moved}>
      {children}
      <button
        type="button"
        {...drag.listeners}
        {...drag.attributes}
        aria-label={`Move ${widget.name}`}
        className={
          'absolute top-0.5 right-0.5 flex size-6 cursor-grab items-center justify-center text-soft hover:text-ink'
        }
        onClick={onPick}
      >
        <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true">
          <path d="M1 3h10M1 6h10M1 9h10" stroke="currentColor" strokeWidth="1.4" />
        </svg>
      </button>
    </div>
  )
}
