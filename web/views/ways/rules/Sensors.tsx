import { useState } from 'react'
import { timeText, type Sensor } from '../../../../core/site'
import { addSensor, removeSensor, SENSOR_UNITS } from '../../../../core/ways'
import { Fields, fieldsOf, needsName } from '../../../parts/form'
import { edit } from '../../../store/editing'
import { takeOut } from '../../../store/takeOut'
import { selectShown } from '../../../store/selection'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { useChange, withId } from '../../../store/useChange'

const field = fieldsOf<Sensor>()
const FIELDS = [
  field.text('Name', 'name', { check: needsName }),
  field.choice(
    'Measures',
    {
      read: (sensor) => sensor.quantity,
      write: (sensor, quantity) => {
        sensor.quantity = quantity
        sensor.unit = SENSOR_UNITS[quantity]
      },
    },
    [
      ['temperature', 'temperature'],
      ['humidity', 'humidity'],
      ['light', 'light'],
      ['other', 'something else'],
    ],
    { what: 'quantity' },
  ),
  field.text('Unit', 'unit', { check: (text) => (text.length <= 8 ? null : 'at most 8') }),
  field.number('Reading every', 'everyMs', { what: 'period', unit: 'ms', least: 100, most: 3_600_000 }),
  field.text(
    'Dead band',
    {
      read: (sensor) => String(sensor.deadBand),
      write: (sensor, text) => {
        sensor.deadBand = Number(text)
      },
    },
    {
      mono: true,
      unit: (sensor) => sensor.unit,
      check: (text) => (/^\d+(\.\d{1,3})?$/.test(text.trim()) ? null : 'a number'),
    },
  ),
  field.text(
    'Out of date after',
    {
      read: (sensor) => (sensor.staleMs === null ? '' : String(sensor.staleMs)),
      write: (sensor, text) => {
        sensor.staleMs = text.trim() === '' ? null : Number(text)
      },
    },
    {
      what: 'staleness',
      mono: true,
      unit: 'ms',
      hint: 'empty: three readings',
      check: (text) =>
        /^\d{0,8}$/.test(text.trim()) && (text.trim() === '' || Number(text) >= 100) ? null : 'ms from 100, or empty',
    },
  ),
]

/** Sensors, each a quantity that a part of a controller gives. */
export function Sensors() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector(selectShown)
  const [open, setOpen] = useState<string | null>(null)
  const here = (controller: string) => narrowed === null || controller === narrowed
  const add = (controller: string) => dispatch(edit('a sensor', (draft) => void addSensor(draft, controller)))
  return (
    <section aria-label="Sensors">
      <h2 className="rule-head">Sensors</h2>
      <ul>
        {site.sensors
          .filter((sensor) => here(sensor.controller))
          .map((sensor) => (
            <SensorLine
              key={sensor.id}
              sensor={sensor}
              open={open === sensor.id}
              onTurn={() => setOpen(open === sensor.id ? null : sensor.id)}
            />
          ))}
      </ul>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {site.controllers
          .filter((controller) => here(controller.id))
          .map((controller) => (
            <button key={controller.id} type="button" className="press-quiet" onClick={() => add(controller.id)}>
              sensor on {controller.name}
            </button>
          ))}
      </div>
    </section>
  )
}

const periods = (sensor: Sensor): string =>
  `${sensor.quantity}${sensor.unit ? `, ${sensor.unit}` : ''}, every ${timeText(sensor.everyMs)}, ` +
  `out of date after ${timeText(sensor.staleMs ?? 3 * sensor.everyMs)}`

function SensorLine({ sensor, open, onTurn }: { sensor: Sensor; open: boolean; onTurn: () => void }) {
  const dispatch = useAppDispatch()
  const change = useChange(sensor.name, (draft) => withId(draft.sensors, sensor.id))
  const out = () => dispatch(takeOut(sensor.name, (draft) => removeSensor(draft, sensor.id)))
  return (
    <li className="border-b border-hair py-1.5" data-thing={sensor.id}>
      <button
        type="button"
        aria-expanded={open}
        className="flex w-full items-baseline gap-2 text-left"
        onClick={onTurn}
      >
        <span className="font-semibold">{sensor.name}</span>
        <span className="text-note text-soft">{periods(sensor)}</span>
      </button>
      {open && (
        <div className="mt-1.5 grid grid-cols-2 @md:grid-cols-3 gap-2">
          <Fields rows={FIELDS} of={sensor} change={change} />
          <button type="button" className="press-quiet -ml-1.5 justify-self-start" onClick={out}>
            Delete sensor and its rules
          </button>
        </div>
      )}
    </li>
  )
}
