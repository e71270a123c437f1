import type {
  Channel,
  FeedChannel,
  Input,
  PairedChannel,
  PowerUp,
  PulsedChannel,
  SteppedChannel,
  SwitchedChannel,
} from '../../../core/site'
import { waitsAtPowerUp } from '../../../core/site'
import { Fields, fieldsOf, type FieldRow } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId, type Change } from '../../store/useChange'

/** What only some kinds of channel have: one list of fields a kind. */

const powerUpOf = (policy: PowerUp['policy']): PowerUp =>
  policy === 'service' || policy === 'timetable' ? { policy, waitMs: 15_000, otherwise: 'off' } : { policy }
const seconds = (ms: number | null): string => (ms === null ? '' : String(ms / 1000))
const toMs = (text: string): number | null => (text.trim() === '' ? null : Math.round(Number(text) * 1000))
const secondsCheck = (text: string): string | null =>
  text.trim() === '' || (/^\d+(\.\d+)?$/.test(text.trim()) && Number(text) >= 0.1 && Number(text) <= 1_000_000)
    ? null
    : 'seconds from 0.1, or empty'
const inSeconds = { mono: true, unit: 's', check: secondsCheck } as const
const needsWord = (text: string): string | null => (text.trim() ? null : 'enter a word')

type Lasting = SwitchedChannel | SteppedChannel
const lasting = fieldsOf<Lasting>()
const LASTING = [
  lasting.choice(
    'After a power cut',
    {
      read: (channel) => channel.powerUp.policy,
      write: (channel, policy) => {
        channel.powerUp = powerUpOf(policy)
      },
    },
    [
      ['off', 'off'],
      ['on', 'on'],
      ['last', 'last state'],
      ['wall', 'as the rocker is set'],
      ['service', "the service's value"],
      ['timetable', 'as its schedule says'],
    ],
  ),
  lasting.number(
    'Wait',
    {
      read: ({ powerUp }) => (waitsAtPowerUp(powerUp) ? powerUp.waitMs : 0),
      write: ({ powerUp }, waitMs) => {
        if (waitsAtPowerUp(powerUp)) powerUp.waitMs = waitMs
      },
    },
    {
      what: 'wait at power-up',
      unit: 'ms',
      least: 100,
      most: 600_000,
      when: ({ powerUp }) => waitsAtPowerUp(powerUp),
    },
  ),
  lasting.choice(
    'Else',
    {
      read: ({ powerUp }) => (waitsAtPowerUp(powerUp) ? (powerUp.otherwise ?? 'none') : 'none'),
      write: ({ powerUp }, otherwise) => {
        if (waitsAtPowerUp(powerUp)) powerUp.otherwise = otherwise === 'none' ? null : otherwise
      },
    },
    [
      ['none', 'not chosen'],
      ['off', 'off'],
      ['last', 'last state'],
    ],
    { what: 'second choice', when: ({ powerUp }) => waitsAtPowerUp(powerUp) },
  ),
  lasting.tick(
    'Runs missed schedules',
    {
      read: ({ catchUp }) => catchUp === true,
      write: (channel, catchUp) => {
        if (catchUp) channel.catchUp = true
        else delete channel.catchUp
      },
    },
    { what: 'catching up' },
  ),
  lasting.text(
    'Turns off after',
    {
      read: (channel) => seconds(channel.maxOnMs),
      write: (channel, text) => {
        channel.maxOnMs = toMs(text)
      },
    },
    { what: 'time limit', ...inSeconds },
  ),
  lasting.text(
    'Minimum time off',
    {
      read: (channel) => seconds(channel.minOffMs),
      write: (channel, text) => {
        channel.minOffMs = toMs(text)
      },
    },
    { what: 'minimum time off', ...inSeconds },
  ),
]

