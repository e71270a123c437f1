import { useState } from 'react'
import { idFromName, type Sensor, type SensorId } from '../../../../core/site'
import { removeSensor, timeText } from '../../../../core/ways'
import { ChoiceField, NumberField, TextField } from '../../../parts/fields'
import { edit } from '../../../store/editing'
import { useAppDispatch, useAppSelector } from '../../../store/store'

const UNITS: Record<Sensor['quantity'], string> = { temperature: '°C', humidity: '%', light: '%', other: '' }

/** Sensors, each a quantity that a part of a controller gives. */
export function Sensors() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector((state) => state.screen.controller)
  const [open, setOpen] = useState<string | null>(null)
  const sensors = site.sensors.filter((sensor) => narrowed === null || sensor.controller === narrowed)
  const change = (sensor: Sensor, label: string, mutate: (target: Sensor) => void) =>
    dispatch(edit(`${sensor.name}: ${label}`, (draft) => mutate(draft.sensors.find((one) => one.id === sensor.id)!)))
  const add = (controllerId: string) =>
    dispatch(
      edit('a sensor', (draft) => {
        const controller = draft.controllers.find((one) => one.id === controllerId)!
        const part = controller.parts.find((one) => ['temperature-humidity', 'light-sensor'].includes(one.profile))
        const quantity = part?.profile === 'light-sensor' ? ('light' as const) : ('temperature' as const)
        const name = `${controller.name} ${quantity}`
        draft.sensors.push({
          id: idFromName<string>(
            name,
            draft.sensors.map((one) => one.id),
            'sensor',
          ) as SensorId,
          name,
          controller: controller.id,
          part: part?.id ?? null,
          quantity,
          unit: UNITS[quantity],
          everyMs: 10_000,
          deadBand: 0.5,
          staleMs: null,
        })
      }),
    )
  return (
    <section aria-label="Sensors">
      <h2 className="rule-head">Sensors</h2>
      <ul>
        {sensors.map((sensor) => (
          <li key={sensor.id} className="border-b border-hair py-1.5">
            <button
              type="button"
              aria-expanded={open === sensor.id}
              className="flex w-full items-baseline gap-2 text-left"
              onClick={() => setOpen(open === sensor.id ? null : sensor.id)}
            >
              <span className="font-semibold">{sensor.name}</span>
              <span className="text-note text-soft">
                {sensor.quantity}
                {sensor.unit ? `, ${sensor.unit}` : ''}, each {timeText(sensor.everyMs)}, old after{' '}
                {timeText(sensor.staleMs ?? 3 * sensor.everyMs)}
              </span>
            </button>
            {open === sensor.id && (
              <div className="mt-1.5 grid grid-cols-3 gap-2">
                <TextField
                  label="Name"
                  value={sensor.name}
                  check={(text) => (text.trim() ? null : 'a name is needed')}
                  onKeep={(name) =>
                    change(sensor, 'name', (s) => {
                      s.name = name
                    })
                  }
                />
                <ChoiceField
                  label="Measures"
                  value={sensor.quantity}
                  choices={[
                    ['temperature', 'temperature'],
                    ['humidity', 'humidity'],
                    ['light', 'light'],
                    ['other', 'something else'],
                  ]}
                  onKeep={(quantity) =>
                    change(sensor, 'quantity', (s) => {
                      s.quantity = quantity
                      s.unit = UNITS[quantity]
                    })
                  }
                />
                <TextField
                  label="Unit"
                  value={sensor.unit}
                  check={(text) => (text.length <= 8 ? null : 'at most 8')}
                  onKeep={(unit) =>
                    change(sensor, 'unit', (s) => {
                      s.unit = unit
                    })
                  }
                />
                <NumberField
                  label="A reading each"
                  unit="ms"
                  value={sensor.everyMs}
                  least={100}
                  most={3_600_000}
                  onKeep={(ms) =>
                    change(sensor, 'period', (s) => {
                      s.everyMs = ms
                    })
                  }
                />
                <TextField
                  mono
                  label="Dead band"
                  unit={sensor.unit}
                  value={String(sensor.deadBand)}
                  check={(text) => (/^\d+(\.\d{1,3})?$/.test(text.trim()) ? null : 'a number')}
                  onKeep={(text) =>
                    change(sensor, 'dead band', (s) => {
                      s.deadBand = Number(text)
                    })
                  }
                />
                <TextField
                  mono
                  label="Old after"
                  unit="ms"
                  value={sensor.staleMs === null ? '' : String(sensor.staleMs)}
                  hint="nothing: three readings"
                  check={(text) =>
                    /^\d{0,8}$/.test(text.trim()) && (text.trim() === '' || Number(text) >= 100)
                      ? null
                      : 'ms from 100, or nothing'
                  }
                  onKeep={(text) =>
                    change(sensor, 'staleness', (s) => {
                      s.staleMs = text.trim() === '' ? null : Number(text)
                    })
                  }
                />
                <button
                  type="button"
                  className="press-quiet -ml-1.5 justify-self-start"
                  onClick={() => dispatch(edit(`no ${sensor.name}`, (draft) => removeSensor(draft, sensor.id)))}
                >
                  Take it out, with its rules
                </button>
              </div>
            )}
          </li>
        ))}
      </ul>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {site.controllers
          .filter((controller) => narrowed === null || controller.id === narrowed)
          .map((controller) => (
            <button key={controller.id} type="button" className="press-quiet" onClick={() => add(controller.id)}>
              sensor on {controller.name}
            </button>
          ))}
      </div>
    </section>
  )
}
