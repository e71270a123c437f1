/** Infrared remote codes: decoding and encoding frames, and the formats in which captures come. Durations are µs. */
export {
  CARRIER_KHZ,
  PERIOD_MS,
  PROTOCOLS,
  RANGES,
  type Code,
  type Decoded,
  type Fitness,
  type Frame,
  type Protocol,
} from './types'
export { decodeCapture, decodeFrame, FRAME_GAP_US } from './decode'
export { CodeRefused, codeTrouble, encodeFrame, encodeRepeat } from './encode'
export { closestPair, signalDistance, type NamedCode } from './distance'
export { CaptureRefused, type Capture } from './capture'
export { CAPTURE_FORMATS, formatOf, readCapture, type CaptureFormat } from './readCapture'
export { writePulseSpace } from './pulseSpace'
export { writeRawList } from './rawList'
export { vcdVariables, writeVcd } from './vcd'
export { bitsSent, type SentBit } from './bits'
export { codeName, drawnFrame, type DrawnDuration } from './drawing'
