import { z } from 'zod'
import { EXPORT_FORMATS } from '../outputs'
import {
  BoardHereRow,
  BoardRow,
  StrangerRow,
  BuildFile,
  BuildRow,
  CredentialRow,
  DoorRow,
  DueTest,
  EXAMPLES,
  Faults,
  HubCommand,
  HubPage,
  FindingRow,
  LogEntry,
  LogLineRow,
  Outcome,
  PatchOperation,
  RigEvent,
  RigPaired,
  RigState,
  SiteRow,
  StandInPage,
  StoredSite,
  TestRun,
  AcceptanceReport,
  AcceptanceRow,
  TimelineRow,
  TrialRow,
  UpkeepRow,
  Versions,
  UndoLabels,
  WireRow,
} from './rows'
import { HandRow } from './hand'
import { Mains, Name } from '../site'
import type { RouteName } from './routes'

/** What travels on a route. */
export interface Contract {
  readonly summary: string
  readonly body?: z.ZodType
  /** needs `If-Match` with the revision that the change is made against (RFC 9110, 13.1.1) */
  readonly matches?: true
  /** JSON of this shape, or a media type */
  readonly answer: z.ZodType | string
  /** status of a success; 200 where not said */
  readonly status?: 201
}

const Done = z.strictObject({ ok: z.literal(true) })
const Made = z.strictObject({ id: z.int() })
const controller = z.string()
const Acknowledged = z.strictObject({ revision: z.int(), ...UndoLabels.shape })
const Walked = z.strictObject({ ...Acknowledged.shape, label: z.string(), patch: z.array(PatchOperation) })
/** Whose last change: the asking tab's own, or anybody's. */
const Whose = z.strictObject({ whose: z.enum(['own', 'any']) }).optional()
const CredentialKey = z.strictObject({ key: z.string().min(3).max(120) })

/**
 * Each route's request and answer, once: the server serves by it, pages are typed by it, the document is made of it.
 */
