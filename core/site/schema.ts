import { z } from 'zod'
import { BoardProfile, ModuleProfile } from '../boards'
import { ChannelId, ControllerId, EntityId, HubId, InputId, LoadId, PartId, PointId, RoomId, ServiceId, SiteId, WayId, WidgetId } from './ids'
import { LONGEST_MS, SITE_VERSION } from './limits'

const name = z.string().trim().min(1, 'a name is needed').max(60, 'at most 60 characters')
const milliseconds = (least: number, most: number) => z.int().min(least).max(most)

export const Room = z.strictObject({ id: RoomId, name })

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
  /** Resistor in series with the opto's LED, Ω. */
  inputOhms: z.number().positive().max(100_000),
  /** Bare relays, without the module's own driver: what the maker fits to each. */
  driver: z.enum(['module', 'transistor-and-diode', 'transistor-only', 'none']),
  /** As printed on the relay. */
  contactAmps: z.number().positive().max(100),
  contactVolts: z.number().positive().max(1_000),
})

/** A part beside the board that takes pins: sensor, receiver, modem, expander. Its profile says which. */
export const Part = z.strictObject({ id: PartId, profile: z.string().min(1).max(40), name })

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
  conductors: z.array(z.strictObject({ awg: z.union([z.literal(18), z.literal(16), z.literal(14), z.literal(12), z.literal(10), z.literal(8), z.literal(6)]), count: z.int().min(0).max(200) })).max(7),
  internalClamps: z.boolean(),
  yokes: z.int().min(0).max(20),
  groundingConductors: z.int().min(0).max(40),
  moduleCubicCentimetres: z.number().min(0).max(100_000),
  breakerAmps: z.int().min(1).max(125),
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
  link: z.enum(['wifi', 'none']),
  /** Who wins after an outage; null: not stated (finding B06), compiled as local. */
  outage: z.enum(['local', 'service']).nullable(),
  staggerMs: milliseconds(0, 10_000),
  storeMs: milliseconds(100, 600_000),
  minReportMs: milliseconds(0, 60_000),
  heartbeatS: z.int().min(5).max(86_400),
  parts: z.array(Part).max(16),
  supply: SupplyPlan.nullable(),
  enclosure: Enclosure.nullable(),
  /** Role ("out:<channel>", "in:<input>" with ":n" for the contacts of a stepped channel or a selector, or "part:<part>:<signal>") to pin. */
  pins: z.record(z.string().regex(/^((out|in):[a-z0-9-]{1,24}(:[1-4])?|part:[a-z0-9-]{1,24}:[a-z0-9-]{1,12})$/), PinChoice),
})

export const PowerUp = z.discriminatedUnion('policy', [
  z.strictObject({ policy: z.literal('off') }),
  z.strictObject({ policy: z.literal('on') }),
  z.strictObject({ policy: z.literal('last') }),
  z.strictObject({ policy: z.literal('wall') }),
  z.strictObject({
    policy: z.literal('service'),
    waitMs: milliseconds(100, 600_000),
    /** Second choice when the service stays silent; null: none stated (finding B04), compiled as off. */
    otherwise: z.enum(['off', 'last']).nullable(),
  }),
])

const channelShape = {
  id: ChannelId,
  name,
  controller: ControllerId,
  room: RoomId.nullable(),
  load: LoadId.nullable(),
  /** Level that closes the relay. Inversion happens here, once, and nowhere else. */
  active: z.enum(['low', 'high']),
  maxOnMs: milliseconds(100, LONGEST_MS).nullable(),
  minOffMs: milliseconds(100, LONGEST_MS).nullable(),
  powerUp: PowerUp,
  /** Somebody must always be able to work it. */
  essential: z.boolean(),
}

export const SwitchedChannel = z.strictObject({ kind: z.literal('switched'), ...channelShape })

const Contacts = z.array(z.int().min(0).max(3)).max(4)

