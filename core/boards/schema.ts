import { z } from 'zod'
import { PORTS, type Port } from './ports'

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
  startLevel: z
    .strictObject({
      level: z.enum(['low', 'high']),
      otherwise: z.string(),
      /** the board starts all the same: only timing or messages change */
      mild: z.boolean().optional(),
    })
    .optional(),
  /** Worked out for the pins of a boxed board: what it is wired to inside. */
  inBox: z.enum(['relay', 'switch', 'other']).optional(),
  /** It falls for under a microsecond when an analogue reading begins. */
  glitches: z.boolean().optional(),
  /** A line of the flash memory, free only where the firmware is written in its two-line mode. */
  freedBy: z.literal('two-line flash').optional(),
  /** A resistor that the board itself has at this pin, Ω. */
  boardPull: z.strictObject({ to: z.enum(['high', 'low']), ohms: z.number().positive() }).optional(),
  /** What the pin itself does between power and firmware. */
  startActivity: z.strictObject({ level: z.enum(['high', 'pulses']), ms: z.int().min(1), what: z.string() }).optional(),
  usedBy: z.array(OtherUse).optional(),
  /** Analogue readings fail while the radio is on. */
  analogueNeedsRadioOff: z.boolean().optional(),
})

export const PowerSpot = z.strictObject({
  kind: z.literal('power'),
  label: z.string().min(1).max(8),
  volts: z.number().nullable(),
  note: z.string().optional(),
})
export const Spot = z.discriminatedUnion('kind', [GpioSpot, PowerSpot])

/** A chip pin that is not brought out (or must not be used where it is). */
export const HiddenPin = z.strictObject({ gpio: z.int(), why: z.string() })

/**
 * Two pins that serve together: a serial port (first sends, second receives) or an I2C bus (first data, second clock).
 */
export const PinPair = z.strictObject({
  kind: z.enum(['serial', 'i2c']),
  first: z.int(),
  second: z.int(),
  /** pairs of one kind with one number are one port, on one of them at a time */ unit: z
    .int()
    .min(0)
    .max(9)
    .optional(),
})

/** The regulator on the board that makes the logic volts. */
export const Regulator = z.strictObject({
  /** none: the board takes its logic volts at its supply pin */
  kind: z.enum(['linear', 'buck', 'none']),
  milliamps: z.number().positive(),
  degreesPerWatt: z.number().positive(),
})

/** The bytes of a frame, written in hexadecimal: "a5 01 01". */
const FrameBytes = z.string().regex(/^[0-9a-f]{2}( [0-9a-f]{2}){0,15}$/, 'bytes in hexadecimal, with blanks between')

/** What tells the relays of a box that a second chip works: a frame for each relay, to let go and to pull in. */
export const RelayFrames = z
  .strictObject({
    baud: z.int().min(1_200).max(115_200),
    relays: z
      .array(z.strictObject({ off: FrameBytes, on: FrameBytes }))
      .min(1)
      .max(8),
  })
  .refine(({ relays }) => new Set(relays.flatMap(({ off, on }) => [off.length, on.length])).size === 1, {
    message: 'all frames are of one length',
  })

/** A board and its relays in one box: these GPIO are wired inside and cannot serve anything else. */
export const Boxed = z.strictObject({
  relays: z.array(z.int()),
  switches: z.array(z.int()),
  /** gpio: relays hang on pins; serial: they are told over the serial line, on which the log must be silent */
  relaysBy: z.enum(['gpio', 'serial']),
  /** how they are told over the serial line; not said: nobody has read it off yet */
  frames: RelayFrames.optional(),
  /** level that pulls its relays in; not said: high */
  active: z.enum(['low', 'high']).optional(),
  /**
   * Not programmed by its maker's hand: what it does is said by parameters, from whatever hub it is in. `switches`: the
   * value for each kind of switch. Not said: it is programmed.
   */
  parameters: z
    .strictObject({
      number: z.int().min(0).max(255),
      what: z.string().trim().min(1).max(60),
      switches: z.strictObject({ momentary: z.int(), follow: z.int(), flip: z.int() }),
    })
    .optional(),
  /** how one tells it from another revision under the same name */
  marks: z.array(z.string().trim().min(1).max(200)).max(6).optional(),
  /** external switches can be relied on */
  externalSwitches: z.boolean(),
  note: z.string(),
  /** what each of its relays may switch, as printed; not said: nobody knows */
  contact: z.strictObject({ amps: z.number().positive(), volts: z.number().positive() }).optional(),
  /** terminals by what is printed at them: one for each relay, in the order of `relays`, and one for each switch */
  outputs: z.array(z.string().min(1).max(12)).optional(),
  switchInputs: z.array(z.string().min(1).max(12)).optional(),
  /** its switch terminals stand at mains potential: a switch goes to the line, and takes mains wire */
  switchesAtMains: z.boolean().optional(),
})