const NO_DOOR = 'not-said'
const BARE_DOOR = { place: 'outside', closesUnattended: false, warningDevice: false } as const
const pulsed = fieldsOf<PulsedChannel>()
const pulsedFields = (contacts: readonly Input[]): readonly FieldRow<PulsedChannel>[] => [
  pulsed.number('Pulse', 'pulseMs', { unit: 'ms', least: 50, most: 10_000 }),
  pulsed.number('Ignores commands after it for', 'lockoutMs', { what: 'lockout', unit: 'ms', least: 0, most: 600_000 }),
  pulsed.choice(
    'Position contact',
    {
      read: (channel) => (channel.contact ?? '') as string,
      write: (channel, id) => {
        channel.contact = (id || null) as PulsedChannel['contact']
      },
    },
    [['', 'none'], ...contacts.map((input) => [input.id as string, input.name] as const)],
  ),
  pulsed.choice(
    'Contact closed means',
    'contactMeans',
    [
      ['closed', 'the door is closed'],
      ['open', 'the door is open'],
    ],
    { what: 'meaning of the contact', when: (channel) => channel.contact !== null },
  ),
  pulsed.choice(
    'Opens',
    {
      read: (channel) => channel.door?.lock ?? NO_DOOR,
      write: (channel, lock) => {
        channel.door = lock === NO_DOOR ? null : { ...BARE_DOOR, ...channel.door, lock }
      },
    },
    [
      [NO_DOOR, 'not chosen'],
      ['none', 'an operator, no lock'],
      ['fail-secure', 'a fail-secure strike'],
      ['fail-safe', 'a fail-safe strike'],
    ],
  ),
  pulsed.choice(
    'Door',
    {
      read: (channel) => channel.door?.place ?? BARE_DOOR.place,
      write: (channel, place) => {
        if (channel.door) channel.door.place = place
      },
    },
    [
      ['outside', 'an outside door'],
      ['escape', 'an escape door'],
      ['inside', 'inside'],
    ],
    { what: 'place', when: (channel) => channel.door !== null },
  ),
  pulsed.tick('May close unattended', doorFlag('closesUnattended'), {
    what: 'unattended closing',
    when: (channel) => channel.door !== null,
  }),
  pulsed.tick('Warning light or sounder', doorFlag('warningDevice'), {
    what: 'warning device',
    when: (channel) => channel.door !== null,
  }),
  pulsed.note(
    'Doors, gates and locks: local code decides; obstruction detection and a way out by hand are needed in any case.',
    { place: 'col-span-3' },
  ),
]

function doorFlag(flag: 'closesUnattended' | 'warningDevice') {
  return {
    read: (channel: PulsedChannel) => channel.door?.[flag] ?? false,
    write: (channel: PulsedChannel, value: boolean) => {
      if (channel.door) channel.door[flag] = value
    },
  }
}

const paired = fieldsOf<PairedChannel>()
const label = (output: 0 | 1) => ({
  read: (channel: PairedChannel) => channel.labels[output],
  write: (channel: PairedChannel, word: string) => {
    channel.labels[output] = word
  },
})
const PAIRED = [
  paired.text('Output 1 does', label(0), { what: 'first direction', check: needsWord }),
  paired.text('Output 2 does', label(1), { what: 'second direction', check: needsWord }),
  paired.number('Dead time between', 'deadMs', { what: 'dead time', unit: 'ms', least: 100, most: 10_000 }),
  paired.text(
    'Stops after',
    {
      read: (channel) => seconds(channel.runMs),
      write: (channel, text) => {
        channel.runMs = toMs(text)
      },
    },
    { what: 'running time', ...inSeconds },
  ),
]

const FEED = [
  fieldsOf<FeedChannel>().note(
    'Closed after a power cut and while the hub is online, so that its lamps have power. With the hub offline its own switch works it.',
    { place: 'col-span-3' },
  ),
]

/** The fields of each kind; a stepped channel has more, with its levels (SteppedFields). */
const FIELDS: Record<Channel['kind'], (contacts: readonly Input[]) => readonly FieldRow<never>[]> = {
  switched: () => LASTING as readonly FieldRow<never>[],
  stepped: () => LASTING as readonly FieldRow<never>[],
  pulsed: (contacts) => pulsedFields(contacts) as readonly FieldRow<never>[],
  paired: () => PAIRED as readonly FieldRow<never>[],
  feed: () => FEED as readonly FieldRow<never>[],
}

/** Changes of a channel while it is of the kind that the fields are for. */
export const useChannelChange = <C extends Channel>(channel: C): Change<C> =>
  useChange(channel.name, (draft) => {
    const target = withId(draft.channels, channel.id)
    return target?.kind === channel.kind ? (target as C) : undefined
  })

/** What only this kind of channel is asked. */
export function KindFields({ channel }: { channel: Channel }) {
  const contacts = useAppSelector((state) => state.site.site!.inputs).filter(
    (input) => input.controller === channel.controller && input.kind === 'contact',
  )
  const change = useChannelChange(channel)
  return <Fields rows={FIELDS[channel.kind](contacts)} of={channel as never} change={change as Change<never>} />
}
