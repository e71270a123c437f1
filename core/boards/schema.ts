import { z } from 'zod'

/** What a pin can be used for. */
export const Capability = z.enum(['output', 'input', 'pull-up', 'pull-down', 'interrupt', 'pwm', 'analogue'])

/** Somebody else on the board who uses the pin. */
export const OtherUse = z.enum(['serial-log', 'serial-2', 'usb', 'flash', 'light', 'button'])

export const GpioSpot = z.strictObject({
  kind: z.literal('gpio'),
  /** What is printed beside the pin. */
  label: z.string().min(1).max(8),
  gpio: z.int().min(0).max(99),
  can: z.array(Capability),
  /** The level that the chip wants to see at this pin when it starts. */
  startLevel: z.strictObject({ level: z.enum(['low', 'high']), otherwise: z.string() }).optional(),
  /** What the pin itself does between power and firmware. */
  startActivity: z.strictObject({ level: z.enum(['high', 'pulses']), ms: z.int().min(1), what: z.string() }).optional(),
  usedBy: z.array(OtherUse).optional(),
  /** Analogue readings fail while the radio is on. */
  analogueNeedsRadioOff: z.boolean().optional(),
})

export const PowerSpot = z.strictObject({ kind: z.literal('power'), label: z.string().min(1).max(8), volts: z.number().nullable(), note: z.string().optional() })
export const Spot = z.discriminatedUnion('kind', [GpioSpot, PowerSpot])

/** A chip pin that is not brought out (or must not be used where it is). */
export const HiddenPin = z.strictObject({ gpio: z.int(), why: z.string() })

export const BoardProfile = z.strictObject({
  id: z.string(),
  name: z.string(),
  /** Where the numbers come from. */
  source: z.string(),
  logicVolts: z.union([z.literal(3.3), z.literal(5)]),
  link: z.enum(['wifi', 'none']),
  /** mA from one output pin: recommended and absolute. */
  pinMilliamps: z.strictObject({ recommended: z.number(), absolute: z.number() }),
  internalPullKiloohms: z.strictObject({ least: z.number(), most: z.number() }),
  left: z.array(Spot),
  right: z.array(Spot),
  hidden: z.array(HiddenPin),
  /** How to bring the board into programming, and what to look at on the first start. */
  programming: z.array(z.string()),
})

export type Capability = z.infer<typeof Capability>
export type GpioSpot = z.infer<typeof GpioSpot>
export type PowerSpot = z.infer<typeof PowerSpot>
export type Spot = z.infer<typeof Spot>
export type BoardProfile = z.infer<typeof BoardProfile>