/** Level 0 to L over several contacts, as a fan regulator has; remembers its last level. */
export const SteppedChannel = z
  .strictObject({
    kind: z.literal('stepped'),
    ...channelShape,
    contacts: z.int().min(1).max(4),
    /** Contacts that are closed at each level, level 0 first. */
    patterns: z.array(Contacts).min(2).max(9),
    /** Sets of contacts that must never be closed together. */
    never: z.array(Contacts).max(8),
    /** Between opening and closing, ms. */
    gapMs: milliseconds(0, 1_000),
    /** `up` from the top goes to 0, `down` from 0 to the top. */
    wrap: z.boolean(),
    /** Level that `on` gives before there was any other. */
    onLevel: z.int().min(1).max(8),
  })
  .refine((c) => c.patterns[0]?.length === 0, { path: ['patterns', 0], message: 'level 0 closes nothing' })
  .refine((c) => c.patterns.every((pattern) => pattern.every((contact) => contact < c.contacts)), { path: ['patterns'], message: 'a pattern names a contact that the channel does not have' })
  .refine((c) => c.onLevel < c.patterns.length, { path: ['onLevel'], message: 'there is no such level' })

/** One switched thing. Pulsed, paired and feed join this union as they are built. */
export const Channel = z.discriminatedUnion('kind', [SwitchedChannel, SteppedChannel])

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
  /** Supply of the contact's circuit, volts. */
  volts: z.union([z.literal(3.3), z.literal(5)]),
}
export const MomentaryInput = z.strictObject({ kind: z.literal('momentary'), ...inputShape, holdMs: milliseconds(200, 10_000) })
export const RockerInput = z.strictObject({ kind: z.literal('rocker'), ...inputShape })
/** One to four contacts read as one code, each code looked up as a level. */
export const SelectorInput = z
  .strictObject({
    kind: z.literal('selector'),
    ...inputShape,
    bits: z.int().min(1).max(4),
    /** Level of each code, code 0 first (bit 1 counts 1, bit 2 counts 2 …); null: a code that the switch does not make. */
    table: z.array(z.int().min(0).max(8).nullable()).max(16),
  })
  .refine((input) => input.table.length === 2 ** input.bits, { path: ['table'], message: 'a table has one entry for each code: 2 for one bit, 4 for two, 8 for three, 16 for four' })
export const Input = z.discriminatedUnion('kind', [MomentaryInput, RockerInput, SelectorInput])

export const Load = z.strictObject({
  id: LoadId,
  name,
  type: z.enum(['led', 'incandescent', 'motor', 'heater', 'electronic', 'unknown']),
  watts: z.number().min(0).max(10_000),
  supply: z.enum(['mains', 'low-voltage']),
  /** The conductor that goes through the contact. */
  contact: z.enum(['line', 'neutral']),
  /** On for three hours or more at a time. */
  continuous: z.boolean(),
  suppression: z.enum(['none', 'snubber', 'varistor', 'diode']),
  /** A contactor between relay and load. */
  contactor: z.boolean(),
  /** Stands in the same box as another supply's conductors, without a barrier. */
  sharesBox: z.boolean(),
})

/** A service's virtual pin: one number that both ends hold. */
export const Point = z
  .strictObject({
    id: PointId,
    controller: ControllerId,
    vp: z.int().min(0).max(255),
    name,
    type: z.literal('integer'),
    min: z.int().min(-9_999).max(9_999),
    max: z.int().min(-9_999).max(9_999),
    step: z.int().min(1).max(9_999),
    default: z.int().min(-9_999).max(9_999),
    unit: z.string().max(8),
    /** As the app sees it. */
    access: z.enum(['read-write', 'read', 'write']),
  })
  .refine((p) => p.min < p.max, { path: ['max'], message: 'max must be above min' })
  .refine((p) => p.default >= p.min && p.default <= p.max, { path: ['default'], message: 'the default lies outside min to max' })

export const Widget = z.strictObject({
  id: WidgetId,
  name,
  kind: z.enum(['switch', 'push', 'slider', 'value']),
  point: PointId,
  inverted: z.boolean(),
})

export const DatapointService = z.strictObject({
  kind: z.literal('datapoint'),
  id: ServiceId,
  name,
  points: z.array(Point),
  widgets: z.array(Widget),
})
export const Service = z.discriminatedUnion('kind', [DatapointService])

export const Entity = z.strictObject({
  id: EntityId,
  channel: ChannelId,
  name,
  /** The topic level that stands for the channel; checked by finding M12, so that a file with a bad one can be opened and mended. */
  topic: z.string().min(1).max(200),
})
export const BrokerHub = z.strictObject({ kind: z.literal('broker'), id: HubId, name, entities: z.array(Entity) })
export const Hub = z.discriminatedUnion('kind', [BrokerHub])

