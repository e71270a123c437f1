import type { ControllerImage, ImageDeed } from '../image'
import { timeText, type Site } from '../site'

/** One line of "what changed since the last flash". */
export interface ImageChange {
  readonly kind: 'added' | 'removed' | 'changed'
  readonly what: string
}

const LISTS = [
  'channels',
  'inputs',
  'groups',
  'bindings',
  'keys',
  'chars',
  'points',
  'sensors',
  'rules',
  'schedules',
] as const
type List = (typeof LISTS)[number]

const targetName = (image: ControllerImage, deed: ImageDeed): string =>
  deed.on === 'controller'
    ? 'the controller'
    : deed.on === 'group'
      ? `group ${image.groups[deed.index]?.id}`
      : `${image.channels[deed.index]?.id}`

/** A row's name: what a maker calls it. Rows of one name are the same row at different times. */
const NAMES: Record<List, (image: ControllerImage) => { name: string; row: object }[]> = {
  channels: (image) => image.channels.map((row) => ({ name: `channel ${row.id}`, row })),
  inputs: (image) => image.inputs.map((row) => ({ name: `input ${row.id}`, row })),
  groups: (image) => image.groups.map((row) => ({ name: `group ${row.id}`, row })),
  sensors: (image) => image.sensors.map((row) => ({ name: `sensor ${row.id}`, row })),
  bindings: (image) =>
    image.bindings.map((row) => ({
      name:
        `${image.inputs[row.input]?.id}: ${row.gesture} ${row.action === row.gesture ? 'of' : row.action} ` +
        `${targetName(image, row)}`,
      row: {},
    })),
  keys: (image) =>
    image.keys.map((row) => ({
      name: `key ${row.protocol} ${row.address}/${row.command}: ${row.action} ${targetName(image, row)}`,
      row: { everyMs: row.everyMs, level: row.level },
    })),
  chars: (image) =>
    image.chars.map((row) => ({
      name: `character ${row.char}: ${row.action} ${targetName(image, row)}`,
      row: { level: row.level },
    })),
  points: (image) =>
    image.points.map((row) => ({
      name: `point vp${row.vp} of ${row.carries === 'channel' ? image.channels[row.index]?.id : row.carries === 'sensor' ? image.sensors[row.index]?.id : row.carries === 'group' ? `group ${image.groups[row.index]?.id}` : 'the mode'}`,
      row,
    })),
  rules: (image) =>
    image.rules.map((row) => ({
      name: `rule on ${image.sensors[row.sensor]?.id} for ${image.channels[row.channel]?.id}`,
      row,
    })),
  schedules: (image) =>
    image.schedules.map((row) => ({
      name: `schedule of ${image.channels[row.channel]?.id} at minute ${row.minute}`,
      row,
    })),
}

/**
 * The tables with names in the place of ids, as the sites call things, the last of them first. Two things of one name
 * are told apart by their ids.
 */
function named(image: ControllerImage, sites: readonly Site[]): ControllerImage {
  const things = sites.flatMap(({ channels, inputs, groups, sensors }) => [channels, inputs, groups, sensors].flat())
  const names = new Map(things.map(({ id, name }) => [id as string, name]))
  const isShared = (name: string): boolean => [...names.values()].filter((other) => other === name).length > 1
  const withName = <T extends { readonly id: string }>(rows: readonly T[]): T[] =>
    rows.map((row) => {
      const name = names.get(row.id)
      return name === undefined ? row : { ...row, id: isShared(name) ? `${name} (${row.id})` : name }
    })
  return {
    ...image,
    channels: withName(image.channels),
    inputs: withName(image.inputs),
    groups: withName(image.groups),
    sensors: withName(image.sensors),
  }
}

