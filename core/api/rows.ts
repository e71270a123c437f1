import { z } from 'zod'
import { TraceFrame } from '../device'
import { SEVERITIES } from '../findings'
import { STAGES } from '../outputs'
import { Secret, SiteShape } from '../site'
import { TIMELINE_KINDS } from '../trial'
import { COLUMNS } from '../ways'

/** What lies in the store and travels as it is: one schema a row, from which its type is taken. */

/** An instant, ISO 8601. */
const at = z.string()

export const SiteRow = z.strictObject({ id: z.string(), name: z.string(), revision: z.int(), updatedAt: at })

/** Sites that ship as examples. */
export const EXAMPLES = ['studio-corner', 'fernhollow', 'before-review'] as const

/** What a board runs: the site as it is, an older build, or nothing that is on record. */
export const PLATE_STATES = ['flashed', 'behind', 'built', 'none'] as const

/** A site as it is shown at the door. */
export const DoorRow = z.strictObject({
  ...SiteRow.shape,
  rooms: z.int(),
  /** line voltage, V */
  volts: z.int(),
  controllers: z.array(
    z.strictObject({ id: z.string(), name: z.string(), channels: z.int(), state: z.enum(PLATE_STATES) }),
  ),
  /** open findings by severity */
  open: z.strictObject({ danger: z.int(), error: z.int(), warning: z.int(), note: z.int() }),
  /** what no check has looked at */
  unchecked: z.int(),
  lastTest: z.strictObject({ controller: z.string(), items: z.int(), done: z.int(), failed: z.int(), at }).nullable(),
})

/**
 * The state of a site's undo: what the next undo and redo of the asking tab would concern (header `X-Tab`; without it,
 * of anybody), and the last edit of all where it is another tab's.
 */
export const UndoLabels = z.strictObject({
  undo: z.string().nullable(),
  redo: z.string().nullable(),
  elsewhere: z.string().nullable(),
})

export const StoredSite = z.strictObject({ revision: z.int(), site: SiteShape, ...UndoLabels.shape })

const Pointer = z.string().max(400)
/** An operation of RFC 6902. */
export const PatchOperation = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal('add'), path: Pointer, value: z.unknown() }),
  z.strictObject({ op: z.literal('remove'), path: Pointer }),
  z.strictObject({ op: z.literal('replace'), path: Pointer, value: z.unknown() }),
  z.strictObject({ op: z.literal('move'), from: Pointer, path: Pointer }),
  z.strictObject({ op: z.literal('copy'), from: Pointer, path: Pointer }),
  z.strictObject({ op: z.literal('test'), path: Pointer, value: z.unknown() }),
])

/** What a flash was made with, by the names on the flash steps. */
export const Versions = z
  .record(z.string().max(60), z.string().trim().max(120))
  .refine((versions) => Object.keys(versions).length <= 12, { message: 'at most 12 versions' })
export const FlashRow = z.strictObject({
  id: z.int(),
  boardPackage: z.string(),
  versions: Versions,
  note: z.string(),
  at,
})

export const BuildRow = z.strictObject({
  id: z.int(),
  siteId: z.string(),
  controller: z.string(),
  number: z.int(),
  revision: z.int(),
  hash: z.string(),
  at,
  flashes: z.array(FlashRow),
})

export const BuildFile = z.strictObject({ name: z.string(), text: z.string() })

/** What is on a board, as far as the logbook knows, and how the site differs from it now. */
export const BoardRow = z.strictObject({
  controller: z.string(),
  hash: z.string(),
  number: z.int(),
  at,
  changes: z.array(z.strictObject({ kind: z.enum(['added', 'removed', 'changed']), what: z.string() })),
})