/** How the state comes back along a way. */
export const Feedback = z.enum(['reports', 'silent', 'unknown'])

export const Gesture = z.enum(['press', 'release', 'hold', 'flip', 'follow', 'select'])
export const ChannelAction = z.enum(['on', 'off', 'toggle', 'up', 'down', 'follow', 'level'])
export const GestureBinding = z
  .strictObject({ gesture: Gesture, action: ChannelAction })
  .refine((b) => (b.gesture === 'follow') === (b.action === 'follow'), { message: 'the gesture follow goes with the action follow, and no other' })
  .refine((b) => (b.gesture === 'select') === (b.action === 'level'), { message: 'the gesture select goes with the action level, and no other' })

export const WallWay = z.strictObject({
  kind: z.literal('wall'),
  id: WayId,
  channel: ChannelId,
  input: InputId,
  bindings: z.array(GestureBinding).min(1).max(6),
})
export const AppWay = z.strictObject({ kind: z.literal('app'), id: WayId, channel: ChannelId, service: ServiceId, point: PointId, feedback: Feedback })
export const HubWay = z.strictObject({ kind: z.literal('hub'), id: WayId, channel: ChannelId, hub: HubId, entity: EntityId, feedback: Feedback })
export const Way = z.discriminatedUnion('kind', [WallWay, AppWay, HubWay])

/** A finding that the maker accepts with a reason; it lapses when the facts (the finding's `what`) change. */
export const Acceptance = z.strictObject({ finding: z.string(), where: z.string(), reason: z.string().trim().min(1).max(300), facts: z.string() })

export const SiteShape = z.strictObject({
  format: z.literal('vestibule-site'),
  version: z.literal(SITE_VERSION),
  id: SiteId,
  name,
  mains: z.strictObject({ volts: z.union([z.literal(120), z.literal(230)]), hertz: z.union([z.literal(50), z.literal(60)]) }),
  rooms: z.array(Room),
  controllers: z.array(Controller),
  channels: z.array(Channel),
  inputs: z.array(Input),
  loads: z.array(Load),
  services: z.array(Service),
  hubs: z.array(Hub),
  ways: z.array(Way),
  accepted: z.array(Acceptance),
  /** What a part costs, by its line in the parts list; in the maker's own money. */
  prices: z.record(z.string().max(200), z.number().min(0).max(100_000)),
  /** Board and module profiles that the maker has added or corrected. */
  profiles: z.strictObject({ boards: z.array(BoardProfile).max(50), modules: z.array(ModuleProfile).max(200) }),
})

export type Room = z.infer<typeof Room>
export type RelayModule = z.infer<typeof RelayModule>
export type PinChoice = z.infer<typeof PinChoice>
export type Controller = z.infer<typeof Controller>
export type PowerUp = z.infer<typeof PowerUp>
export type SteppedChannel = z.infer<typeof SteppedChannel>
export type SelectorInput = z.infer<typeof SelectorInput>
export type SwitchedChannel = z.infer<typeof SwitchedChannel>
export type Channel = z.infer<typeof Channel>
export type MomentaryInput = z.infer<typeof MomentaryInput>
export type RockerInput = z.infer<typeof RockerInput>
export type Input = z.infer<typeof Input>
export type Part = z.infer<typeof Part>
export type SupplyPlan = z.infer<typeof SupplyPlan>
export type Enclosure = z.infer<typeof Enclosure>
export type Load = z.infer<typeof Load>
export type Point = z.infer<typeof Point>
export type Widget = z.infer<typeof Widget>
export type Service = z.infer<typeof Service>
export type Entity = z.infer<typeof Entity>
export type Hub = z.infer<typeof Hub>
export type Feedback = z.infer<typeof Feedback>
export type Gesture = z.infer<typeof Gesture>
export type ChannelAction = z.infer<typeof ChannelAction>
export type GestureBinding = z.infer<typeof GestureBinding>
export type WallWay = z.infer<typeof WallWay>
export type AppWay = z.infer<typeof AppWay>
export type HubWay = z.infer<typeof HubWay>
export type Way = z.infer<typeof Way>
export type Acceptance = z.infer<typeof Acceptance>
export type Site = z.infer<typeof SiteShape>
