import { z } from 'zod'
import { BoardProfile, ModuleProfile } from '../boards'
import { Channel } from './channels'
import { Control, Group, Link, Remote, Rule, Sensor, Template } from './wayParts'
import { Failures } from './failures'
import { Hub, Service, ServiceProfile } from './services'
import { ControllerId, HubId, InputId, LoadId, PartId, RoomId, SiteId } from './ids'
import { SITE_VERSION } from './limits'
import { milliseconds, name } from './shapes'
import { Way } from './ways'

/**
 * What is in the wall already, asked once a place: how many switches work the lamp, whether they glow, and whether a
 * neutral is in the box.
 */
export const OldWiring = z.strictObject({
  switching: z.enum(['one-way', 'two-way', 'intermediate']),
  /** a small lamp in the switch, through which a little current flows while it is open */
  glow: z.boolean(),
  neutral: z.boolean(),
})

/** `wall` is not said: nobody has looked. */
export const Room = z.strictObject({ id: RoomId, name, wall: OldWiring.optional() })

/** A relay module as bought: how its inputs are driven and how its coils are fed. */
export const RelayModule = z.strictObject({
  ways: z.int().min(1).max(16),
  /** The level at the input that pulls the relay in. */
  active: z.enum(['low', 'high']),
  input: z.enum(['opto', 'transistor']),
  coilVolts: z.union([z.literal(5), z.literal(12)]),
  coilOhms: z.number().positive().max(10_000),
  /** The jumper that joins the logic supply to the coil supply. */
  coilJumper: z.enum(['fitted', 'removed', 'none']),
  /** LEDs in series at its input: the opto's alone, or the indicator's as well; not said: nobody looked. */
  chain: z.enum(['opto', 'both']).optional(),
  /** Resistor in series with the opto's LED, Ω. */
  inputOhms: z.number().positive().max(100_000),
  /** Bare relays, without the module's own driver: what the maker fits to each. */
  driver: z.enum(['module', 'transistor-and-diode', 'transistor-only', 'none']),
  /** As printed on the relay. */
  contactAmps: z.number().positive().max(100),
  contactVolts: z.number().positive().max(1_000),
  /** what its contacts are made of; not said: silver, as relays of these amperes are */
  contacts: z.enum(['silver', 'gold']).optional(),
})

/**
 * What a maker fits between a part and its pins: a transistor where it draws more than a pin gives, a divider where 5 V
 * would reach a 3.3 V input, a level shifter where 3.3 V must count as high at 5 V.
 */
export const BETWEEN = ['transistor', 'divider', 'level-shifter'] as const

/** A part beside the board that takes pins: sensor, receiver, modem, expander. Its profile says which. */
export const Part = z.strictObject({
  id: PartId,
  profile: z.string().min(1).max(40),
  name,
  fitted: z.array(z.enum(BETWEEN)).max(BETWEEN.length).optional(),
})

/** Where the current comes from. A consumer without a converter hangs on the source itself. */
export const SupplyPlan = z.strictObject({
  source: z.string().min(1).max(40),
  /** converter profiles, by what they feed */
  board: z.string().max(40).nullable(),
  coils: z.string().max(40).nullable(),
  own: z.string().max(40).nullable(),
  /** µF across the rail of the parts with bursts */
  reservoirMicrofarads: z.number().min(0).max(100_000),
  /** the coils hang on the board's own logic regulator */
  coilsFromLogic: z.boolean(),
})

/** The box that all of it goes into, as the electrical code counts it (docs/decisions.md, "Box fill"). */
export const Enclosure = z.strictObject({
  volumeCubicInches: z.number().positive().max(10_000),
  conductors: z
    .array(
      z.strictObject({
        awg: z.union([
          z.literal(18),
          z.literal(16),
          z.literal(14),
          z.literal(12),
          z.literal(10),
          z.literal(8),
          z.literal(6),
        ]),
        count: z.int().min(0).max(200),
      }),
    )
    .max(7),
  internalClamps: z.boolean(),
  yokes: z.int().min(0).max(20),
  groundingConductors: z.int().min(0).max(40),
  moduleCubicCentimetres: z.number().min(0).max(100_000),
})

