import type { ControllerImage, ImageDeed } from '../image'

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

const fieldsThatDiffer = (a: object, b: object): string =>
  Object.keys(b)
    .filter(
      (key) =>
        JSON.stringify((a as Record<string, unknown>)[key]) !== JSON.stringify((b as Record<string, unknown>)[key]),
    )
    .map(
      (key) =>
        `${key} ${JSON.stringify((a as Record<string, unknown>)[key])} → ` +
        `${JSON.stringify((b as Record<string, unknown>)[key])}`,
    )
    .join(', ')

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

/** What differs between the tables on the board and those of the site now, in a maker's words. */
export function imageChanges(before: ControllerImage, after: ControllerImage): ImageChange[] {
  if ((before.version as number) !== after.version)
    return [
      {
        kind: 'changed',
        what: `tables of version ${String(before.version)}, from an older program → version ${after.version}`,
      },
    ]
  const changes: ImageChange[] = []
  for (const key of SETTINGS) {
    const [old, now] = [before[key], after[key]].map((value) =>
      typeof value === 'object' ? JSON.stringify(value) : String(value),
    )
    if (old !== now) changes.push({ kind: 'changed', what: `${key} ${old} → ${now}` })
  }
  for (const list of LISTS) {
    const old = new Map(NAMES[list](before).map(({ name, row }) => [name, row]))
    const now = new Map(NAMES[list](after).map(({ name, row }) => [name, row]))
    for (const [name, row] of now) {
      const was = old.get(name)
      const fields = was && fieldsThatDiffer(was, row)
      if (!was) changes.push({ kind: 'added', what: name })
      else if (fields) changes.push({ kind: 'changed', what: `${name}: ${fields}` })
    }
    for (const name of old.keys()) if (!now.has(name)) changes.push({ kind: 'removed', what: name })
  }
  return changes
}
