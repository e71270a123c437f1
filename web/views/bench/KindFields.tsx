import type {
  Channel,
  PairedChannel,
  PowerUp,
  PulsedChannel,
  SteppedChannel,
  SwitchedChannel,
} from '../../../core/site'
import { ChoiceField, NumberField, TextField, TickField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector, type Thunk } from '../../store/store'

/** What only some kinds of channel have. */

const powerUpOf = (policy: PowerUp['policy']): PowerUp =>
  policy === 'service' ? { policy, waitMs: 15_000, otherwise: 'off' } : { policy }
const seconds = (ms: number | null): string => (ms === null ? '' : String(ms / 1000))
const toMs = (text: string): number | null => (text.trim() === '' ? null : Math.round(Number(text) * 1000))
const secondsCheck = (text: string): string | null =>
  text.trim() === '' || (/^\d+(\.\d+)?$/.test(text.trim()) && Number(text) >= 0.1 && Number(text) <= 1_000_000)
    ? null
    : 'seconds from 0.1, or nothing'

const changeOf = <K extends Channel['kind']>(
  channel: Channel,
  kind: readonly K[],
  label: string,
  mutate: (channel: Extract<Channel, { kind: K }>) => void,
): Thunk =>
  edit(`${channel.name}: ${label}`, (draft) => {
    const target = draft.channels.find((candidate) => candidate.id === channel.id)
    if (target && (kind as readonly string[]).includes(target.kind)) mutate(target as Extract<Channel, { kind: K }>)
  })

export function LastingFields({ channel }: { channel: SwitchedChannel | SteppedChannel }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (channel: SwitchedChannel | SteppedChannel) => void) =>
    dispatch(changeOf(channel, ['switched', 'stepped'], label, mutate))
  const { powerUp } = channel
  return (
    <>
      <ChoiceField
        label="After a power cut"
        value={powerUp.policy}
        choices={[
          ['off', 'off'],
          ['on', 'on'],
          ['last', 'as it was'],
          ['wall', 'as the rocker stands'],
          ['service', "the service's value"],
        ]}
        onKeep={(policy) =>
          change('after a power cut', (c) => {
            c.powerUp = powerUpOf(policy)
          })
        }
      />
      {powerUp.policy === 'service' && (
        <>
          <NumberField
            label="Wait"
            unit="ms"
            value={powerUp.waitMs}
            least={100}
            most={600_000}
            onKeep={(waitMs) =>
              change('wait for the service', (c) => {
                if (c.powerUp.policy === 'service') c.powerUp.waitMs = waitMs
              })
            }
          />
          <ChoiceField
            label="Else"
            value={powerUp.otherwise ?? 'none'}
            choices={[
              ['none', 'not said'],
              ['off', 'off'],
              ['last', 'as it was'],
            ]}
            onKeep={(otherwise) =>
              change('second choice', (c) => {
                if (c.powerUp.policy === 'service') c.powerUp.otherwise = otherwise === 'none' ? null : otherwise
              })
            }
          />
        </>
      )}
      <TextField
        mono
        label="Off by itself after"
        unit="s"
        value={seconds(channel.maxOnMs)}
        check={secondsCheck}
        onKeep={(text) =>
          change('time limit', (c) => {
            c.maxOnMs = toMs(text)
          })
        }
      />
      <TextField
        mono
        label="Stays off at least"
        unit="s"
        value={seconds(channel.minOffMs)}
        check={secondsCheck}
        onKeep={(text) =>
          change('least time off', (c) => {
            c.minOffMs = toMs(text)
          })
        }
      />
    </>
  )
}

const NO_DOOR = 'not-said'

