import {
  freshId,
  type Channel,
  type ChannelAction,
  type Key,
  type KeyId,
  type Remote,
  type RemoteId,
  type RemoteWay,
  type Site,
  type WayId,
  kindOf,
  actionWords,
  channelOf,
  groupOf,
} from '../site'

/** Remotes, their keys, and what these do. Each change takes a draft. */

/** The remote that a controller hears, made where there is none. */
export function remoteFor(site: Site, controller: Channel['controller']): Remote {
  const existing = site.remotes.find((remote) => remote.controller === controller)
  if (existing) return existing
  const name = `${site.controllers.find((c) => c.id === controller)?.name ?? 'Room'} remote`
  const remote: Remote = {
    id: freshId(site.remotes, name, 'remote') as RemoteId,
    name,
    controller,
    keys: [],
  }
  site.remotes.push(remote)
  return site.remotes.at(-1)!
}

/** Codes as one text, to compare them. */
export const codeKey = (code: Key['code']): string =>
  code.protocol === 'unknown' ? `unknown/${code.hash}` : `${code.protocol}/${code.address}/${code.command}`

const COLUMNS_OF_A_REMOTE = 3

/** The next free place on the drawn remote, row by row. */
function freePlace(remote: Remote): { row: number; column: number } {
  for (let row = 0; ; row++)
    for (let column = 0; column < COLUMNS_OF_A_REMOTE; column++)
      if (!remote.keys.some((key) => key.row === row && key.column === column)) return { row, column }
}

/** A key with a code. Without one it gets the next free command of the address that the remote uses already. */
export function addKey(site: Site, remote: Remote, name: string, code?: Key['code']): Key {
  const first = remote.keys.find((key) => key.code.protocol !== 'unknown')?.code
  const taken = new Set(site.remotes.flatMap((other) => other.keys.map((key) => codeKey(key.code))))
  const base = first && first.protocol !== 'unknown' ? first : { protocol: 'nec' as const, address: 0x4d, command: 0 }
  let command = 1
  while (taken.has(codeKey({ ...base, command }))) command++
  const key: Key = {
    id: freshId(remote.keys, name, 'key') as KeyId,
    name,
    code: code ?? { ...base, command },
    repeat: { policy: 'once' },
    ...freePlace(remote),
  }
  remote.keys.push(key)
  return remote.keys.at(-1)!
}

/** Makes a key do something. */
export function bindKey(
  site: Site,
  channel: Channel,
  remote: Remote,
  key: Key,
  action: ChannelAction,
  level: number | null = null,
): RemoteWay {
  const way: RemoteWay = {
    kind: 'remote',
    id: freshId(site.ways, `${channel.id}-remote`, 'way') as WayId,
    channel: channel.id,
    remote: remote.id,
    key: key.id,
    action: action as RemoteWay['action'],
    level,
  }
  site.ways.push(way)
  return way
}

/** The usual keys of a channel: taught keys that do nothing yet, in order, else new ones. */
export function addRemoteWay(site: Site, channel: Channel): void {
  const remote = remoteFor(site, channel.controller)
  const { keys } = kindOf(channel).usual
  for (const action of keys) {
    const busy = new Set([
      ...site.ways.flatMap((way) => (way.kind === 'remote' && way.remote === remote.id ? [way.key as string] : [])),
      ...site.controls.flatMap(({ source }) =>
        source.kind === 'remote' && source.remote === remote.id ? [source.key as string] : [],
      ),
    ])
    const idle = remote.keys.find((key) => !busy.has(key.id))
    const key =
      idle ??
      addKey(
        site,
        remote,
        keys.length === 1 ? channel.name : `${channel.name} ${actionWords(channel, action)}`.slice(0, 60),
      )
    // up and down go on while the key is held
    if (!idle && (action === 'up' || action === 'down')) key.repeat = { policy: 'repeat', everyMs: 400 }
    bindKey(site, channel, remote, key, action)
  }
}

export function removeKey(site: Site, remoteId: string, keyId: string): void {
  const remote = site.remotes.find((candidate) => candidate.id === remoteId)
  if (!remote) return
  site.ways = site.ways.filter((way) => way.kind !== 'remote' || way.remote !== remoteId || way.key !== keyId)
  site.controls = site.controls.filter(
    ({ source }) => source.kind !== 'remote' || source.remote !== remoteId || source.key !== keyId,
  )
  remote.keys = remote.keys.filter((key) => key.id !== keyId)
}

export function removeRemote(site: Site, id: string): void {
  for (const key of [...(site.remotes.find((remote) => remote.id === id)?.keys ?? [])]) removeKey(site, id, key.id)
  site.remotes = site.remotes.filter((remote) => remote.id !== id)
}

/** What a key does, a line each: "Fan: level 2", "Hall lights: off". */
export const keyDeeds = (site: Site, remote: string, key: string): string[] => [
  ...site.ways.flatMap((way) => {
    if (way.kind !== 'remote' || way.remote !== remote || way.key !== key) return []
    const does = way.action === 'level' ? `level ${way.level}` : way.action
    return [`${channelOf(site, way.channel)?.name}: ${does}`]
  }),
  ...site.controls.flatMap((control) => {
    const { source } = control
    if (source.kind !== 'remote' || source.remote !== remote || source.key !== key) return []
    const what = control.kind === 'group' ? (groupOf(site, control.group)?.name ?? '') : 'the controller'
    return [`${what}: ${control.action}`]
  }),
]