export const LOG_KINDS = ['build', 'flash', 'trial', 'test', 'note', 'fault'] as const
export const LogEntry = z.strictObject({
  id: z.int(),
  controller: z.string().nullable(),
  kind: z.enum(LOG_KINDS),
  text: z.string(),
  at,
  /** the entry that it corrects; null: none */
  corrects: z.int().nullable(),
  /** the part that a fault was, by its id in core/parts; null: not said */
  part: z.string().nullable(),
})
/** A line of a log's file (docs/formats.md, "Logbook"). */
export const LogLineRow = z.strictObject({
  id: z.int().optional(),
  at: z.iso.datetime(),
  controller: z.string().max(200).nullable(),
  kind: z.enum(LOG_KINDS),
  // what the server writes by itself may be longer than a note
  text: z.string().min(1).max(20_000),
  corrects: z.int().nullable().optional(),
  part: z.string().max(120).nullable().optional(),
})
/** What wears, ages or is to be looked at. */
export const UpkeepRow = z.strictObject({
  id: z.string(),
  kind: z.enum(['contact', 'store', 'battery', 'credential', 'protection', 'test', 'backup']),
  controller: z.string().nullable(),
  what: z.string(),
  detail: z.string(),
  last: at.nullable(),
  due: at.nullable(),
  byHand: z.boolean(),
})
export type UpkeepRow = z.infer<typeof UpkeepRow>

export const Outcome = z.enum(['open', 'passed', 'failed', 'skipped'])
/** A test of the list. */
const listedTest = {
  key: z.string(),
  stage: z.enum(STAGES),
  channel: z.string().nullable(),
  way: z.string().nullable(),
  action: z.string(),
  expected: z.string(),
}
/** Who told how a test went: its board by itself, an eye beside it, or a hand alone. */
export const ToldBy = z.enum(['board', 'eye', 'hand'])
export type ToldBy = z.infer<typeof ToldBy>
export const TestItemRow = z.strictObject({
  ...listedTest,
  outcome: Outcome,
  note: z.string(),
  at: at.nullable(),
  /** what was heard of the board */
  heard: z.array(z.string()),
  toldBy: ToldBy.nullable(),
})
/** A board on the network, as far as it has been heard. */
export const BoardHereRow = z.strictObject({
  controller: z.string(),
  state: z.enum(['never', 'waited for', 'joining', 'online', 'offline']),
  /** since when it is so; null: it was never heard */
  since: at.nullable(),
  firstSeen: at.nullable(),
  hash: z.string().nullable(),
  /** which build that is, in words; null: it has not said */
  runs: z.string().nullable(),
  said: z.string().nullable(),
  restarts: z.int(),
  /** keys pressed at its receiver that nobody has taught, the newest first */
  keys: z.array(z.strictObject({ protocol: z.string(), address: z.int(), command: z.int(), at })),
  /** longest bounce of each input since its start, ms */
  bounces: z.record(z.string(), z.int()),
  /** dBm; null: its port does not say */
  signalDbm: z.number().nullable(),
  upSince: at.nullable(),
  /** why it was not let in last; null: it was, or nobody knocked */
  refused: z.strictObject({ at, why: z.string() }).nullable(),
  /** until when a board that has never joined may come; null: closed */
  openUntil: at.nullable(),
  joined: z.boolean(),
})
export type BoardHereRow = z.infer<typeof BoardHereRow>
/** Somebody on the broker whom the site does not know. */
export const StrangerRow = z.strictObject({ who: z.string(), at, what: z.string() })
export type StrangerRow = z.infer<typeof StrangerRow>
export const TestRun = z.strictObject({
  id: z.int(),
  siteId: z.string(),
  controller: z.string(),
  buildId: z.int().nullable(),
  revision: z.int(),
  at,
  items: z.array(TestItemRow),
})

/** A test that is due, and why: never passed, or what has changed since it last did. */
export const DueTest = z.strictObject({
  ...listedTest,
  why: z.array(z.string()).min(1),
})

