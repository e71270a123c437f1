import { useEffect, useRef, useState } from 'react'
import type { Sensor } from '../../../core/site'
import type { TrialPart } from './parts'

const RANGES: Record<Sensor['quantity'], readonly [number, number]> = {
  temperature: [0, 50],
  humidity: [0, 100],
  light: [0, 100],
  other: [0, 100],
}

/**
 * What the sensors feel, and what time it is. A sensor that is taken away soon makes its rules go by "no fresh
 * reading".
 */
export function Weather({ site, snapshot, act }: TrialPart) {
  const [values, setValues] = useState<Record<string, number>>({})
  const [gone, setGone] = useState<readonly string[]>([])
  const [clock, setClock] = useState('2026-03-02T06:29')
  const state = useRef({ values, gone })
  useEffect(() => {
    state.current = { values, gone }
  }, [values, gone])
  useEffect(() => {
    // each sensor gives its reading again and again, as a real one does
    const timers = site.sensors.map((sensor) =>
      setInterval(() => {
        const value = state.current.values[sensor.id]
        if (value !== undefined && !state.current.gone.includes(sensor.id))
          act({ kind: 'reading', sensor: sensor.id, value })
      }, sensor.everyMs),
    )
    return () => timers.forEach(clearInterval)
  }, [site.sensors, act])
  const scheduled = site.rules.some((rule) => rule.kind === 'schedule')
  if (site.sensors.length === 0 && !scheduled) return null
  return (
    <section aria-label="Weather and time">
      <h2 className="rule-head">Weather and time</h2>
      {site.sensors.map((sensor) => {
        const [least, most] = RANGES[sensor.quantity]
        const value = values[sensor.id] ?? snapshot.readings[sensor.id] ?? least
        const heard = snapshot.readings[sensor.id] ?? null
        return (
          <div key={sensor.id} className="mt-1.5">
            <p className="flex items-baseline gap-2 text-note">
              <span className="font-semibold">{sensor.name}</span>
              <span className="font-mono">
                {value}
                {sensor.unit ? ` ${sensor.unit}` : ''}
              </span>
              <span className="ml-auto text-small text-soft">
                {heard === null ? 'no fresh reading' : `felt: ${heard}`}
              </span>
            </p>
            <span className="flex items-center gap-2">
              <input
                type="range"
                aria-label={sensor.name}
                data-sensor={sensor.id}
                className="min-w-0 flex-1 accent-(--brass-fill)"
                min={least}
                max={most}
                step={sensor.quantity === 'temperature' ? 0.5 : 1}
                value={value}
                onChange={(event) => {
                  const next = Number(event.target.value)
                  setValues((before) => ({ ...before, [sensor.id]: next }))
                  if (!gone.includes(sensor.id)) act({ kind: 'reading', sensor: sensor.id, value: next })
                }}
              />
              <button
                type="button"
                className="press-quiet"
                aria-pressed={gone.includes(sensor.id)}
                onClick={() =>
                  setGone(gone.includes(sensor.id) ? gone.filter((id) => id !== sensor.id) : [...gone, sensor.id])
                }
              >
                {gone.includes(sensor.id) ? 'put back' : 'take away'}
              </button>
            </span>
          </div>
        )
      })}
      {scheduled && (
        <div className="mt-2 flex items-end gap-1.5">
          <label className="min-w-0 flex-1">
            <span className="field-label">The clock says</span>
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
            Set it
          </button>
        </div>
      )}
    </section>
  )
}
