import {
  NO_INPUT,
  NO_PIN,
  type ControllerImage,
  type ImageAction,
  type ImageChannel,
  type ImageDeed,
  type ImageInput,
} from '../image'
import { runTrace, type TraceLine } from './trace'

/** Small images and traces for the tests of single clauses. */
/** What a source does to a channel. */
export const deed = (action: ImageAction, index = 0, more: Partial<ImageDeed> = {}): ImageDeed => ({
  action,
  level: 0,
  on: 'channel',
  index,
  ...more,
})
export const input = (more: Partial<ImageInput> = {}): ImageInput => ({
  id: 's1',
  gpios: [27],
  kind: 'momentary',
  pull: 'up',
  analogue: false,
  closedLevel: 0,
  settle: 'settle',
  settleMs: 25,
  holdMs: 0,
  table: [],
  ...more,
})
export const channel = (more: Partial<ImageChannel> = {}): ImageChannel => ({
  kind: 'switched',
  id: 'lamp',
  topic: 'lamp',
  gpios: [26],
  patterns: [0, 1],
  gapMs: 0,
  wrap: false,
  onLevel: 1,
  activeLow: true,
  maxOnMs: 0,
  minOffMs: 0,
  powerUp: 'off',
  waitMs: 0,
  otherwise: 'off',
  takesSet: true,
  reports: true,
  essential: false,
  contact: NO_INPUT,
  contactMeansClosed: false,
  ...more,
})
export const image = (more: Partial<ControllerImage> = {}): ControllerImage => ({
  format: 'vestibule-image',
  version: 2,
  site: 'studio',
  controller: 'corner',
  board: 'dual-core-wifi-30',
  hash: '000000000000',
  link: true,
  outage: 'local',
  staggerMs: 150,
  storeMs: 2000,
  minReportMs: 0,
  heartbeatMs: 300_000,
  sensorMs: 60_000,
  seed: 1,
  auto: { start: true, hand: 'yield', yieldMs: 60_000 },
  watch: null,
  serial: null,
  line: { sends: NO_PIN, hears: NO_PIN },
  receiver: NO_PIN,
  groups: [],
  keys: [],
  chars: [],
  sensors: [],
  rules: [],
  schedules: [],
  inputs: [input()],
  channels: [channel()],
  bindings: [{ input: 0, gesture: 'press', ...deed('toggle') }],
  points: [{ vp: 1, carries: 'channel', index: 0, min: 0, max: 1, reports: true }],
  ...more,
})

/** Only what the outputs did after the power-up, as `t:id=level`. */
export const outputsOf = (img: ControllerImage, lines: TraceLine[]): string[] =>
  runTrace(img, lines)
    .flatMap((o) => ('out' in o ? [`${o.t}:${o.out}=${o.level}`] : []))
    .slice(img.channels.reduce((sum, one) => sum + one.gpios.length, 0))
export const publishedOf = (img: ControllerImage, lines: TraceLine[]): string[] =>
  runTrace(img, lines).flatMap((o) =>
    'pub' in o ? [`${o.t} ${o.pub.topic.replace('vestibule/studio/corner/', '')} ${o.pub.payload}`] : [],
  )
export const set = (t: number, payload: string, retain = false): TraceLine => ({
  t,
  msg: { topic: 'vestibule/studio/corner/lamp/set', payload, retain },
})
export const end = (t: number): TraceLine => ({ t, end: true })
export const start: TraceLine = { t: 0, power: 'on' }
