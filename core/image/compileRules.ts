import type { Channel, Sensor, Site } from '../site'
import type { ImageRule, ImageSchedule, ImageSensor } from './types'

/** Sensor values are whole thousandths: the firmware has no floating point. */
export const thousandths = (value: number): number => Math.round(value * 1000)

/** A reading counts for three periods unless the maker says otherwise (docs/behaviour.md). */
export const sensorOf = (sensor: Sensor): ImageSensor => ({
  id: sensor.id,
  deadBand: thousandths(sensor.deadBand),
  staleMs: sensor.staleMs ?? 3 * sensor.everyMs,
})

/** Threshold rules whose channel and sensor are both here, in the site's order. */
export function rulesOf(site: Site, channels: readonly Channel[], sensors: readonly Sensor[]): ImageRule[] {
  return site.rules.flatMap((rule): ImageRule[] => {
    if (rule.kind !== 'threshold') return []
    const channel = channels.findIndex((candidate) => candidate.id === rule.channel)
    const sensor = sensors.findIndex((candidate) => candidate.id === rule.sensor)
    if (channel < 0 || sensor < 0) return []
    return [
      {
        sensor,
        above: rule.direction === 'above',
        on: thousandths(rule.on),
        off: thousandths(rule.off),
        dwellMs: rule.dwellMs,
        staleOff: rule.whenStale === 'off',
        channel,
        level: rule.level ?? 0,
      },
    ]
  })
}

const catchesUp = (channel: Channel): boolean => 'catchUp' in channel && channel.catchUp === true

export function schedulesOf(site: Site, channels: readonly Channel[]): ImageSchedule[] {
  return site.rules.flatMap((rule): ImageSchedule[] => {
    if (rule.kind !== 'schedule') return []
    const channel = channels.findIndex((candidate) => candidate.id === rule.channel)
    if (channel < 0) return []
    return [
      {
        days: rule.days.reduce((mask, day) => mask | (1 << day), 0),
        minute: rule.minute,
        channel,
        action: rule.action,
        level: rule.level ?? 0,
        catchUp: catchesUp(channels[channel]!),
      },
    ]
  })
}