export const BoardProfile = z
  .strictObject({
    id: z.string().regex(/^[a-z0-9-]{1,40}$/, 'an id is 1 to 40 of a-z, 0-9 and -'),
    name: z.string().trim().min(1).max(60),
    /** Where the numbers come from. */
    source: z.string().trim().min(1).max(200),
    logicVolts: z.union([z.literal(3.3), z.literal(5)]),
    link: z.enum(['wifi', 'none']),
    /** The firmware it is built with: a port of its own, or the one for boards with a core of their maker's. */
    port: z.enum(Object.keys(PORTS) as [Port, ...Port[]]),
    /** mA from one output pin: recommended and absolute; and from all pins together. */
    pinMilliamps: z.strictObject({
      recommended: z.number().positive(),
      absolute: z.number().positive(),
      total: z.number().positive(),
    }),
    internalPullKiloohms: z.strictObject({ least: z.number().positive(), most: z.number().positive() }),
    /** What the board itself draws at its supply pin, mA: with the radio idle, and in its peaks. */
    drawMilliamps: z.strictObject({ idle: z.number().min(0), peak: z.number().min(0) }),
    regulator: Regulator,
    /** ms from power until the firmware writes its outputs. */
    firmwareAfterMs: z.int().min(1).max(60_000),
    /** Writes that the store for the last states stands, over its life. */
    storeEndurance: z.number().positive(),
    left: z.array(Spot).max(40),
    right: z.array(Spot).max(40),
    hidden: z.array(HiddenPin).max(40),
    /** Pins that serve as pairs; matrix: any two pins can. */
    pairs: z.union([z.literal('matrix'), z.array(PinPair).max(12)]),
    boxed: Boxed.nullable(),
    /**
     * What the board has of its own: a light, with the level that lights it, and a button, with the level that it gives
     * when pressed and what is printed at it.
     */
    own: z
      .strictObject({
        light: z.strictObject({ gpio: z.int(), lit: z.enum(['low', 'high']) }).optional(),
        button: z
          .strictObject({ gpio: z.int(), pressed: z.enum(['low', 'high']), label: z.string().min(1).max(12) })
          .optional(),
      })
      .optional(),
    /**
     * What the board package must be told: flash, partition, speed. Empty: nothing to choose, or a board of a maker's
     * own.
     */
    settings: z
      .array(z.strictObject({ name: z.string().trim().min(1).max(40), value: z.string().trim().min(1).max(200) }))
      .max(12)
      .default([]),
    /** How to bring the board into programming, and what to look at on the first start. */
    programming: z.array(z.string()).max(20),
    /** what its supply pin takes, V; not said: 4.5 to 5.5 */
    supplyVolts: z.strictObject({ least: z.number().positive(), most: z.number().positive() }).optional(),
    /** what to look at on the board in hand, since another of the same name may differ */
    check: z.array(z.string().trim().min(1).max(200)).max(12).optional(),
    /** serial ports of the chip, the log's among them, where any pins can carry one; not said: nobody has counted */
    serialPorts: z.int().min(1).max(8).optional(),
    /** part of its volts from which an input reads high; not said: 0.7 */
    inputHigh: z.number().min(0.3).max(0.9).optional(),
    /** mA that its 3.3 V pin gives to others, where its logic is at 5 V */
    lowRailMilliamps: z.number().positive().optional(),
  })
  .superRefine((board, context) => {
    const seen = new Map<string, string>()
    for (const row of ['left', 'right'] as const) {
      for (const [i, spot] of board[row].entries()) {
        if (spot.kind !== 'gpio') continue
        for (const key of [`label ${spot.label.toUpperCase()}`, `GPIO ${spot.gpio}`]) {
          if (seen.has(key))
            context.addIssue({
              code: 'custom',
              path: [row, i, key.startsWith('label') ? 'label' : 'gpio'],
              message: `${key} stands twice on this board`,
            })
          seen.set(key, key)
        }
      }
    }
    if (seen.size === 0)
      context.addIssue({ code: 'custom', path: ['left'], message: 'a board needs at least one GPIO pin' })
  })

export type Capability = z.infer<typeof Capability>
export type GpioSpot = z.infer<typeof GpioSpot>
export type PowerSpot = z.infer<typeof PowerSpot>
export type Spot = z.infer<typeof Spot>
export type BoardProfile = z.infer<typeof BoardProfile>
export type BoardSetting = BoardProfile['settings'][number]
