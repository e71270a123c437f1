import { CHANNEL_ACTIONS, keyOf, topLevel, type Channel, type LinkWay, type RemoteWay } from '../../../core/site'
import { ChoiceField, NumberField, TextField } from '../../parts/fields'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** Actions that a kind of channel knows, as choices. */
const KNOWN: Record<Channel['kind'], readonly string[]> = {
  switched: ['on', 'off', 'toggle'],
  stepped: ['on', 'off', 'toggle', 'up', 'down', 'level'],
  pulsed: ['pulse', 'open', 'close'],
  paired: ['a', 'b', 'stop', 'toggle'],
  feed: ['on', 'off', 'toggle'],
}

type Told = RemoteWay | LinkWay

/** What a key or a character does to its channel. */
export function DeedFields({ way, channel }: { way: Told; channel: Channel }) {
  const dispatch = useAppDispatch()
  const change = (label: string, mutate: (target: Told) => void) =>
    dispatch(
      edit(`${channel.name}: ${label}`, (draft) => {
        const target = draft.ways.find((w) => w.id === way.id)
        if (target?.kind === 'remote' || target?.kind === 'link') mutate(target)
      }),
    )
  const known = CHANNEL_ACTIONS.filter((action) => KNOWN[channel.kind].includes(action) || action === way.action)
  const named = (action: string): string =>
    channel.kind === 'paired' && action === 'a'
      ? channel.labels[0]
      : channel.kind === 'paired' && action === 'b'
        ? channel.labels[1]
        : action === 'level'
          ? 'set a level'
          : action
  return (
    <>
      <ChoiceField
        label="Does"
        value={way.action as string}
        choices={known.map((action) => [action as string, named(action)] as const)}
        onKeep={(action) =>
          change('action', (w) => {
            w.action = action as Told['action']
            w.level = action === 'level' ? (w.level ?? 1) : null
          })
        }
      />
      {way.action === 'level' && (
        <NumberField
          label="Level"
          value={way.level ?? 1}
          least={0}
          most={topLevel(channel)}
          onKeep={(level) =>
            change('level', (w) => {
              w.level = level
            })
          }
        />
      )}
    </>
  )
}

export function RemoteFields({ way, channel }: { way: RemoteWay; channel: Channel }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const remote = site.remotes.find((candidate) => candidate.id === way.remote)!
  const key = keyOf(site, way.remote, way.key)!
  const changeKey = (label: string, mutate: (target: typeof key) => void) =>
    dispatch(
      edit(`“${key.name}”: ${label}`, (draft) =>
        mutate(draft.remotes.find((r) => r.id === way.remote)!.keys.find((k) => k.id === key.id)!),
      ),
    )
  return (
    <div className="grid grid-cols-2 gap-2">
      <ChoiceField
        label={`Key of ${remote.name}`}
        value={way.key as string}
        choices={remote.keys.map((one) => [one.id as string, one.name] as const)}
        onKeep={(id) =>
          dispatch(
            edit(`${channel.name}: other key`, (draft) => {
              const target = draft.ways.find((w) => w.id === way.id)
              if (target?.kind === 'remote') target.key = id as RemoteWay['key']
            }),
          )
        }
      />
      <DeedFields way={way} channel={channel} />
      <ChoiceField
        label="Held on"
        value={key.repeat.policy}
        choices={[
          ['once', 'counts once'],
          ['repeat', 'again and again'],
        ]}
        onKeep={(policy) =>
          changeKey('repeat', (k) => {
            k.repeat = policy === 'once' ? { policy } : { policy, everyMs: 400 }
          })
        }
      />
      {key.repeat.policy === 'repeat' && (
        <NumberField
          label="Each"
          unit="ms"
          value={key.repeat.everyMs}
          least={50}
          most={5_000}
          onKeep={(everyMs) =>
            changeKey('repeat time', (k) => {
              k.repeat = { policy: 'repeat', everyMs }
            })
          }
        />
      )}
    </div>
  )
}

export function LinkFields({ way, channel }: { way: LinkWay; channel: Channel }) {
  const dispatch = useAppDispatch()
  return (
    <div className="grid grid-cols-2 gap-2">
      <TextField
        mono
        label="Character"
        value={way.char}
        check={(text) => (/^[!-~]$/.test(text) ? null : 'one printable character')}
        onKeep={(char) =>
          dispatch(
            edit(`${channel.name}: character ${char}`, (draft) => {
              const target = draft.ways.find((w) => w.id === way.id)
              if (target?.kind === 'link') target.char = char
            }),
          )
        }
      />
      <DeedFields way={way} channel={channel} />
    </div>
  )
}