/** What a field of the tables is called where a maker reads it; others have names that say it. */
const WORDS: Readonly<Record<string, string>> = {
  gpios: 'pins (GPIO)',
  gpio: 'pin (GPIO)',
  powerUp: 'after a power cut',
  otherwise: 'else, after a power cut',
  activeLow: 'pulls in at low level',
  maxOnMs: 'longest time on',
  minOffMs: 'least time off',
  gapMs: 'gap between levels',
  waitMs: 'waits for the service',
  patterns: 'contacts of the levels',
  onLevel: 'first level',
  takesSet: 'obeys the hub',
  reports: 'reports its state',
  essential: 'spared by “all off”',
  closedLevel: 'level when closed',
  settleMs: 'settle time',
  holdMs: 'hold time',
  everyMs: 'repeats every',
  dwellMs: 'least time in a state',
  staleMs: 'too old after',
  outage: 'winner after an outage',
  staggerMs: 'time between turn-ons',
  storeMs: 'stores after',
  minReportMs: 'least time between reports',
  heartbeatMs: 'full report every',
  sensorMs: 'readings every',
  vp: 'virtual pin',
  min: 'least value',
  max: 'greatest value',
}

/** What the words of the tables mean. */
const VALUES: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  powerUp: {
    last: 'as it was',
    wall: 'as its switch stands',
    service: 'as the service says',
    timetable: 'by its timetable',
  },
  otherwise: { last: 'as it was' },
  outage: { local: 'the wall', service: 'the service' },
}

function said(key: string, value: unknown): string {
  const word = typeof value === 'string' ? VALUES[key]?.[value] : undefined
  if (word !== undefined) return word
  if (value === undefined || value === null) return 'none'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (typeof value === 'number' && key.endsWith('Ms')) return value === 0 ? 'none' : timeText(value)
  if (Array.isArray(value) && value.every((one) => typeof one === 'number')) return value.join(', ')
  return typeof value === 'object' ? JSON.stringify(value) : String(value as string | number)
}

const change = (key: string, was: unknown, is: unknown): string =>
  `${WORDS[key] ?? key}: ${said(key, was)} → ${said(key, is)}`

const fieldsThatDiffer = (a: object, b: object): string =>
  Object.entries(b)
    .filter(([key, is]) => JSON.stringify((a as Record<string, unknown>)[key]) !== JSON.stringify(is))
    .map(([key, is]) => change(key, (a as Record<string, unknown>)[key], is))
    .join('; ')

/** What is told once for the whole controller. */
const SETTINGS = [
  'board',
  'link',
  'outage',
  'staggerMs',
  'storeMs',
  'minReportMs',
  'heartbeatMs',
  'sensorMs',
  'auto',
  'watch',
  'serial',
  'light',
  'modeTopic',
] as const

/**
 * What differs between the tables on the board and those of the site now, in a maker's words; `sites`: where the names
 * are, the newest last.
 */
export function imageChanges(was: ControllerImage, is: ControllerImage, ...sites: readonly Site[]): ImageChange[] {
  if ((was.version as number) !== is.version)
    return [
      {
        kind: 'changed',
        what: `tables of version ${String(was.version)}, from an older program → version ${is.version}`,
      },
    ]
  const [before, after] = [named(was, sites), named(is, sites)]
  const changes: ImageChange[] = []
  for (const key of SETTINGS) {
    if (JSON.stringify(before[key]) !== JSON.stringify(after[key]))
      changes.push({ kind: 'changed', what: change(key, before[key], after[key]) })
  }
  for (const list of LISTS) {
    const old = new Map(NAMES[list](before).map(({ name, row }) => [name, row]))
    const now = new Map(NAMES[list](after).map(({ name, row }) => [name, row]))
    for (const [name, row] of now) {
      const was = old.get(name)
      const fields = was && fieldsThatDiffer(was, row)
      if (!was) changes.push({ kind: 'added', what: name })
      else if (fields) changes.push({ kind: 'changed', what: `${name}, ${fields}` })
    }
    for (const name of old.keys()) if (!now.has(name)) changes.push({ kind: 'removed', what: name })
  }
  return changes
}