/** One line of a trial's time line; every kind that a trial can write can be kept. */
export const AcceptanceReport = z.strictObject({
  site: z.string(),
  /** hash of the tables of each controller, by its id */
  tables: z.record(z.string(), z.string()),
  seed: z.int(),
  items: z
    .array(
      z.strictObject({
        key: z.string().max(200),
        group: z.enum(['way', 'power', 'outage', 'winner', 'group', 'limit', 'never']),
        controller: z.string(),
        channel: z.string().nullable(),
        way: z.string().nullable(),
        action: z.string().max(400),
        expected: z.string().max(400),
        result: z.enum(['passed', 'failed', 'skipped']),
        note: z.string().max(400),
        t: z.number(),
        toLoadMs: z.number().nullable(),
        toScreensMs: z.number().nullable(),
      }),
    )
    .max(20_000),
  lastsMs: z.number(),
})
export const AcceptanceRow = z.strictObject({
  id: z.int(),
  revision: z.int(),
  report: AcceptanceReport,
  at,
})

export const TimelineRow = z.strictObject({
  /** ms since the start of the trial */
  t: z.number(),
  kind: z.enum(TIMELINE_KINDS),
  text: z.string().max(400),
  channel: z.string().optional(),
})
export const TrialRow = z.strictObject({
  id: z.int(),
  revision: z.int(),
  durationMs: z.int().min(0),
  timeline: z.array(TimelineRow),
  at,
})

/** A wire that is ticked off as soldered: what it joins, and since when. */
export const WireRow = z.strictObject({ controller: z.string(), wire: z.string(), at })

/** What is known of a stored credential without giving its value away. */
export const CredentialRecord = z.strictObject({
  key: z.string(),
  sameAs: z.string(),
  newerThanFlash: z.boolean(),
  usualPin: z.boolean(),
  outside: z.boolean().optional(),
  /** empty: it is made here */
  updatedAt: z.string(),
})
/** A credential that the site needs; `stored` null: nobody has typed it yet. */
export const CredentialRow = z.strictObject({
  key: z.string(),
  label: z.string(),
  owner: z.string(),
  controllers: z.array(z.string()),
  shape: Secret.shape.shape,
  secret: z.boolean(),
  shownOnce: z.boolean(),
  made: z.boolean(),
  pairs: z.boolean(),
  usedIn: z.string(),
  stored: CredentialRecord.nullable(),
})

/** The thing that a finding is about, and where it is mended. */
const FindingPlace = z.strictObject({
  thing: z.string(),
  id: z.string(),
  name: z.string(),
  controller: z.string().optional(),
  channel: z.string().optional(),
  role: z.string().optional(),
  step: z.enum(['bench', 'ways', 'build']),
  column: z.enum(COLUMNS).optional(),
  side: z.string().optional(),
})

export const FindingRow = z.strictObject({
  id: z.string(),
  severity: z.enum(SEVERITIES),
  title: z.string(),
  where: FindingPlace,
  what: z.string(),
  why: z.string(),
  accepted: z.string().optional(),
  key: z.string(),
  fixes: z.array(z.strictObject({ label: z.string(), patch: z.array(PatchOperation) })),
})

export type SiteRow = z.infer<typeof SiteRow>
export type UndoLabels = z.infer<typeof UndoLabels>
export type StoredSite = z.infer<typeof StoredSite>
export type BuildRow = z.infer<typeof BuildRow>
export type BuildFile = z.infer<typeof BuildFile>
export type BoardRow = z.infer<typeof BoardRow>
export type LogKind = (typeof LOG_KINDS)[number]
export type LogEntry = z.infer<typeof LogEntry>
export type Outcome = z.infer<typeof Outcome>
export type DoorRow = z.infer<typeof DoorRow>
export type TestRun = z.infer<typeof TestRun>
export type DueTest = z.infer<typeof DueTest>
export type WireRow = z.infer<typeof WireRow>
export type AcceptanceRow = z.infer<typeof AcceptanceRow>
export type TrialRow = z.infer<typeof TrialRow>
export type CredentialRow = z.infer<typeof CredentialRow>

/** What is done to a stand-in, to see what becomes of the house. */
export const Faults = z.strictObject({
  stopped: z.boolean(),
  /** everything takes so much longer, ms */
  slowMs: z.int().min(0).max(10_000),
  /** each third message is lost */
  lose: z.boolean(),
  /** wishes are sent again: a moment later, and when a board comes back */
  replay: z.boolean(),
})
export type Faults = z.infer<typeof Faults>
export const NO_FAULTS: Faults = { stopped: false, slowMs: 0, lose: false, replay: false }

