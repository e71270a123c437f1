/** What stands between a controller's own topics and the wires of its links (docs/wires.md). */
export { compileWires, HOUSE_SECRETS, ownLink } from './compile'
export { LONGEST_VALUE } from './coding'
export { createWires, type WireEngine } from './engine'
export { signature, type PlainSign } from './sign'
export { FarEnd, type Said, type WireMessage } from './farEnd'
export { pairingGreeting, pairingLines, readPairingAnswer, type PairingAnswer, type PairingNetwork } from './pairing'
export { previewWire, type PreviewRow, type WirePreview } from './preview'
export { readAnswer, RequestFarEnd, type Asked, type Called, type Understood } from './farEndRequests'
export type { DeviceWord, WireAction, WireEvent } from './events'
export { valueAt } from './pointer'
export { keyOfPoint, WireRefused } from './template'
export { hasNetwork, noNetworkWhy, reachOf, secretsRead, wireTrouble, type Reached } from './reach'
export { readWireTrace, runWireTrace, WireLine, writeWireOutputs, type AnyLine, type AnyOutput } from './trace'
export type {
  Coding,
  ControllerWires,
  HearRow,
  HookLink,
  HttpLink,
  LinkWire,
  MqttLink,
  OwnLink,
  Place,
  SayRow,
  SignTable,
  Text,
  Transport,
} from './types'
