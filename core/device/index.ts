/** The reference interpreter of a controller image. */
export { createDevice, type Device, type DeviceView } from './device'
export {
  eventOf,
  readTrace,
  runTrace,
  TraceFrame,
  traceLineOf,
  TraceLine,
  TraceRefused,
  weekMsOf,
  writeOutputs,
} from './trace'
export { isLit, LIGHT_STATES, LIGHT_TIMES, LIGHT_WORDS, type LightState } from './light'
export { difference, instant, later } from './time'
export { SERVICE_WINDOW_MS } from './state'
export { SOURCES } from './types'
export type { DeviceEvent, DeviceOutput, Source } from './types'
