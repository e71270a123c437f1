import type { Point, Service, Widget } from '../../../../core/site'
import { Fields, fieldsOf } from '../../../parts/form'
import { useChange, withId } from '../../../store/useChange'
import { WIDGET_CHOICES, WIDGET_INVERTED } from '../AppFields'

const field = fieldsOf<Widget>()
const needsWord = (text: string): string | null => (text.trim() ? null : 'enter a word')
const label = (at: 0 | 1, value: number) =>
  field.text(
    `Label at ${value}`,
    {
      read: (widget) => widget.labels?.[at] ?? '',
      write: (widget, text) => {
        if (widget.labels) widget.labels[at] = text
      },
    },
    { what: 'label', check: needsWord, when: (widget) => widget.kind === 'mode' && widget.labels !== null },
  )
const fieldsFor = (point: Point) => [
  field.text('Name', 'name', { check: needsWord }),
  field.choice(
    'Widget',
    {
      read: (widget) => widget.kind,
      write: (widget, kind) => {
        widget.kind = kind
        widget.labels = kind === 'mode' ? (widget.labels ?? ['off', 'on']) : null
      },
    },
    WIDGET_CHOICES,
    { what: 'kind' },
  ),
  field.choice('Width', 'width', [
    ['half', 'half'],
    ['full', 'full'],
  ]),
  label(0, point.min),
  label(1, point.max),
]

/** A widget of a phone's screen, and the point that it stands for. */
export function WidgetFields({ service, widget }: { service: Service; widget: Widget }) {
  const point = withId(service.points, widget.point)!
  const change = useChange(widget.name, (draft) => withId(withId(draft.services, service.id)?.widgets ?? [], widget.id))
  const { vp, min, max, step, unit, access } = point
  return (
    <div className="max-w-md self-start">
      <h2 className="rule-head">{widget.name}</h2>
      <div className="mt-2 grid grid-cols-2 gap-2">
        <Fields rows={fieldsFor(point)} of={widget} change={change} />
      </div>
      <div className="mt-2">
        <Fields rows={[WIDGET_INVERTED]} of={widget} change={change} />
      </div>
      <p className="mt-2 text-note text-soft">
        {`vp${vp}: ${min}–${max} by ${step}${unit ? ` ${unit}` : ''}, ${access}.`}
      </p>
    </div>
  )
}