export const CONTRACT = {
  health: {
    summary: 'Is the server well: store, broker, stand-ins',
    answer: z.strictObject({
      ok: z.boolean(),
      /** "writes", or why it does not */
      store: z.string(),
      sites: z.int(),
      broker: z.string(),
      own: z.boolean(),
      /** users that are connected; null on a broker of the house */
      connections: z.int().nullable(),
      standIns: z.array(z.strictObject({ site: z.string(), connected: z.boolean() })),
    }),
  },
  openApi: { summary: 'This document', answer: z.looseObject({ openapi: z.string() }) },
  sites: { summary: 'Sites', answer: z.strictObject({ sites: z.array(SiteRow) }) },
  door: {
    summary: 'Sites with their plates, what is open in each, what its boards run, and its last test',
    answer: z.strictObject({ sites: z.array(DoorRow) }),
  },
  newSite: {
    summary: 'A new site: empty, from a site document, an example, or a copy of one that is here (its document alone)',
    body: z.union([
      z.strictObject({ name: Name, mains: Mains.optional() }),
      z.strictObject({ name: Name, copyOf: z.string() }),
      z.strictObject({ example: z.enum(EXAMPLES) }),
      z.strictObject({ site: z.unknown() }),
    ]),
    answer: z.strictObject({ id: z.string(), revision: z.int() }),
    status: 201,
  },
  site: { summary: 'A site document with its revision and what can be undone', answer: StoredSite },
  keepEdit: {
    summary: 'Change a site by RFC 6902 operations',
    body: z.strictObject({
      label: z.string().trim().min(1).max(200),
      patch: z.array(PatchOperation).min(1).max(5000),
    }),
    matches: true,
    answer: Acknowledged,
  },
  deleteSite: {
    summary: 'Delete a site with its history, builds, logbook and credentials; its name is asked for',
    body: z.strictObject({ name: z.string() }),
    answer: Done,
  },
  undo: { summary: 'Take the last change of this tab back', body: Whose, matches: true, answer: Walked },
  redo: { summary: 'Make the change again that was taken back', body: Whose, matches: true, answer: Walked },
  findings: {
    summary: 'Findings of a site, with their fixes as patches',
    answer: z.strictObject({ findings: z.array(FindingRow) }),
  },
  export: { summary: `The site in an open format: ${EXPORT_FORMATS.join(', ')}`, answer: '*/*' },
  builds: {
    summary: 'Builds and flashes of a site, newest first; what is on each board',
    answer: z.strictObject({ builds: z.array(BuildRow), boards: z.array(BoardRow) }),
  },
  newBuild: {
    summary: 'Build the firmware and sheets of a controller',
    body: z.strictObject({ controller, despiteFindings: z.boolean().optional() }),
    answer: z.strictObject({ build: BuildRow, files: z.array(BuildFile) }),
    status: 201,
  },
  build: {
    summary: 'A build with its files',
    answer: z.strictObject({ build: BuildRow, files: z.array(BuildFile) }),
  },
  buildZip: { summary: 'A build as an archive', answer: 'application/zip' },
  compareBuilds: {
    summary: 'Two builds of a controller compared: as its maker reads it, by their tables, and what to test again',
    answer: z.strictObject({
      changes: z.array(z.strictObject({ kind: z.enum(['added', 'removed', 'changed']), what: z.string() })),
      tables: z.array(z.strictObject({ sign: z.enum(['+', '-', ' ']), line: z.string() })),
      again: z.array(DueTest),
      of: z.int(),
    }),
  },
  program: {
    summary: 'The program of a build for the 8-bit board, compiled on this machine; refused with the reason elsewhere',
    answer: z.strictObject({ hex: z.string(), flash: z.int(), memory: z.int() }),
  },
  newFlash: {
    summary: 'Record that a build is on its board',
    body: z.strictObject({
      boardPackage: z.string().trim().max(120).default(''),
      versions: Versions.default({}),
      note: z.string().trim().max(500),
    }),
    answer: Made,
    status: 201,
  },
  log: {
    summary: 'The logbook: entries, test runs, trials, the last acceptance run, wires that are soldered',
    answer: z.strictObject({
      entries: z.array(LogEntry),
      runs: z.array(TestRun),
      trials: z.array(TrialRow),
      /** the last one in the simulated house; null: none yet */
      acceptance: AcceptanceRow.nullable(),
      wires: z.array(WireRow),
    }),
  },
  writeLog: {
    summary: 'Write a note or a fault into the logbook',
    body: z.strictObject({
      kind: z.enum(['note', 'fault']),
      controller: controller.nullable(),
      text: z.string().trim().min(1).max(2000),
      /** the entry that this one corrects */
      corrects: z.int().optional(),
      /** the part that a fault was */
      part: z.string().max(120).optional(),
    }),
    answer: Done,
    status: 201,
  },
  importLog: {
    summary: 'Bring the lines of a saved logbook in; those that are here already are left',
    body: z.strictObject({
      format: z.literal('vestibule-log'),
      version: z.literal(1),
      site: z.string(),
      entries: z.array(LogLineRow).max(20_000),
    }),
    answer: z.strictObject({ came: z.int(), known: z.int() }),
  },
  upkeep: {
    summary: 'What wears, ages or is to be looked at, and when it is due',
    answer: z.strictObject({ items: z.array(UpkeepRow) }),
  },
  upkeepDone: { summary: 'Write down that something was kept up today', answer: Done },
  calendar: { summary: 'What is due, as a calendar file (RFC 5545)', answer: 'text/calendar' },
  backup: {
    summary: 'Everything in one file, tried by restoring it: it opens every credential',
    answer: 'application/zip',
  },
  solder: {
    summary: 'Tick a wire of the connection list off, or take the tick back',
    body: z.strictObject({ wire: z.string().min(3).max(400), done: z.boolean() }),
    answer: Done,
  },
  newTestRun: {
    summary: 'Begin a test run: channels × ways in the safe order; or of some tests only',
    body: z.strictObject({ controller, only: z.array(z.string().max(200)).min(1).max(2000).optional() }),
    answer: Made,
    status: 201,
  },
  dueTests: {
    summary: 'Tests that never passed, or of which something has changed since they last did',
    answer: z.strictObject({ again: z.array(DueTest), of: z.int() }),
  },
  setTestItem: {
    summary: 'Write down the outcome of one test',
    body: z.strictObject({ outcome: Outcome, note: z.string().trim().max(500) }),
    answer: Done,
  },
  takeTest: {
    summary: 'Take a test in hand: what its board says from now on counts for it; null lets go',
    body: z.strictObject({ key: z.string().max(200).nullable(), again: z.boolean().optional() }),
    answer: z.strictObject({ hand: HandRow.nullable() }),
  },
  seeTest: {
    summary: 'Say what an eye has seen of the test in hand: the thing itself, or a screen that nobody can hear',
    body: z.strictObject({ what: z.enum(['eye', 'screen']), seen: z.boolean() }),
    answer: Done,
  },
  boards: {
    summary: 'Which boards are here: on the network or not, since when, what they run and said last; and strangers',
    answer: z.strictObject({ boards: z.array(BoardHereRow), strangers: z.array(StrangerRow) }),
  },
  replaceBoard: {
    summary: 'A board has died, or is given away: a new password locks it out; one that is gone loses its credentials',
    body: z.strictObject({ why: z.enum(['died', 'gone']) }),
    answer: z.strictObject({ deleted: z.int() }),
  },
  newBoardTests: {
    summary: 'Tests that a board in another’s place needs, and what each shows',
    answer: z.strictObject({ again: z.array(DueTest), of: z.int() }),
  },
  openDoor: {
    summary: 'Let a board that has never joined come in for some minutes; 0 closes the door',
    body: z.strictObject({ minutes: z.int().min(0).max(60) }),
    answer: Done,
  },
  newTrial: {
    summary: 'Keep a trial run',
    body: z.strictObject({ durationMs: z.int().min(0), timeline: z.array(TimelineRow).max(1000) }),
    answer: Made,
    status: 201,
  },
  newAcceptance: {
    summary: 'Keep an acceptance run in the simulated house; refused where the site has other tables by now',
    body: z.strictObject({ report: AcceptanceReport }),
    answer: Made,
    status: 201,
  },
  standIn: {
    summary: 'What a stand-in of a service knows: values, who is online, what it refused, what is used of the plan',
    answer: StandInPage,
  },
  hubPage: {
    summary: 'What the stand-in of the hub believes, who is online, what was refused',
    answer: HubPage,
  },
  hubCommand: { summary: 'Have the stand-in of the hub say something', body: HubCommand, answer: Done },
  setHubFaults: {
    summary: 'Stop the stand-in of the hub, slow it, make it lose messages or say commands again',
    body: Faults,
    answer: Done,
  },
  rig: {
    summary: 'The firmware of every controller, as processes of this machine: pins, links, messages',
    answer: RigState,
  },
  turnRig: {
    summary: 'Compile and start the rig, or stop it',
    body: z.strictObject({ on: z.boolean() }),
    answer: Done,
  },
  pairBoard: {
    summary: 'Pair a board of the rig that is ready: say its PIN, and give it its network and logins',
    body: z.strictObject({ pin: z.string().min(1).max(64) }),
    answer: RigPaired,
  },
  rigEvent: { summary: 'Press, turn or read at a board of the rig', body: RigEvent, answer: Done },
  setFaults: {
    summary: 'Stop a stand-in, slow it, make it lose messages or send wishes again',
    body: Faults,
    answer: Done,
  },
  dryRun: {
    summary: 'Try a service’s wire as a board would: log in, listen or read, and write nothing',
    body: z.strictObject({
      /** "host" or "host:port"; null: its stand-in here */
      address: z
        .string()
        .trim()
        .regex(/^[A-Za-z0-9.-]{1,200}(:\d{1,5})?$/)
        .nullable(),
    }),
    answer: z.strictObject({ ok: z.boolean(), lines: z.array(z.string()) }),
  },
  touchWidget: {
    summary: 'Touch a widget of the app-service stand-in',
    body: z.strictObject({ on: z.boolean(), value: z.int().min(-9_999).max(9_999).optional() }),
    answer: Done,
  },
  credentials: {
    summary: 'Which credentials the site needs, and what is known of those that are stored; never what they say',
    answer: z.strictObject({ credentials: z.array(CredentialRow) }),
  },
  putCredential: {
    summary: 'Type a credential once: it is cleaned, checked and encrypted',
    body: z.strictObject({ ...CredentialKey.shape, value: z.string().min(1).max(4000) }),
    answer: z.strictObject({ changes: z.array(z.string()) }),
  },
  deleteCredential: { summary: 'Forget a credential', body: CredentialKey, answer: Done },
  secrets: {
    summary:
      'The secrets file of a controller, filled in: with label and hub’s file the only place where secrets leave',
    answer: 'text/plain',
  },
  hubSecrets: {
    summary: 'The secrets file of a hub, filled in: where the broker is, and its own user and password there',
    answer: 'application/yaml',
  },
  pairingLabel: {
    summary: 'The label that pairs a controller, with its code to scan: it opens the controller',
    answer: 'image/svg+xml',
  },
} as const satisfies Record<RouteName, Contract>

type ContractOf<Name extends RouteName> = (typeof CONTRACT)[Name]
/** What a route is asked with; undefined: it takes no body. */
export type BodyOf<Name extends RouteName> =
  ContractOf<Name> extends { readonly body: infer Body extends z.ZodType } ? z.infer<Body> : undefined
/** What may be sent to it: before trimming and defaults. */
export type BodySent<Name extends RouteName> =
  ContractOf<Name> extends { readonly body: infer Body extends z.ZodType } ? z.input<Body> : undefined
/** What it answers; a route that answers with a file gives its text. */
export type AnswerOf<Name extends RouteName> =
  ContractOf<Name> extends { readonly answer: infer Answer extends z.ZodType } ? z.infer<Answer> : string
/** Routes that need `If-Match`. */
export type Matching = {
  [Name in RouteName]: ContractOf<Name> extends { readonly matches: true } ? Name : never
}[RouteName]
