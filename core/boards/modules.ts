import { z } from 'zod'

/**
 * Profiles of what stands beside a board: relay modules, sensors, links, supplies. A maker can add and correct them.
 */

const id = z.string().regex(/^[a-z0-9-]{1,40}$/, 'an id is 1 to 40 of a-z, 0-9 and -')
const head = { id, name: z.string().trim().min(1).max(60), source: z.string().trim().min(1).max(200) }
const milliamps = z.number().min(0).max(100_000)
/** what to look at on the part in hand, since another of the same name may differ */
const toCheck = { check: z.array(z.string().trim().min(1).max(200)).max(12).optional() }

/** What a signal of a part asks of a pin. Two signals with the same pair stand on one pair of pins. */
export const SignalNeed = z.enum([
  'output',
  'input',
  'input-pull-up',
  'analogue',
  'pwm',
  'interrupt',
  'serial-tx',
  'serial-rx',
  'i2c-sda',
  'i2c-scl',
])
export const Signal = z.strictObject({
  id: z.string().regex(/^[a-z0-9-]{1,12}$/),
  need: SignalNeed,
  volts: z.union([z.literal(3.3), z.literal(5)]),
})

export const RelayProfile = z.strictObject({
  kind: z.literal('relay-module'),
  ...head,
  ways: z.int().min(1).max(16),
  input: z.enum(['opto', 'transistor']),
  active: z.enum(['low', 'high']),
  coilVolts: z.union([z.literal(5), z.literal(12)]),
  coilOhms: z.number().positive(),
  coilJumper: z.boolean(),
  contactAmps: z.number().positive(),
  contactVolts: z.number().positive(),
})

const said = z
  .string()
  .trim()
  .min(1)
  .max(60)
  .regex(/^[ -~]*$/, 'a command has plain characters only')

/** A command with places in braces, of which each that is named must stand in it once. */
const command = (...places: readonly string[]) =>
  said.refine(
    (text) => (text.match(/\{[^}]*\}/g) ?? []).sort().join() === [...places].sort().join(),
    places.length ? `write ${places.join(' and ')} once each, and no other place in braces` : 'no place in braces here',
  )

/**
 * How a modem opens a connection and moves bytes over it: each maker's own, from the data sheet. How it joins the
 * network is standard (ITU-T V.250, 3GPP TS 27.007).
 */
export const ModemDialogue = z.strictObject({
  baud: z.union([z.literal(9_600), z.literal(19_200), z.literal(38_400), z.literal(57_600)]),
  open: command('{address}', '{port}'),
  /** lines of the modem, by how they begin */
  opened: command(),
  send: command('{length}'),
  /** what asks for the bytes */
  prompt: command(),
  sent: command(),
  /** the line whose last number says how many bytes come behind it */
  arrives: command(),
  close: command(),
  closed: command(),
  /** bytes in one go */
  most: z.int().min(16).max(1_460),
})
export type ModemDialogue = z.infer<typeof ModemDialogue>

export const PartProfile = z.strictObject({
  kind: z.literal('part'),
  ...head,
  signals: z.array(Signal).min(1).max(12),
  /** none: it has no supply wire, as a bare contact, a lamp or a sounder on its pin */
  rail: z.enum(['logic', '5V', 'own', 'none']),
  /** volts that its supply may have; not said: those of its rail */
  supplyVolts: z.strictObject({ least: z.number().positive(), most: z.number().positive() }).optional(),
  /** what it draws from its signal pin, mA, where it hangs on that alone */
  pinMilliamps: milliamps.optional(),
  /** its own pull on the signals that ask for a pull-up, or on its bus, Ω; not said: none, one is fitted */
  pullOhms: z.number().positive().optional(),
  ...toCheck,
  draw: z.strictObject({ idle: milliamps, peak: milliamps }),
  /** a burst of the peak, ms; 0: none */
  burstMs: z.number().min(0).max(10_000),
  /** an expander gives this many pins */
  gives: z
    .strictObject({ pins: z.int().min(1).max(64), can: z.array(z.enum(['output', 'input', 'pull-up'])) })
    .nullable(),
  /** a modem: what it is told on its serial line */
  dialogue: ModemDialogue.optional(),
})

export const SupplyProfile = z.strictObject({
  kind: z.literal('supply'),
  ...head,
  /** source: from mains or USB; converter: from another rail */
  role: z.enum(['source', 'converter']),
  type: z.enum(['usb-port', 'charger', 'negotiating-charger', 'boxed', 'buck', 'linear']),
  volts: z.number().positive().max(48),
  milliamps: milliamps,
  /** 0..1; a linear converter's follows from its volts */
  efficiency: z.number().min(0.1).max(1),
  degreesPerWatt: z.number().positive().nullable(),
})

export const FanProfile = z.strictObject({
  kind: z.literal('fan-regulator'),
  ...head,
  contacts: z.int().min(2).max(4),
  /** closed contacts of each level from 0 */
  patterns: z
    .array(z.array(z.int().min(0).max(3)))
    .min(2)
    .max(9),
  /** contacts that must never be closed together */
  never: z.array(z.array(z.int().min(0).max(3)).min(2)),
  gapMs: z.int().min(0).max(1000),
  /** µF in series with each contact; null: straight through */
  capacitors: z.array(z.number().positive().max(100).nullable()).max(4).optional(),
})

export const StrikeProfile = z.strictObject({
  kind: z.literal('strike'),
  ...head,
  behaviour: z.enum(['fail-safe', 'fail-secure-held', 'fail-secure-memory']),
  volts: z.union([z.literal(12), z.literal(24)]),
  milliamps,
  pulseMs: z.int().min(50).max(10_000),
})

/** Ratings by utilisation category, IEC 60947-4-1. */
export const ContactorProfile = z.strictObject({
  kind: z.literal('contactor'),
  ...head,
  /** A of resistive loads, of motors, and of lamps and what has capacitors at its input */
  amps: z.strictObject({
    resistive: z.number().positive(),
    motor: z.number().positive(),
    lamps: z.number().positive(),
  }),
  contactVolts: z.number().positive(),
  /** VA that its coil draws when it pulls in, and then */
  coil: z.strictObject({ pullIn: z.number().positive(), hold: z.number().positive() }),
})

export const ModuleProfile = z.discriminatedUnion('kind', [
  RelayProfile,
  PartProfile,
  SupplyProfile,
  FanProfile,
  StrikeProfile,
  ContactorProfile,
])
export type Signal = z.infer<typeof Signal>
export type SignalNeed = z.infer<typeof SignalNeed>
export type RelayProfile = z.infer<typeof RelayProfile>
export type PartProfile = z.infer<typeof PartProfile>
export type SupplyProfile = z.infer<typeof SupplyProfile>
export type FanProfile = z.infer<typeof FanProfile>
export type StrikeProfile = z.infer<typeof StrikeProfile>
export type ContactorProfile = z.infer<typeof ContactorProfile>
export type ModuleProfile = z.infer<typeof ModuleProfile>
