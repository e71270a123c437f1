import { idFromName, type Sensor, type SensorId, type Site } from '../site'

/** The usual unit of what is measured. */
export const SENSOR_UNITS: Record<Sensor['quantity'], string> = {
  temperature: '°C',
  humidity: '%',
  light: '%',
  other: '',
}

/** What the parts that ship measure, by profile. */
const MEASURES: Readonly<Record<string, Sensor['quantity']>> = {
  'temperature-humidity': 'temperature',
  'light-sensor': 'light',
}

/** A sensor on a controller: of its first part that measures something, else of a temperature. Changes a draft. */
export function addSensor(site: Site, controllerId: string): Sensor {
  const controller = site.controllers.find((one) => one.id === controllerId)!
  const part = controller.parts.find((one) => Object.hasOwn(MEASURES, one.profile))
  const quantity = (part && MEASURES[part.profile]) ?? 'temperature'
  const name = `${controller.name} ${quantity}`
  site.sensors.push({
    id: idFromName<SensorId>(
      name,
      site.sensors.map((one) => one.id),
      'sensor',
    ),
    name,
    controller: controller.id,
    part: part?.id ?? null,
    quantity,
    unit: SENSOR_UNITS[quantity],
    everyMs: 10_000,
    deadBand: 0.5,
    staleMs: null,
  })
  return site.sensors.at(-1)!
}
