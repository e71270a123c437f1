import { Fragment, useState, type ReactNode } from 'react'
import { controllerOf, type Point, type Service, type Site, type Widget } from '../../core/site'

/** What a widget shows, and whether what it stands for can be reached. */
export interface Shown {
  readonly on: boolean
  readonly value: number
  readonly reachable: boolean
  /** what was asked for and waits at the controller; null: nothing */
  readonly asked?: number | null
}

interface Props {
  readonly site: Site
  readonly service: Service
  readonly shownOf: (widget: Widget, point: Point) => Shown | undefined
  readonly touch: (widget: Widget, on: boolean, value?: number) => void
  /** wraps a widget, so that it can be dragged */
  readonly wrap?: (widget: Widget, inside: ReactNode) => ReactNode
}

/** The room that a widget stands for: of its channel, else of its controller. */
function roomOfWidget(site: Site, service: Service, widget: Widget): string {
  const point = service.points.find((candidate) => candidate.id === widget.point)!
  const way = site.ways.find((one) => one.kind === 'app' && one.service === service.id && one.point === point.id)
  const channel = site.channels.find((one) => one.id === way?.channel)
  return channel?.room ?? controllerOf(site, point.controller)?.room ?? ''
}

/** The phone's screens of one service, one or one a room: the same drawing while laid out and while tried. */
export function PhoneScreen(props: Props) {
  const { site, service } = props
  const rooms = [...site.rooms.map(({ id, name }) => ({ id: id as string, name })), { id: '', name: 'No room' }]
  const widgetsIn = (room: string) => service.widgets.filter((widget) => roomOfWidget(site, service, widget) === room)
  const used = rooms.filter(({ id }) => widgetsIn(id).length > 0)
  const [room, setRoom] = useState(used[0]?.id ?? '')
  if (service.screens !== 'rooms' || used.length < 2) return <OneScreen {...props} widgets={service.widgets} />
  const shown = used.some(({ id }) => id === room) ? room : used[0]!.id
  return (
    <div>
      <div role="group" aria-label="Screen" className="mb-1 flex flex-wrap gap-1">
        {used.map(({ id, name }) => (
          <button
            key={id}
            type="button"
            aria-pressed={shown === id}
            className="press-quiet aria-pressed:font-bold aria-pressed:underline"
            onClick={() => setRoom(id)}
          >
            {name}
          </button>
        ))}
      </div>
      <OneScreen {...props} widgets={widgetsIn(shown)} />
    </div>
  )
}

function OneScreen({ site, service, shownOf, touch, wrap, widgets }: Props & { widgets: readonly Widget[] }) {
  const wrapped = wrap ?? ((_: Widget, inside: ReactNode) => inside)
  const pointOf = (widget: Widget): Point => service.points.find((candidate) => candidate.id === widget.point)!
  const severalControllers = new Set(service.points.map((point) => point.controller)).size > 1
  return (
    <ul className="grid grid-cols-2 gap-1.5 rounded-xl border-2 border-ink bg-panel p-2.5">
      {widgets.map((widget, i) => {
        const point = pointOf(widget)
        const before = widgets[i - 1]
        const shown = shownOf(widget, point)
        if (!shown) return null
        return (
          <Fragment key={widget.id}>
            {/* points are numbered anew on each controller: without its name two of them would look alike */}
            {severalControllers && (before === undefined || pointOf(before).controller !== point.controller) && (
              <li className="col-span-2 mt-1 border-b border-hair text-small text-soft first:mt-0">
                {controllerOf(site, point.controller)?.name}
              </li>
            )}
            <li className={widget.width === 'full' ? 'col-span-2' : ''}>
              {wrapped(
                widget,
                <WidgetFace
                  widget={widget}
                  point={point}
                  shown={shown}
                  handled={wrap !== undefined}
                  touch={(on, value) => touch(widget, on, value)}
                />,
              )}
            </li>
          </Fragment>
        )
      })}
    </ul>
  )
}

const round = (value: number): string => String(Number(value.toFixed(2)))

function WidgetFace({
  widget,
  point,
  shown,
  handled,
  touch,
}: {
  widget: Widget
  point: Point
  shown: Shown
  /** a handle stands in its corner */ handled: boolean
  touch: (on: boolean, value?: number) => void
}) {
  const Face = FACES[widget.kind]
  return (
    <div
      className={
        'flex h-full min-h-13 flex-col justify-between rounded-plate border bg-wall px-2 py-1.5 ' +
        `${shown.reachable ? 'border-hair' : 'border-dashed border-bus'}`
      }
    >
      <p className={`flex items-baseline gap-1 text-note leading-tight ${handled ? 'pr-5' : ''}`}>
        <span
          className={`min-w-0 flex-1 [overflow-wrap:anywhere] ${shown.reachable ? '' : 'text-soft line-through'}`}
          title={shown.reachable ? widget.name : `${widget.name}: not reachable`}
        >
          {widget.name}
        </span>
      </p>
      <div className="mt-1 flex items-end justify-between gap-2">
        <div className="min-w-0 flex-1">
          <Face widget={widget} point={point} shown={shown} touch={touch} />
        </div>
        <Asked value={shown.asked} />
        <span className="font-mono text-small text-soft">vp{point.vp}</span>
      </div>
    </div>
  )
}

