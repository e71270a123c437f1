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
import type { Service, Site, Widget } from '../../../../core/site'
import { familyOf, moveWidget } from '../../../../core/ways'
import { ChoiceField, TextField, TickField } from '../../../parts/fields'
import { PhoneScreen } from '../../../parts/PhoneScreen'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { WIDGET_CHOICES } from '../AppFields'

/** The phone's screens, laid out by dragging; the same screens show live values in the trial. */
export function PhoneTab() {
  const site = useAppSelector((state) => state.site.site)!
  const services = site.services.filter(
    (service) => familyOf(site, service.kind) === 'service' && service.widgets.length > 0,
  )
  if (services.length === 0)
    return (
      <p className="text-soft">
        No widget yet. Fill the App column of the crossbar: each point comes with the widget that suits its channel.
      </p>
    )
  return (
    <div className="space-y-6">
      {services.map((service) => (
        <Screen key={service.id} site={site} service={service} />
      ))}
      <p className="text-note text-soft">
        Drag a widget, or take it up with Space and move it with the arrows.{' '}
        <Link className="underline" to={`/${site.id}/trial`}>
          The trial
        </Link>{' '}
        shows these screens with live values.
      </p>
    </div>
  )
}

function Screen({ site, service }: { site: Site; service: Service }) {
  const dispatch = useAppDispatch()
  const [picked, setPicked] = useState<string | null>(null)
  const [tried, setTried] = useState<Record<string, number>>({})
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    useSensor(KeyboardSensor),
  )
  const widget = service.widgets.find((one) => one.id === picked)
  const drop = ({ active, over }: DragEndEvent) => {
    if (over && active.id !== over.id)
      dispatch(
        edit(`move ${service.widgets.find((one) => one.id === active.id)?.name} on the phone`, (draft) =>
          moveWidget(draft, service.id, String(active.id), String(over.id)),
        ),
      )
  }
  return (
    <section aria-label={service.name} className="grid grid-cols-[21rem_1fr] gap-6">
      <div>
        <h2 className="rule-head">{service.name}</h2>
        <DndContext sensors={sensors} onDragEnd={drop}>
          <div className="mt-2">
            <PhoneScreen
              site={site}
              service={service}
              shownOf={(one, point) => {
                const value = tried[point.id] ?? point.default
                return { value, on: (value !== point.min) !== one.inverted, reachable: true }
              }}
              touch={(one, on, value) => {
                const point = service.points.find((p) => p.id === one.point)!
                setPicked(one.id)
                setTried((before) => ({
                  ...before,
                  [point.id]: value ?? (on !== one.inverted ? point.max : point.min),
                }))
              }}
              wrap={(one, inside) => (
                <Movable widget={one} picked={picked === one.id} onPick={() => setPicked(one.id)}>
                  {inside}
                </Movable>
              )}
            />
          </div>
        </DndContext>
      </div>
      {widget ? (
        <WidgetFields service={service} widget={widget} key={widget.id} />
      ) : (
        <p className="self-center text-soft">Pick a widget to change it.</p>
      )}
    </section>
  )
}

/** A widget with a handle to drag it by, and a place to drop others on. */
function Movable({
  widget,
  picked,
  onPick,
  children,
}: {
  widget: Widget
  picked: boolean
  onPick: () => void
  children: ReactNode
}) {
  const drag = useDraggable({ id: widget.id })
  const place = useDroppable({ id: widget.id })
  return (
    <div
      ref={(node) => {
        drag.setNodeRef(node)
        place.setNodeRef(node)
      }}
      className={`relative h-full ${place.isOver ? 'outline-3 outline-brass-fill' : picked ? 'outline-2 outline-ink' : ''}`}
      style={
        drag.transform
          ? { transform: `translate(${drag.transform.x}px, ${drag.transform.y}px)`, zIndex: 10 }
          : undefined
      }
    >
      {children}
      <button
        type="button"
        {...drag.listeners}
        {...drag.attributes}
        aria-label={`Move ${widget.name}`}
        className="absolute top-0.5 right-0.5 flex size-6 cursor-grab items-center justify-center text-soft hover:text-ink"
        onClick={onPick}
      >
        <svg viewBox="0 0 12 12" width="12" height="12" aria-hidden="true">
          <path d="M1 3h10M1 6h10M1 9h10" stroke="currentColor" strokeWidth="1.4" />
        </svg>
      </button>
    </div>
  )
}

function WidgetFields({ service, widget }: { service: Service; widget: Widget }) {
  const dispatch = useAppDispatch()
  const point = service.points.find((one) => one.id === widget.point)!
  const change = (label: string, mutate: (widget: Widget) => void) =>
    dispatch(
      edit(`${widget.name}: ${label}`, (draft) =>
        mutate(draft.services.find((s) => s.id === service.id)!.widgets.find((w) => w.id === widget.id)!),
      ),
    )
  const word = (text: string): string | null => (text.trim() ? null : 'a word is needed')
  return (
    <div className="max-w-md self-start">
      <h2 className="rule-head">{widget.name}</h2>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <TextField
          label="Name"
          value={widget.name}
          check={word}
          onKeep={(name) =>
            change('name', (w) => {
              w.name = name
            })
          }
        />
        <ChoiceField
          label="Widget"
          value={widget.kind}
          choices={WIDGET_CHOICES}
          onKeep={(kind) =>
            change('kind', (w) => {
              w.kind = kind
              w.labels = kind === 'mode' ? (w.labels ?? ['off', 'on']) : null
            })
          }
        />
        <ChoiceField
          label="Width"
          value={widget.width}
          choices={[
            ['half', 'half'],
            ['full', 'full'],
          ]}
          onKeep={(width) =>
            change('width', (w) => {
              w.width = width
            })
          }
        />
        {widget.kind === 'mode' && widget.labels && (
          <>
            <TextField
              label={`At ${point.min} it says`}
              value={widget.labels[0]}
              check={word}
              onKeep={(text) =>
                change('label', (w) => {
                  if (w.labels) w.labels[0] = text
                })
              }
            />
            <TextField
              label={`At ${point.max} it says`}
              value={widget.labels[1]}
              check={word}
              onKeep={(text) =>
                change('label', (w) => {
                  if (w.labels) w.labels[1] = text
                })
              }
            />
          </>
        )}
      </div>
      <div className="mt-2">
        <TickField
          label="Inverted in the widget"
          value={widget.inverted}
          onKeep={(inverted) =>
            change('inversion', (w) => {
              w.inverted = inverted
            })
          }
        />
      </div>
      <p className="mt-2 text-note text-soft">
        vp{point.vp}: {point.min}–{point.max} by {point.step}
        {point.unit ? ` ${point.unit}` : ''}, {point.access}.
      </p>
    </div>
  )
}
