import { z } from 'zod'
import { ChannelId, ControllerId, InputId, LoadId, RoomId } from './ids'
import { LONGEST_MS } from './limits'
import { milliseconds, name } from './shapes'

/** A policy that waits for somebody to say what holds. */
const waitingShape = {
  waitMs: milliseconds(100, 600_000),
  /** Second choice when nobody says it in time; null: none stated (finding B04), compiled as off. */
  otherwise: z.enum(['off', 'last']).nullable(),
}

export const PowerUp = z.discriminatedUnion('policy', [
  z.strictObject({ policy: z.literal('off') }),
  z.strictObject({ policy: z.literal('on') }),
  z.strictObject({ policy: z.literal('last') }),
  z.strictObject({ policy: z.literal('wall') }),
  z.strictObject({ policy: z.literal('service'), ...waitingShape }),
  /** what the last schedule of the channel gives, as soon as the clock is known */
  z.strictObject({ policy: z.literal('timetable'), ...waitingShape }),
])

const channelShape = {
  id: ChannelId,
  name,
  controller: ControllerId,
  room: RoomId.nullable(),
  load: LoadId.nullable(),
  /** Level that closes the relay. Inversion happens here, once, and nowhere else. */
  active: z.enum(['low', 'high']),
  /** Somebody must always be able to work it. */
  essential: z.boolean(),
  /** The relay of the module on which it begins, from 1; not said: the next that is free. */
  relay: z.int().min(1).max(16).optional(),
}

/**
 * What only channels have that stay as they are told. Pulsed and paired ones never act at power-up, so they have no
 * policy.
 */
const lastingShape = {
  maxOnMs: milliseconds(100, LONGEST_MS).nullable(),
  minOffMs: milliseconds(100, LONGEST_MS).nullable(),
  powerUp: PowerUp,
  /** The schedule that was missed while the clock was not known, in the last 24 h, is caught up; not said: no. */
  catchUp: z.boolean().optional(),
}

export const SwitchedChannel = z.strictObject({ kind: z.literal('switched'), ...channelShape, ...lastingShape })

const Contacts = z.array(z.int().min(0).max(3)).max(4)

/** Level 0 to L over several contacts, as a fan regulator has; remembers its last level. */
export const SteppedChannel = z
  .strictObject({
    kind: z.literal('stepped'),
    ...channelShape,
    ...lastingShape,
    contacts: z.int().min(1).max(4),
    /** Contacts that are closed at each level, level 0 first. */
    patterns: z.array(Contacts).min(2).max(9),
    /** Sets of contacts that must never be closed together. */
    never: z.array(Contacts).max(8),
    /**
     * µF in series with each contact, as a capacitor regulator has; null: straight through. Not said: no capacitors.
     */
    capacitors: z.array(z.number().positive().max(100).nullable()).max(4).optional(),
    /** Between opening and closing, ms. */
    gapMs: milliseconds(0, 1_000),
    /** `up` from the top goes to 0, `down` from 0 to the top. */
    wrap: z.boolean(),
    /** Level that `on` gives before there was any other. */
    onLevel: z.int().min(1).max(8),
  })
  .refine((c) => c.patterns[0]?.length === 0, { path: ['patterns', 0], message: 'level 0 closes nothing' })
  .refine((c) => c.patterns.every((pattern) => pattern.every((contact) => contact < c.contacts)), {
    path: ['patterns'],
    message: 'a pattern names a contact that the channel does not have',
  })
  .refine((c) => c.onLevel < c.patterns.length, { path: ['onLevel'], message: 'there is no such level' })

/** What a pulse works: a strike or an operator, and what must be known of it before it is left alone. */
export const Door = z.strictObject({
  /** fail-secure stays locked without power, fail-safe opens. */
  lock: z.enum(['none', 'fail-secure', 'fail-safe']),
  place: z.enum(['outside', 'escape', 'inside']),
  /** Closes by itself, or by a command from where nobody sees it. */
  closesUnattended: z.boolean(),
  warningDevice: z.boolean(),
})

/** Closes for a set time: a strike, a door opener. */
export const PulsedChannel = z.strictObject({
  kind: z.literal('pulsed'),
  ...channelShape,
  pulseMs: milliseconds(50, 10_000),
  lockoutMs: milliseconds(0, 600_000),
  /** Position sensor whose contact is the true state; null: nobody knows whether the door moved. */
  contact: InputId.nullable(),
  /** What a closed position contact says. */
  contactMeans: z.enum(['closed', 'open']),
  door: Door.nullable(),
})

/** Two outputs that are never on together: a shutter up and down. */
export const PairedChannel = z.strictObject({
  kind: z.literal('paired'),
  ...channelShape,
  /** What output a and output b do, as a person says it. */
  labels: z.tuple([name, name]),
  deadMs: milliseconds(100, 10_000),
  runMs: milliseconds(100, 600_000).nullable(),
})

/**
 * Feeds smart lamps and normally stays closed; its switch speaks to the hub, and works the relay itself when the hub is
 * gone.
 */
export const FeedChannel = z.strictObject({ kind: z.literal('feed'), ...channelShape })

/** One switched thing. */
export const Channel = z.discriminatedUnion('kind', [
  SwitchedChannel,
  SteppedChannel,
  PulsedChannel,
  PairedChannel,
  FeedChannel,
])

export type PowerUp = z.infer<typeof PowerUp>
export type SwitchedChannel = z.infer<typeof SwitchedChannel>
export type SteppedChannel = z.infer<typeof SteppedChannel>
export type PulsedChannel = z.infer<typeof PulsedChannel>
export type PairedChannel = z.infer<typeof PairedChannel>
export type FeedChannel = z.infer<typeof FeedChannel>
export type Door = z.infer<typeof Door>
export type Channel = z.infer<typeof Channel>
