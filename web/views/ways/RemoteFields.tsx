import { actionWords, keyOf, offeredActions, topLevel } from '../../../core/site'
import type { Channel, ChannelAction, Key, LinkWay, RemoteWay } from '../../../core/site'
import { Fields, fieldsOf } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId, type Change } from '../../store/useChange'

type Told = RemoteWay | LinkWay

const told = fieldsOf<Told>()
/** What a key or a character does to its channel: what the channel offers, and what stands there now. */
function deedFields(way: Told, channel: Channel) {
  const offered = offeredActions(channel).map(({ action, words }) => [action as string, words] as const)
  const here = offered.some(([action]) => action === way.action)
  return [
    told.choice(
      'Action',
      {
        read: (target) => target.action as string,
        write: (target, action) => {
          target.action = action as Told['action']
          target.level = action === 'level' ? (target.level ?? 1) : null
        },
      },
      here ? offered : [...offered, [way.action as string, actionWords(channel, way.action as ChannelAction)]],
      { what: 'action' },
    ),
    told.number(
      'Level',
      {
        read: (target) => target.level ?? 1,
        write: (target, level) => {
          target.level = level
        },
      },
      { least: 0, most: topLevel(channel), when: (target) => target.action === 'level' },
    ),
  ]
}

const key = fieldsOf<Key>()
/** What a key does while it is held. */
export const HELD_FIELDS = [
  key.choice(
    'When held',
    {
      read: ({ repeat }) => repeat.policy,
      write: (target, policy) => {
        target.repeat = policy === 'once' ? { policy } : { policy, everyMs: 400 }
      },
    },
    [
      ['once', 'once'],
      ['repeat', 'repeats'],
    ],
    { what: 'repeat' },
  ),
  key.number(
    'Every',
    {
      read: ({ repeat }) => (repeat.policy === 'repeat' ? repeat.everyMs : 0),
      write: (target, everyMs) => {
        target.repeat = { policy: 'repeat', everyMs }
      },
    },
    { what: 'repeat time', unit: 'ms', least: 50, most: 5_000, when: ({ repeat }) => repeat.policy === 'repeat' },
  ),
]

const useWayChange = <W extends Told>(way: W, channel: Channel): Change<W> =>
  useChange(channel.name, (draft) => {
    const target = withId(draft.ways, way.id)
    return target?.kind === way.kind ? (target as W) : undefined
  })

/** Changes of a key of a remote. */
export const useKeyChange = (remote: string, of: Key): Change<Key> =>
  useChange(`“${of.name}”`, (draft) => withId(withId(draft.remotes, remote)?.keys ?? [], of.id))

const remoteWay = fieldsOf<RemoteWay>()

export function RemoteFields({ way, channel }: { way: RemoteWay; channel: Channel }) {
  const site = useAppSelector((state) => state.site.site)!
  const remote = withId(site.remotes, way.remote)!
  const pressed = keyOf(site, way.remote, way.key)!
  const change = useWayChange(way, channel)
  const which = remoteWay.choice(
    `Key of ${remote.name}`,
    {
      read: (target) => target.key as string,
      write: (target, id) => {
        target.key = id as RemoteWay['key']
      },
    },
    remote.keys.map((one) => [one.id as string, one.name] as const),
    { what: 'other key' },
  )
  return (
    <div className="grid grid-cols-2 gap-2">
      <Fields rows={[which]} of={way} change={change} />
      <Fields rows={deedFields(way, channel)} of={way} change={change as Change<Told>} />
      <Fields rows={HELD_FIELDS} of={pressed} change={useKeyChange(way.remote, pressed)} />
    </div>
  )
}

const CHARACTER = fieldsOf<LinkWay>().text('Character', 'char', {
  mono: true,
  check: (text) => (/^[!-~]$/.test(text) ? null : 'one printable character'),
})

export function LinkFields({ way, channel }: { way: LinkWay; channel: Channel }) {
  const change = useWayChange(way, channel)
  return (
    <div className="grid grid-cols-2 gap-2">
      <Fields rows={[CHARACTER]} of={way} change={change} />
      <Fields rows={deedFields(way, channel)} of={way} change={change as Change<Told>} />
    </div>
  )
}