/** Copper of the wire between breaker and controller, as the region measures it. */
export const MainsConductor = z.discriminatedUnion('by', [
  z.strictObject({
    by: z.literal('awg'),
    awg: z.union([z.literal(14), z.literal(12), z.literal(10), z.literal(8), z.literal(6)]),
  }),
  z.strictObject({
    by: z.literal('area'),
    squareMillimetres: z.union([
      z.literal(1),
      z.literal(1.5),
      z.literal(2.5),
      z.literal(4),
      z.literal(6),
      z.literal(10),
      z.literal(16),
    ]),
  }),
])

/** What the mains side of a controller hangs on, and what switches it off when something goes wrong. */
export const MainsFeed = z.strictObject({
  breakerAmps: z.int().min(1).max(125),
  /** a residual-current device (ground-fault interrupter) before it */
  residualCurrent: z.enum(['fitted', 'none', 'unknown']),
  /** a fuse in the controller's own box, A; null: none */
  fuseAmps: z.number().min(0.1).max(63).nullable(),
  conductor: MainsConductor,
})

/** A pin as the maker wrote it: a board label ("D5"), "GPIO14", or a bare number. */
export const PinChoice = z.strictObject({ pin: z.string().trim().min(1).max(28), locked: z.boolean() })

export const Controller = z.strictObject({
  id: ControllerId,
  name,
  room: RoomId.nullable(),
  board: z.string().min(1).max(40),
  module: RelayModule.nullable(),
  /** Writes its log to the first serial port. */
  serialLog: z.boolean(),
  link: z.enum(['wifi', 'modem', 'none']),
  /** A modem's settings; user and password of its network are credentials. */
  modem: z
    .strictObject({
      apn: z
        .string()
        .max(64)
        .regex(/^[^"\\]*$/, 'an access point has no quotes'),
      /** s before it can join */
      joinS: z.int().min(1).max(600),
      /** what it may send and hear in a day, headers of TCP and IP counted, KB: above it, it reports at most once a
       * minute; not said: no limit */
      kilobytesADay: z.int().min(1).max(1_000_000).optional(),
    })
    .nullable(),
  /** Automatic rules: how the controller starts, and what a hand's command does to them. */
  auto: z.strictObject({
    start: z.enum(['auto', 'manual']),
    hand: z.enum(['yield', 'leave', 'ignore']),
    yieldMinutes: z.int().min(1).max(1_440),
  }),
  /** Auto and manual as an entity of a hub; not said: none. */
  modeEntity: z.strictObject({ hub: HubId, name }).optional(),
  /** Who wins after an outage; null: not stated (finding B06), compiled as local. */
  outage: z.enum(['local', 'service']).nullable(),
  /** The board's own light shows how the link stands; not said: it stays dark. */
  statusLight: z.boolean().optional(),
  /** The firmware is written in the flash memory's two-line mode, which frees two pins; not said: in four lines. */
  twoLineFlash: z.boolean().optional(),
  staggerMs: milliseconds(0, 10_000),
  storeMs: milliseconds(100, 600_000),
  minReportMs: milliseconds(0, 60_000),
  heartbeatS: z.int().min(5).max(86_400),
  /** Each sensor is reported at least this often, s. */
  sensorS: z.int().min(1).max(86_400),
  parts: z.array(Part).max(16),
  supply: SupplyPlan.nullable(),
  enclosure: Enclosure.nullable(),
  /** null: nobody has said yet what protects its mains side */
  mains: MainsFeed.nullable(),
  /**
   * Role ("out:<channel>", "in:<input>" with ":n" for the contacts of a stepped channel or a selector, or
   * "part:<part>:<signal>") to pin.
   */
  pins: z.record(
    z.string().regex(/^((out|in):[a-z0-9-]{1,24}(:[1-4])?|part:[a-z0-9-]{1,24}:[a-z0-9-]{1,12})$/),
    PinChoice,
  ),
})

const inputShape = {
  id: InputId,
  name,
  controller: ControllerId,
  room: RoomId.nullable(),
  /** Electrical level at the pin when the contact is closed. */
  closedLevel: z.enum(['low', 'high']),
  /** internal: the board's own pull; fitted: a resistor on the board's side; none: left floating. */
  pull: z.enum(['internal', 'fitted', 'none']),
  /** analogue: read on an analogue pin against half of its range. */
  sense: z.enum(['digital', 'analogue']),
  settle: z.enum(['settle', 'eager']),
  settleMs: milliseconds(0, 1_000),
  /** Length of the lead to the contact, m. */
  cableMetres: z.number().min(0).max(200),
  /** Bounce seen on this switch, ms; null: not measured. */
  bounceMs: z.number().min(0).max(1_000).nullable(),
  /** It is the board's own button: nothing is wired; not said: no. */
  ofBoard: z.boolean().optional(),
  /** Supply of the contact's circuit, volts. */
  volts: z.union([z.literal(3.3), z.literal(5)]),
}
export const MomentaryInput = z.strictObject({
  kind: z.literal('momentary'),
  ...inputShape,
  holdMs: milliseconds(200, 10_000),
})
export const RockerInput = z.strictObject({ kind: z.literal('rocker'), ...inputShape })
/** One to four contacts read as one code, each code looked up as a level. */
export const SelectorInput = z
  .strictObject({
    kind: z.literal('selector'),
    ...inputShape,
    bits: z.int().min(1).max(4),
    /**
     * Level of each code, code 0 first (bit 1 counts 1, bit 2 counts 2 …); null: a code that the switch does not make.
     */
    table: z.array(z.int().min(0).max(8).nullable()).max(16),
    /** A switch before it: its level counts only while that is closed, and is 0 else; not said: none. */
    gate: InputId.optional(),
  })
  .refine((input) => input.table.length === 2 ** input.bits, {
    path: ['table'],
    message: 'a table has one entry for each code: 2 for one bit, 4 for two, 8 for three, 16 for four',
  })
/** A sensor's contact: it tells where a door stands, and commands nothing. */
export const ContactInput = z.strictObject({ kind: z.literal('contact'), ...inputShape })
export const Input = z.discriminatedUnion('kind', [MomentaryInput, RockerInput, SelectorInput, ContactInput])

/**
 * own: a supply for this load alone; shared: one that several loads name alike; controller: the controller's source;
 * load: a supply that another channel switches, so that this one works only while that is on.
 */
export const LowVoltageFeed = z.discriminatedUnion('from', [
  z.strictObject({ from: z.literal('own') }),
  z.strictObject({ from: z.literal('shared'), name }),
  z.strictObject({ from: z.literal('controller') }),
  z.strictObject({ from: z.literal('load'), load: LoadId }),
])

export const Load = z.strictObject({
  id: LoadId,
  name,
  type: z.enum(['led', 'incandescent', 'motor', 'heater', 'electronic', 'coil', 'unknown']),
  watts: z.number().min(0).max(10_000),
  /** dry: nothing of ours feeds it; two wires across a button input of another device */
  supply: z.enum(['mains', 'low-voltage', 'dry']),
  /** Volts of a low-voltage supply. */
  volts: z.number().min(1).max(60),
  current: z.enum(['dc', 'ac']),
  /** Where the current of a low-voltage load comes from. */
  feed: LowVoltageFeed,
  /** The conductor that goes through the contact. */
  contact: z.enum(['line', 'neutral']),
  /** Of a load on mains: it hangs between two lines, 240 V of a split phase or 400 V of three; not said: no. */
  acrossLines: z.boolean().optional(),
  /** On for three hours or more at a time. */
  continuous: z.boolean(),
  suppression: z.enum(['none', 'snubber', 'varistor', 'diode']),
  /** Profile of the contactor between relay and load; null: none. */
  contactor: z.string().min(1).max(40).nullable(),
  /** Stands in the same box as another supply's conductors, without a barrier. */
  sharesBox: z.boolean(),
  /** The old switch stays in parallel with the contact: what the load does is then not known. */
  parallelSwitch: z.boolean(),
})

/** A finding that the maker accepts with a reason; it lapses when the facts (the finding's `what`) change. */
export const Acceptance = z.strictObject({
  finding: z.string(),
  where: z.string(),
  reason: z.string().trim().min(1).max(300),
  facts: z.string(),
})

/** Volts from line to neutral, and the lines there are. */
export const Mains = z.strictObject({
  volts: z.union([z.literal(120), z.literal(230)]),
  hertz: z.union([z.literal(50), z.literal(60)]),
  /** one line and neutral; a split phase, two lines about one neutral; three lines and a neutral */
  phases: z.enum(['one', 'split', 'three']),
})

export const SiteShape = z.strictObject({
  format: z.literal('vestibule-site'),
  version: z.literal(SITE_VERSION),
  id: SiteId,
  name,
  mains: Mains,
  rooms: z.array(Room),
  controllers: z.array(Controller),
  channels: z.array(Channel),
  groups: z.array(Group).max(100),
  inputs: z.array(Input),
  sensors: z.array(Sensor).max(200),
  loads: z.array(Load),
  services: z.array(Service),
  hubs: z.array(Hub),
  remotes: z.array(Remote).max(50),
  links: z.array(Link).max(50),
  rules: z.array(Rule).max(500),
  ways: z.array(Way),
  /** Ways to groups and to controllers themselves. */
  controls: z.array(Control).max(500),
  templates: z.array(Template).max(50),
  /** Scenarios of its own (core/scenario), as they were written; not said: none. */
  scenarios: z
    .array(z.strictObject({ id: z.string().regex(/^s[0-9]{1,4}$/), text: z.string().max(50_000) }))
    .max(50)
    .optional(),
  /** What is known of failures; not said: nothing, and rates are common practice. */
  failures: Failures.optional(),
  /** The day that quotas are worked out for. */
  day: z.strictObject({ /** changes of one channel a day */ changes: z.int().min(0).max(10_000) }),
  accepted: z.array(Acceptance),
  /** What a part costs, by its line in the parts list; in the maker's own money. */
  prices: z.record(z.string().max(200), z.number().min(0).max(100_000)),
  /** Board and module profiles that the maker has added or corrected. */
  profiles: z.strictObject({
    boards: z.array(BoardProfile).max(50),
    modules: z.array(ModuleProfile).max(200),
    services: z.array(ServiceProfile).max(50),
  }),
})

export type OldWiring = z.infer<typeof OldWiring>
export type Room = z.infer<typeof Room>
export type RelayModule = z.infer<typeof RelayModule>
export type PinChoice = z.infer<typeof PinChoice>
export type Controller = z.infer<typeof Controller>
export type SelectorInput = z.infer<typeof SelectorInput>
export type MomentaryInput = z.infer<typeof MomentaryInput>
export type RockerInput = z.infer<typeof RockerInput>
export type ContactInput = z.infer<typeof ContactInput>
export type Input = z.infer<typeof Input>
export type Part = z.infer<typeof Part>
export type SupplyPlan = z.infer<typeof SupplyPlan>
export type Enclosure = z.infer<typeof Enclosure>
export type MainsFeed = z.infer<typeof MainsFeed>
export type MainsConductor = z.infer<typeof MainsConductor>
export type LowVoltageFeed = z.infer<typeof LowVoltageFeed>
export type Load = z.infer<typeof Load>
export type Acceptance = z.infer<typeof Acceptance>
export type Site = z.infer<typeof SiteShape>
