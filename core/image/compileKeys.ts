import { keyOf, remoteOf, waysTo, type Channel, type Controller, type Key, type Site } from '../site'
import { targetOf } from './compileWays'
import type { ImageDeed, ImageKey } from './types'

function keyRow(key: Key, deed: ImageDeed): ImageKey {
  const everyMs = key.repeat.policy === 'repeat' ? key.repeat.everyMs : 0
  const { code } = key
  if (code.protocol === 'unknown')
    return {
      protocol: 'unknown',
      address: Math.floor(code.hash / 0x1_0000),
      command: code.hash % 0x1_0000,
      everyMs,
      ...deed,
    }
  return { protocol: code.protocol, address: code.address, command: code.command, everyMs, ...deed }
}

/**
 * Keys of the remotes whose receiver is here: those of channels in channel order, then those of groups and the
 * controller.
 */
export function keysOf(site: Site, controller: Controller, channels: readonly Channel[]): ImageKey[] {
  const keyHere = (remote: string, key: string): Key | undefined =>
    remoteOf(site, remote)?.controller === controller.id ? keyOf(site, remote, key) : undefined
  const own = channels.flatMap((channel, index) =>
    waysTo(site, channel.id).flatMap((way) => {
      const key = way.kind === 'remote' ? keyHere(way.remote, way.key) : undefined
      return way.kind === 'remote' && key
        ? [keyRow(key, { action: way.action, level: way.level ?? 0, on: 'channel', index })]
        : []
    }),
  )
  const more = site.controls.flatMap((control) => {
    const key = control.source.kind === 'remote' ? keyHere(control.source.remote, control.source.key) : undefined
    const target = targetOf(site, control, controller, channels)
    return key && target ? [keyRow(key, { action: control.action, level: 0, ...target })] : []
  })
  return [...own, ...more]
}
