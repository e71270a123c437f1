import { useEffect, useRef, useState } from 'react'
import type { Sensor, Site } from '../../../core/site'
import { SENSOR_RANGES } from '../../../core/ways'
import type { TrialPart } from './parts'

/**
 * What the sensors feel, and which of them were taken away. Each gives its reading again and again, as a real one does.
 */
function useReadings(site: Site, act: TrialPart['act']) {
  const [values, setValues] = useState<Record<string, number>>({})
  const [gone, setGone] = useState<readonly string[]>([])
  const state = useRef({ values, gone })
  useEffect(() => {
    state.current = { values, gone }
  }, [values, gone])
  useEffect(() => {
    const timers = site.sensors.map(({ id, everyMs }) =>
      setInterval(() => {
        const value = state.current.values[id]
        if (value !== undefined && !state.current.gone.includes(id)) act({ kind: 'reading', sensor: id, value })
      }, everyMs),
    )
    return () => timers.forEach(clearInterval)
  }, [site.sensors, act])
  const set = (id: string, value: number) => {
    setValues((before) => ({ ...before, [id]: value }))
    if (!gone.includes(id)) act({ kind: 'reading', sensor: id, value })
  }
  const turn = (id: string) => setGone(gone.includes(id) ? gone.filter((one) => one !== id) : [...gone, id])
  return { values, gone, set, turn }
}

/**
 * What the sensors feel, and what time it is. A sensor that is taken away soon makes its rules go by "no fresh
 * reading".
 */
export function Weather({ site, snapshot, act }: TrialPart) {
  const { values, gone, set, turn } = useReadings(site, act)
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
          gone={gone.includes(sensor.id)}
          onSet={(value) => set(sensor.id, value)}
          onTurn={() => turn(sensor.id)}
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
  readonly onSet: (value: number) => void
  readonly onTurn: () => void
}

function Felt({ sensor, value, heard, gone, onSet, onTurn }: FeltProps) {
  const [least, most] = SENSOR_RANGES[sensor.quantity]
  const shown = value ?? heard ?? least
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
        <button type="button" className="press-quiet" aria-pressed={gone} onClick={onTurn}>
          {gone ? 'Connect' : 'Disconnect'}
        </button>
      </span>
    </div>
  )
}

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
