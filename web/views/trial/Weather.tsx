import { useState } from 'react'
import type { Sensor } from '../../../core/site'
import { SENSOR_RANGES } from '../../../core/ways'
import type { TrialPart } from './parts'

/**
 * What the sensors feel, and what time it is. A sensor that is taken away soon makes its rules go by "no fresh
 * reading".
 */
export function Weather({ site, snapshot, act }: TrialPart) {
  const [values, setValues] = useState<Record<string, number>>({})
  const [days, setDays] = useState<readonly string[]>([])
  const scheduled = site.rules.some((rule) => rule.kind === 'schedule')
  if (site.sensors.length === 0 && !scheduled) return null
  return (
    <section aria-label="Simulated conditions">
      <h2 className="rule-head">Simulated conditions</h2>
      {site.sensors.map((sensor) => (
        <Felt
          key={sensor.id}
          sensor={sensor}
          value={values[sensor.id]}
          heard={snapshot.readings[sensor.id] ?? null}
          gone={snapshot.faults.some(({ part, how }) => part === `sensor:${sensor.id}` && how === 'gone')}
          isDay={days.includes(sensor.id)}
          onSet={(value) => {
            setValues({ ...values, [sensor.id]: value })
            setDays(days.filter((id) => id !== sensor.id))
            act({ kind: 'curve', sensor: sensor.id, low: value, high: value })
          }}
          onDay={(isDay, low, high) => {
            setDays(isDay ? [...days, sensor.id] : days.filter((id) => id !== sensor.id))
            act({ kind: 'curve', sensor: sensor.id, low, high })
          }}
          onTurn={(broken) => act({ kind: 'break', what: `sensor:${sensor.id}`, broken })}
        />
      ))}
      {scheduled && <Clock act={act} />}
    </section>
  )
}

interface FeltProps {
  readonly sensor: Sensor
  readonly value: number | undefined
  /** what its controller has heard last; null: nothing fresh */
  readonly heard: number | null
  readonly gone: boolean
  /** it follows a day's curve */
  readonly isDay: boolean
  readonly onSet: (value: number) => void
  readonly onDay: (isDay: boolean, low: number, high: number) => void
  readonly onTurn: (broken: boolean) => void
}

/** A day goes so far to both sides of where the slider stands: a tenth of what the sensor can feel. */
const DAY_SHARE = 0.1

function Felt({ sensor, value, heard, gone, isDay, onSet, onDay, onTurn }: FeltProps) {
  const [least, most] = SENSOR_RANGES[sensor.quantity]
  const shown = (isDay ? null : value) ?? heard ?? least
  const swing = (most - least) * DAY_SHARE
  return (
    <div className="mt-1.5">
      <p className="flex items-baseline gap-2 text-note">
        <span className="font-semibold">{sensor.name}</span>
        <span className="font-mono">{`${shown}${sensor.unit ? ` ${sensor.unit}` : ''}`}</span>
        <span className="ml-auto text-small text-soft">
          {heard === null ? 'no recent reading' : `reported: ${heard}`}
        </span>
      </p>
      <span className="flex items-center gap-2">
        <input
          type="range"
          aria-label={sensor.name}
          data-sensor={sensor.id}
          className="min-w-0 flex-1 min-h-6 accent-(--brass-fill)"
          min={least}
          max={most}
          step={sensor.quantity === 'temperature' ? 0.5 : 1}
          value={shown}
          onChange={(event) => onSet(Number(event.target.value))}
        />
        <DaysCurve
          isDay={isDay}
          onTurn={(on) =>
            on ? onDay(true, Math.max(least, shown - swing), Math.min(most, shown + swing)) : onDay(false, shown, shown)
          }
        />
        <button type="button" className="press-quiet" aria-pressed={gone} onClick={() => onTurn(!gone)}>
          {gone ? 'Connect' : 'Disconnect'}
        </button>
      </span>
    </div>
  )
}

const DaysCurve = ({ isDay, onTurn }: { isDay: boolean; onTurn: (on: boolean) => void }) => (
  <label className="flex min-h-6 items-center gap-1 text-small" title="highest at three in the afternoon">
    <input type="checkbox" checked={isDay} onChange={(event) => onTurn(event.target.checked)} />a day’s curve
  </label>
)

function Clock({ act }: { act: TrialPart['act'] }) {
  const [clock, setClock] = useState('2026-03-02T06:29')
  return (
    <div className="mt-2 flex items-end gap-1.5">
      <label className="min-w-0 flex-1">
        <span className="field-label">Clock</span>
        <input
          type="datetime-local"
          className="field"
          value={clock}
          onChange={(event) => setClock(event.target.value)}
        />
      </label>
      <button
        type="button"
        className="press"
        disabled={!clock}
        onClick={() => act({ kind: 'clock', local: `${clock.slice(0, 16)}:50` })}
      >
        Set clock
      </button>
    </div>
  )
}
