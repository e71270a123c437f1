import { encodeFrame } from '../infrared'
import { channelOf, roomOf, type Site, kindOf } from '../site'
import { linkTable, sourceWords } from '../ways'
import { modemQuota, quotasOf } from '../services'
import { resolveUtterance } from '../voice'
import { toCsv } from './tables'

/** The characters of every link, both ends in one row: the same table goes into both boards. */
export function serialTable(site: Site): string {
  const nameOf = (id: string | null): string => site.controllers.find((controller) => controller.id === id)?.name ?? ''
  const rows = site.links.flatMap((link) =>
    linkTable(site, link).map((row) => [
      link.name,
      link.kind,
      nameOf(link.controller),
      nameOf(link.other),
      link.baud,
      link.statusMs,
      row.char,
      `0x${row.char.charCodeAt(0).toString(16)}`,
      row.target,
      row.action,
    ]),
  )
  return toCsv(
    ['link', 'kind', 'controller', 'other_end', 'baud', 'status_ms', 'character', 'code', 'target', 'action'],
    rows,
  )
}

/**
 * Spoken names with their rooms, the way that carries them, and a line to try; `understood` is what the tool takes that
 * line for.
 */
export function voiceTable(site: Site): string {
  const rows = site.ways.flatMap((way) => {
    if (way.kind !== 'voice') return []
    const channel = channelOf(site, way.channel)!
    const through = site.ways.find((other) => other.id === way.through)
    const line = kindOf(channel).spoken.example(channel, way.name)
    const heard = resolveUtterance(site, line)
    return [
      [
        way.name,
        roomOf(site, channel.room)?.name ?? '',
        channel.id,
        channel.kind,
        through?.kind ?? '',
        site.services.find((service) => service.id === way.service)?.name ?? way.service,
        way.pin ? 'yes' : 'no',
        way.key ?? '',
        line,
        heard.kind === 'device' && heard.channel.id === channel.id ? 'yes' : heard.kind,
      ],
    ]
  })
  return toCsv(['name', 'room', 'channel', 'kind', 'by', 'service', 'pin', 'key', 'try', 'understood'], rows)
}

/** Keys of every remote with their codes as numbers and as durations, and what they do. */
export function infraredTable(site: Site): string {
  const rows = site.remotes.flatMap((remote) =>
    remote.keys.map((key) => {
      const does = [
        ...site.ways.flatMap((way) =>
          way.kind === 'remote' && way.remote === remote.id && way.key === key.id
            ? [`${way.channel} ${way.action === 'level' ? `level ${way.level ?? 0}` : way.action}`]
            : [],
        ),
        ...site.controls.flatMap((control) =>
          control.source.kind === 'remote' && control.source.remote === remote.id && control.source.key === key.id
            ? [`${control.kind === 'group' ? `group ${control.group}` : 'controller'} ${control.action}`]
            : [],
        ),
      ]
      const { code } = key
      const known = code.protocol !== 'unknown'
      return [
        remote.name,
        key.name,
        code.protocol,
        known ? code.address : '',
        known ? code.command : '',
        known ? '' : `0x${code.hash.toString(16).padStart(8, '0')}`,
        key.repeat.policy === 'once' ? 'once' : `every ${key.repeat.everyMs} ms`,
        does.join(', '),
        known ? encodeFrame(code).join(' ') : '',
      ]
    }),
  )
  return toCsv(['remote', 'key', 'protocol', 'address', 'command', 'hash', 'repeat', 'does', 'microseconds'], rows)
}

/** Messages and bytes of each service and modem on the assumed day, with the share of each way. */
export function quotaTable(site: Site): string {
  const quotas = [...quotasOf(site), ...site.controllers.flatMap((controller) => modemQuota(site, controller) ?? [])]
  const rows = quotas.flatMap((quota) => [
    ...quota.rows.map((row) => [
      quota.name,
      row.controller,
      row.name,
      row.reason,
      row.perDay,
      row.perDay * 30,
      row.bytesPerMonth,
      `${(row.share * 100).toFixed(1)} %`,
    ]),
    [quota.name, '', 'all', '', quota.perDay, quota.perMonth, quota.bytesPerMonth, '100 %'],
  ])
  return toCsv(
    ['service', 'controller', 'what', 'reason', 'messages_a_day', 'messages_a_month', 'bytes_a_month', 'share'],
    rows,
  )
}

/** Groups and controllers themselves: what works them. */
export function controlsTable(site: Site): string {
  return toCsv(
    ['what', 'id', 'source', 'action'],
    site.controls.map((control) => [
      control.kind,
      control.kind === 'group' ? control.group : control.controller,
      sourceWords(site, control.source),
      control.action,
    ]),
  )
}
