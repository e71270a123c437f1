import { pointOf, widgetsOf, type AppWay, type Point, type Widget, type WidgetKind } from '../../../core/site'
import { ChoiceField, NumberField, TextField, TickField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** Kinds of widget as a person says them. */
export const WIDGET_CHOICES: readonly (readonly [WidgetKind, string])[] = [
  ['switch', 'switch'],
  ['push', 'push, while held'],
  ['slider', 'slider'],
  ['stepper', 'stepper'],
  ['value', 'only shows'],
  ['gauge', 'gauge'],
  ['mode', 'two-label button'],
]

export function AppFields({ way }: { way: AppWay }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const point = pointOf(site, way.service, way.point)!
  const widgets = widgetsOf(site, way.service, way.point)
  const change = (label: string, mutate: (point: Point) => void) =>
    dispatch(
      edit(`vp${point.vp}: ${label}`, (draft) =>
        mutate(draft.services.find((s) => s.id === way.service)!.points.find((p) => p.id === point.id)!),
      ),
    )
  const changeWidget = (widget: Widget, label: string, mutate: (widget: Widget) => void) =>
    dispatch(
      edit(`${widget.name} widget: ${label}`, (draft) =>
        mutate(draft.services.find((s) => s.id === way.service)!.widgets.find((w) => w.id === widget.id)!),
      ),
    )
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-3 gap-2">
        <NumberField
          label="Virtual pin"
          value={point.vp}
          least={0}
          most={255}
          onKeep={(vp) =>
            change('number', (p) => {
              p.vp = vp
            })
          }
        />
        <NumberField
          label="Min"
          value={point.min}
          least={-9999}
          most={point.max - 1}
          onKeep={(min) =>
            change('min', (p) => {
              p.min = min
              p.default = Math.max(min, p.default)
            })
          }
        />
        <NumberField
          label="Max"
          value={point.max}
          least={point.min + 1}
          most={9999}
          onKeep={(max) =>
            change('max', (p) => {
              p.max = max
              p.default = Math.min(max, p.default)
            })
          }
        />
        <NumberField
          label="Step"
          value={point.step}
          least={1}
          most={9999}
          onKeep={(step) =>
            change('step', (p) => {
              p.step = step
            })
          }
        />
        <NumberField
          label="Default"
          value={point.default}
          least={point.min}
          most={point.max}
          onKeep={(value) =>
            change('default', (p) => {
              p.default = value
            })
          }
        />
        <TextField
          label="Unit"
          value={point.unit}
          check={(text) => (text.length <= 8 ? null : 'at most 8')}
          onKeep={(unit) =>
            change('unit', (p) => {
              p.unit = unit
            })
          }
        />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <ChoiceField
          label="The app may"
          value={point.access}
          choices={[
            ['read-write', 'read and write'],
            ['read', 'only read'],
            ['write', 'only write'],
          ]}
          onKeep={(access) =>
            change('access', (p) => {
              p.access = access
            })
          }
        />
        <ChoiceField
          label="Goes up"
          value={point.update.policy}
          choices={[
            ['change', 'on each change'],
            ['every', 'at most each …'],
          ]}
          onKeep={(policy) =>
            change('update', (p) => {
              p.update = policy === 'change' ? { policy } : { policy, everyMs: 60_000 }
            })
          }
        />
        {point.update.policy === 'every' && (
          <NumberField
            label="Each"
            unit="ms"
            value={point.update.everyMs}
            least={100}
            most={86_400_000}
            onKeep={(everyMs) =>
              change('update time', (p) => {
                p.update = { policy: 'every', everyMs }
              })
            }
          />
        )}
        <ChoiceField
          label="State comes back"
          value={way.feedback}
          choices={[
            ['reports', 'yes, reported'],
            ['silent', 'never'],
            ['unknown', 'not known'],
          ]}
          onKeep={(feedback) =>
            dispatch(
              edit(`vp${point.vp}: feedback`, (draft) => {
                const target = draft.ways.find((w) => w.id === way.id)
                if (target?.kind === 'app') target.feedback = feedback
              }),
            )
          }
        />
      </div>
      {widgets.map((widget) => (
        <div key={widget.id} className="border-t border-hair pt-2">
          <div className="grid grid-cols-2 gap-2">
            <TextField
              label="Widget"
              value={widget.name}
              check={(text) => (text.trim() ? null : 'a name is needed')}
              onKeep={(name) =>
                changeWidget(widget, 'name', (w) => {
                  w.name = name
                })
              }
            />
            <ChoiceField
              label="Mode"
              value={widget.kind}
              choices={WIDGET_CHOICES}
              onKeep={(kind) =>
                changeWidget(widget, 'mode', (w) => {
                  w.kind = kind
                })
              }
            />
          </div>
          <TickField
            label="Inverted in the widget"
            value={widget.inverted}
            onKeep={(inverted) =>
              changeWidget(widget, 'inversion', (w) => {
                w.inverted = inverted
              })
            }
          />
        </div>
      ))}
    </div>
  )
}