const Said = z.strictObject({ at: z.string(), text: z.string() })
const allowed = z.int().nullable()
/** What a stand-in of a service shows of itself. */
export const StandInPage = z.strictObject({
  values: z.record(z.string(), z.number()),
  online: z.record(z.string(), z.boolean()),
  /** logins and messages that were refused, and why; the newest last */
  refused: z.array(Said),
  heard: z.array(Said),
  used: z.strictObject({ day: z.int(), month: z.int() }),
  allowed: z.strictObject({ day: allowed, month: allowed }),
  faults: Faults,
  /** it is reached by a wire of its own; else over the broker of the house */
  wired: z.boolean(),
})
export type StandInPage = z.infer<typeof StandInPage>

/** What a stand-in of the hub shows of itself. */
export const HubPage = z.strictObject({
  /** it runs beside the rig */
  running: z.boolean(),
  /** it is let in at the broker */
  connected: z.boolean(),
  /** level by "hub/entity"; null: nothing heard yet */
  beliefs: z.record(z.string(), z.number().nullable()),
  /** entities whose controller has said that it waits to turn on */
  waits: z.array(z.string()),
  /** lamps behind a feed, by channel */
  lamps: z.record(z.string(), z.boolean()),
  online: z.record(z.string(), z.boolean()),
  /** logins that the broker refused, and commands that nothing understands */
  refused: z.array(Said),
  heard: z.array(Said),
  /** messages of today, both ways */
  messages: z.int(),
  faults: Faults,
})
export type HubPage = z.infer<typeof HubPage>
const id = z.string().max(80)
const command = z.string().min(1).max(40)
/** What a person has a hub say: to a channel, to a group, or to a controller's auto mode. */
export const HubCommand = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('hub'), hub: id, entity: id, command }),
  z.strictObject({ kind: z.literal('group'), hub: id, group: id, command }),
  z.strictObject({ kind: z.literal('mode'), controller: id, command }),
])

/** A board of the rig: its firmware as a process of this machine. */
export const RigBoard = z.strictObject({
  controller: z.string(),
  running: z.boolean(),
  /** why it does not run; null: it does, or nobody asked */
  trouble: z.string().nullable(),
  /** by the name of the contact, "lamp" or "fan.2" */
  outputs: z.record(z.string(), z.union([z.literal(0), z.literal(1)])),
  links: z.array(
    z.strictObject({
      id: z.string(),
      state: z.enum(['down', 'joining', 'up']),
      /** what it said last when it went down */
      note: z.string().nullable(),
    }),
  ),
  /** what it has said, the newest last */
  said: z.array(Said),
  /** none: it has no PIN, or does not run */
  pairing: z.enum(['none', 'possible', 'offered']),
})
export type RigBoard = z.infer<typeof RigBoard>
export const RigState = z.strictObject({ phase: z.enum(['off', 'building', 'on']), boards: z.array(RigBoard) })
export type RigState = z.infer<typeof RigState>
/** How a try to pair a board of the rig ended. */
export const RigPaired = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('done') }),
  z.strictObject({ kind: z.literal('wrong'), left: z.int() }),
  z.strictObject({ kind: z.literal('wait'), seconds: z.int() }),
  z.strictObject({ kind: z.literal('bad'), word: z.string() }),
  z.strictObject({ kind: z.literal('silent') }),
])
export type RigPaired = z.infer<typeof RigPaired>
/** What a person does to a board of the rig: an event of a trace without its time. */
export const RigEvent = z.union([
  z.strictObject({ pin: z.string().max(40), level: z.union([z.literal(0), z.literal(1)]) }),
  z.strictObject({ char: z.string().length(1) }),
  z.strictObject({ ir: TraceFrame }),
  z.strictObject({ sensor: z.string().max(40), value: z.number().min(-1_000_000).max(1_000_000) }),
  z.strictObject({ clock: z.iso.datetime({ local: true, offset: false }) }),
  z.strictObject({ power: z.enum(['on', 'off']) }),
])