export function PulsedFields({ channel }: { channel: PulsedChannel }) {
  const dispatch = useAppDispatch()
  const inputs = useAppSelector((state) => state.site.site!.inputs).filter(
    (input) => input.controller === channel.controller && input.kind === 'contact',
  )
  const change = (label: string, mutate: (channel: PulsedChannel) => void) =>
    dispatch(changeOf(channel, ['pulsed'], label, mutate))
  const { door } = channel
  const changeDoor = (label: string, mutate: (door: NonNullable<PulsedChannel['door']>) => void) =>
    change(label, (c) => {
      if (c.door) mutate(c.door)
    })
  return (
    <>
      <NumberField
        label="Pulse"
        unit="ms"
        value={channel.pulseMs}
        least={50}
        most={10_000}
        onKeep={(ms) =>
          change('pulse', (c) => {
            c.pulseMs = ms
          })
        }
      />
      <NumberField
        label="Deaf after it"
        unit="ms"
        value={channel.lockoutMs}
        least={0}
        most={600_000}
        onKeep={(ms) =>
          change('lockout', (c) => {
            c.lockoutMs = ms
          })
        }
      />
      <ChoiceField
        label="Position contact"
        value={(channel.contact ?? '') as string}
        choices={[['', 'none'], ...inputs.map((input) => [input.id as string, input.name] as const)]}
        onKeep={(id) =>
          change('position contact', (c) => {
            c.contact = (id || null) as PulsedChannel['contact']
          })
        }
      />
      {channel.contact && (
        <ChoiceField
          label="Contact closed means"
          value={channel.contactMeans}
          choices={[
            ['closed', 'the door is closed'],
            ['open', 'the door is open'],
          ]}
          onKeep={(means) =>
            change('meaning of the contact', (c) => {
              c.contactMeans = means
            })
          }
        />
      )}
      <ChoiceField
        label="What it works"
        value={door?.lock ?? NO_DOOR}
        choices={[
          [NO_DOOR, 'not said'],
          ['none', 'an operator, no lock'],
          ['fail-secure', 'a fail-secure strike'],
          ['fail-safe', 'a fail-safe strike'],
        ]}
        onKeep={(lock) =>
          change('what it works', (c) => {
            c.door =
              lock === NO_DOOR
                ? null
                : {
                    lock: lock as 'none',
                    place: c.door?.place ?? 'outside',
                    closesUnattended: c.door?.closesUnattended ?? false,
                    warningDevice: c.door?.warningDevice ?? false,
                  }
          })
        }
      />
      {door && (
        <>
          <ChoiceField
            label="Where"
            value={door.place}
            choices={[
              ['outside', 'an outside door'],
              ['escape', 'an escape door'],
              ['inside', 'inside'],
            ]}
            onKeep={(place) =>
              changeDoor('place', (d) => {
                d.place = place
              })
            }
          />
          <TickField
            label="May close with nobody looking"
            value={door.closesUnattended}
            onKeep={(value) =>
              changeDoor('unattended closing', (d) => {
                d.closesUnattended = value
              })
            }
          />
          <TickField
            label="Warning light or sounder"
            value={door.warningDevice}
            onKeep={(value) =>
              changeDoor('warning device', (d) => {
                d.warningDevice = value
              })
            }
          />
        </>
      )}
      <p className="col-span-3 text-small text-soft">
        Doors, gates and locks: local code decides; obstruction detection and a way out by hand are needed in any case.
      </p>
    </>
  )
}

export function PairedFields({ channel }: { channel: PairedChannel }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (channel: PairedChannel) => void) =>
    dispatch(changeOf(channel, ['paired'], label, mutate))
  const noName = (text: string): string | null => (text.trim() ? null : 'a word is needed')
  return (
    <>
      <TextField
        label="Output 1 does"
        value={channel.labels[0]}
        check={noName}
        onKeep={(word) =>
          change('first direction', (c) => {
            c.labels[0] = word
          })
        }
      />
      <TextField
        label="Output 2 does"
        value={channel.labels[1]}
        check={noName}
        onKeep={(word) =>
          change('second direction', (c) => {
            c.labels[1] = word
          })
        }
      />
      <NumberField
        label="Dead time between"
        unit="ms"
        value={channel.deadMs}
        least={100}
        most={10_000}
        onKeep={(ms) =>
          change('dead time', (c) => {
            c.deadMs = ms
          })
        }
      />
      <TextField
        mono
        label="Stops by itself after"
        unit="s"
        value={seconds(channel.runMs)}
        check={secondsCheck}
        onKeep={(text) =>
          change('running time', (c) => {
            c.runMs = toMs(text)
          })
        }
      />
    </>
  )
}
