import { pointOf, widgetsOf, type AppWay, type Point, type Widget, type WidgetKind } from '../../../core/site'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'
import { FEEDBACK_CHOICES } from './feedback'

/** Kinds of widget as a person says them. */
export const WIDGET_CHOICES: readonly (readonly [WidgetKind, string])[] = [
  ['switch', 'switch'],
  ['push', 'push, while held'],
  ['slider', 'slider'],
  ['stepper', 'stepper'],
  ['value', 'display only'],
  ['gauge', 'gauge'],
  ['mode', 'two-label button'],
]

const point = fieldsOf<Point>()
const RANGE = [
  point.number('Virtual pin', 'vp', { what: 'number', least: 0, most: 255 }),
  point.number(
    'Min',
    {
      read: (target) => target.min,
      write: (target, min) => {
        target.min = min
        target.default = Math.max(min, target.default)
      },
    },
    { least: -9999, most: (of) => of.max - 1 },
  ),
  point.number(
    'Max',
    {
      read: (target) => target.max,
      write: (target, max) => {
        target.max = max
        target.default = Math.min(max, target.default)
      },
    },
    { least: (of) => of.min + 1, most: 9999 },
  ),
  point.number('Step', 'step', { least: 1, most: 9999 }),
  point.number('Default', 'default', { least: (of) => of.min, most: (of) => of.max }),
  point.text('Unit', 'unit', { check: (text) => (text.length <= 8 ? null : 'at most 8') }),
  point.text(
    'Name at the service',
    {
      read: ({ key }) => key ?? '',
      write: (target, key) => {
        if (key.trim() === '') delete target.key
        else target.key = key.trim()
      },
    },
    {
      what: 'name at the service',
      mono: true,
      place: 'col-span-3',
      hint: 'name of the variable, or path of the key in the store',
      check: (text) => (text.length <= 80 ? null : 'at most 80'),
    },
  ),
]
const TRAFFIC = [
  point.choice(
    'App access',
    'access',
    [
      ['read-write', 'read and write'],
      ['read', 'read only'],
      ['write', 'write only'],
    ],
    { what: 'access' },
  ),
  point.choice(
    'Reported',
    {
      read: ({ update }) => update.policy,
      write: (target, policy) => {
        target.update = policy === 'change' ? { policy } : { policy, everyMs: 60_000 }
      },
    },
    [
      ['change', 'on each change'],
      ['every', 'at most every …'],
    ],
    { what: 'update' },
  ),
  point.number(
    'Every',
    {
      read: ({ update }) => (update.policy === 'every' ? update.everyMs : 0),
      write: (target, everyMs) => {
        target.update = { policy: 'every', everyMs }
      },
    },
    { what: 'update time', unit: 'ms', least: 100, most: 86_400_000, when: ({ update }) => update.policy === 'every' },
  ),
]
const FEEDBACK = [fieldsOf<AppWay>().choice('Feedback', 'feedback', FEEDBACK_CHOICES, { what: 'feedback' })]

const widget = fieldsOf<Widget>()
const WIDGET = [
  widget.text('Widget', 'name', { what: 'name', check: needsName }),
  widget.choice('Mode', 'kind', WIDGET_CHOICES),
]
export const WIDGET_INVERTED = widget.tick('Inverted in the widget', 'inverted', { what: 'inversion' })

export function AppFields({ way }: { way: AppWay }) {
  const site = useAppSelector((state) => state.site.site)!
  const target = pointOf(site, way.service, way.point)!
  const change = useChange(`vp${target.vp}`, (draft) => pointOf(draft, way.service, way.point))
  const changeWay = useChange(`vp${target.vp}`, (draft) => {
    const found = withId(draft.ways, way.id)
    return found?.kind === 'app' ? found : undefined
  })
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-3 gap-2">
        <Fields rows={RANGE} of={target} change={change} />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <Fields rows={TRAFFIC} of={target} change={change} />
        <Fields rows={FEEDBACK} of={way} change={changeWay} />
      </div>
      {widgetsOf(site, way.service, way.point).map((one) => (
        <WidgetLine key={one.id} service={way.service} widget={one} />
      ))}
    </div>
  )
}

function WidgetLine({ service, widget: of }: { service: string; widget: Widget }) {
  const change = useChange(`${of.name} widget`, (draft) =>
    withId(withId(draft.services, service)?.widgets ?? [], of.id),
  )
  return (
    <div className="border-t border-hair pt-2">
      <div className="grid grid-cols-2 gap-2">
        <Fields rows={WIDGET} of={of} change={change} />
      </div>
      <Fields rows={[WIDGET_INVERTED]} of={of} change={change} />
    </div>
  )
}