const Asked = ({ value = null }: { value?: number | null | undefined }) =>
  value === null ? null : <span className="text-small font-semibold">asked {round(value)}, waits</span>

interface FaceProps {
  readonly widget: Widget
  readonly point: Point
  readonly shown: Shown
  readonly touch: (on: boolean, value?: number) => void
}

function SwitchFace({ widget, shown, touch }: FaceProps) {
  return (
    <button
      type="button"
      role="switch"
      aria-checked={shown.on}
      aria-label={widget.name}
      data-widget={widget.id}
      className="rounded-plate flex h-6 w-14 items-center border-2 border-ink bg-field px-0.5"
      onClick={() => touch(!shown.on)}
    >
      <span
        className={
          'rounded-plate flex h-4 w-6 items-center justify-center font-mono text-[0.625rem] leading-none ' +
          `${shown.on ? 'ml-auto bg-brass-fill text-[#1d2930]' : 'bg-hair text-ink'}`
        }
      >
        {shown.on ? 'on' : 'off'}
      </span>
    </button>
  )
}

const isPush = (key: string): boolean => key === 'Enter' || key === ' '

function PushFace({ widget, shown, touch }: FaceProps) {
  return (
    <button
      type="button"
      aria-label={widget.name}
      data-widget={widget.id}
      className="press w-full"
      onPointerDown={() => touch(true)}
      onPointerUp={() => touch(false)}
      onPointerLeave={() => shown.on && touch(false)}
      onKeyDown={(event) => {
        if (isPush(event.key) && !event.repeat) touch(true)
      }}
      onKeyUp={(event) => {
        if (isPush(event.key)) touch(false)
      }}
    >
      push
    </button>
  )
}

function SliderFace({ widget, point, shown, touch }: FaceProps) {
  return (
    <span className="flex items-center gap-2">
      <input
        type="range"
        aria-label={widget.name}
        data-widget={widget.id}
        min={point.min}
        max={point.max}
        step={point.step}
        value={shown.value}
        className="min-w-0 flex-1 min-h-6 accent-(--brass-fill)"
        onChange={(event) => touch(Number(event.target.value) > point.min, Number(event.target.value))}
      />
      <span className="w-8 text-right font-mono text-note">{round(shown.value)}</span>
    </span>
  )
}

function StepperFace({ widget, point, shown, touch }: FaceProps) {
  const less = Math.max(point.min, shown.value - point.step)
  const more = Math.min(point.max, shown.value + point.step)
  return (
    <span className="flex items-center gap-1.5">
      <button
        type="button"
        className="press min-w-7 px-1"
        aria-label={`${widget.name}: less`}
        onClick={() => touch(less > point.min, less)}
      >
        −
      </button>
      <span className="min-w-6 text-center font-mono">{round(shown.value)}</span>
      <button
        type="button"
        className="press min-w-7 px-1"
        aria-label={`${widget.name}: more`}
        onClick={() => touch(true, more)}
      >
        +
      </button>
    </span>
  )
}

function ModeFace({ widget, point, shown, touch }: FaceProps) {
  return (
    <span role="group" aria-label={widget.name} className="flex">
      {[point.min, point.max].map((value, i) => (
        <button
          key={value}
          type="button"
          aria-pressed={shown.value === value}
          data-widget={widget.id}
          className="min-h-6 flex-1 border-[1.5px] border-ink px-1 text-note aria-pressed:bg-ink aria-pressed:text-wall"
          onClick={() => touch(i === 1, value)}
        >
          {widget.labels?.[i] ?? round(value)}
        </button>
      ))}
    </span>
  )
}

const reading = (point: Point, shown: Shown): string => `${round(shown.value)}${point.unit ? ` ${point.unit}` : ''}`

function GaugeFace({ point, shown }: FaceProps) {
  const part = Math.max(0, Math.min(1, (shown.value - point.min) / (point.max - point.min)))
  return (
    <span className="block">
      <svg viewBox="0 0 60 10" className="block h-3 w-full" preserveAspectRatio="none" aria-hidden="true">
        <path d="M0 8h60" stroke="var(--bus)" strokeWidth="1.5" />
        <path d={`M${60 * part} 1v8`} stroke="var(--brass)" strokeWidth="2.4" />
        <path d="M0 5v4M15 6v3M30 5v4M45 6v3M60 5v4" stroke="var(--bus)" />
      </svg>
      <span className="font-mono text-note">{reading(point, shown)}</span>
    </span>
  )
}

function ValueFace({ point, shown }: FaceProps) {
  return <span className="font-mono text-head">{reading(point, shown)}</span>
}

const FACES: Readonly<Record<Widget['kind'], (props: FaceProps) => ReactNode>> = {
  switch: SwitchFace,
  push: PushFace,
  slider: SliderFace,
  stepper: StepperFace,
  mode: ModeFace,
  gauge: GaugeFace,
  value: ValueFace,
}
