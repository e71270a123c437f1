import { linksOf, type ControllerImage } from '../image'

/** Timer slots: for each input, each channel, each sensor, each rule, each link, then the controller's own. */
const INPUT_KINDS = ['settle', 'hold'] as const
const CHANNEL_KINDS = ['limit', 'rest', 'offGap', 'serviceWait', 'reportGap', 'gap', 'yield'] as const
const SENSOR_KINDS = ['stale', 'sensorDue'] as const
const RULE_KINDS = ['dwell'] as const
const LINK_KINDS = ['join', 'window'] as const
const OWN_KINDS = [
  'turn',
  'store',
  'heartbeat',
  'watch',
  'grace',
  'steady',
  'status',
  'pressWindow',
  'keyRepeat',
  'schedule',
] as const

export type Indexed =
  | (typeof INPUT_KINDS)[number]
  | (typeof CHANNEL_KINDS)[number]
  | (typeof SENSOR_KINDS)[number]
  | (typeof RULE_KINDS)[number]
  | (typeof LINK_KINDS)[number]
export type Own = (typeof OWN_KINDS)[number]

export type Owner = { readonly kind: Indexed; readonly index: number } | { readonly kind: Own }
export type Slots = { readonly [K in Indexed]: (index: number) => number } & { readonly [K in Own]: number } & {
  /** those before it are of inputs */
  readonly firstOfChannels: number
}

/** The slots of an image and who owns each. */
export function slotsOf(image: ControllerImage): { readonly slots: Slots; readonly owners: readonly Owner[] } {
  const owners: Owner[] = []
  const slots: Record<string, ((index: number) => number) | number> = {}
  const rows: readonly (readonly [readonly Indexed[], number])[] = [
    [INPUT_KINDS, image.inputs.length],
    [CHANNEL_KINDS, image.channels.length],
    [SENSOR_KINDS, image.sensors.length],
    [RULE_KINDS, image.rules.length],
    [LINK_KINDS, linksOf(image).length],
  ]
  for (const [kinds, count] of rows) {
    const first = owners.length
    kinds.forEach((kind, offset) => {
      slots[kind] = (index) => first + index * kinds.length + offset
    })
    for (let index = 0; index < count; index++) for (const kind of kinds) owners.push({ kind, index })
  }
  for (const kind of OWN_KINDS) {
    slots[kind] = owners.length
    owners.push({ kind })
  }
  slots['firstOfChannels'] = image.inputs.length * INPUT_KINDS.length
  return { slots: slots as unknown as Slots, owners }
}
