import {
  freshId,
  newChannel,
  roomOf,
  type Channel,
  type Controller,
  type RoomId,
  type Site,
  CHANNEL_KINDS,
} from '../site'
import { differences, previewOf, type Change, type Preview } from './preview'
import { readRows, type Row, type RowError } from './rows'

/** The export's columns; those that the table only shows (pin, load, watts, ways) are read and left alone. */
const COLUMNS = ['id', 'name', 'kind', 'controller', 'room', 'pin', 'load', 'watts', 'wall', 'app', 'hub'] as const

interface Wanted {
  readonly row: number
  readonly old: Channel | undefined
  readonly name: string
  readonly kind: Channel['kind']
  readonly controller: Controller
  readonly room: string
}

/** Channels from a table: a row with a known id renames or moves that channel, any other makes a new one. */
export function importChannels(site: Site, text: string): Preview {
  const { rows, errors } = readRows(text, COLUMNS, ['name'])
  if (errors.length) return { ok: false, errors }
  const wrong: RowError[] = []
  const wanted = rows.flatMap((row) => readRow(site, row, wrong) ?? [])
  const changes = wanted.map(({ row, old, name, kind, controller, room }): Change => {
    const what = old
      ? differences({ name: old.name, room: roomOf(site, old.room)?.name ?? '' }, { name, room })
      : `${kind} on ${controller.name}${room ? `, ${room}` : ''}`
    return { kind: old ? (what ? 'changed' : 'same') : 'new', row, name, what }
  })
  return previewOf(site, `channels from a table, ${wanted.length} rows`, changes, wrong, (draft) => {
    for (const { old, name, kind, controller, room } of wanted) {
      const target = old && draft.channels.find((channel) => channel.id === old.id)
      const roomId = roomFor(draft, room)
      if (target) Object.assign(target, { name, room: roomId })
      else
        draft.channels.push({
          ...newChannel(
            draft,
            name,
            draft.controllers.find((c) => c.id === controller.id)!,
            kind,
          ),
          room: roomId ?? controller.room,
        })
    }
  })
}

function roomFor(draft: Site, name: string): RoomId | null {
  if (name === '') return null
  const known = draft.rooms.find((room) => room.name.toLowerCase() === name.toLowerCase())
  if (known) return known.id
  const room = {
    id: freshId(draft.rooms, name, 'room') as RoomId,
    name,
  }
  draft.rooms.push(room)
  return room.id
}

function readRow(site: Site, row: Row, errors: RowError[]): Wanted | undefined {
  const cell = (column: string): string => row.cells[column] ?? ''
  const count = errors.length
  const refuse = (column: string, what: string): void => void errors.push({ row: row.number, column, what })
  const old = site.channels.find((channel) => channel.id === cell('id'))
  if (cell('id') !== '' && !old) refuse('id', `there is no channel “${cell('id')}”; leave the id empty for a new one`)
  if (cell('name') === '' || cell('name').length > 60) refuse('name', 'a name of 1 to 60 characters is needed')
  if (cell('room').length > 60) refuse('room', 'at most 60 characters')
  const kind = CHANNEL_KINDS.find((one) => one === (cell('kind') || (old?.kind ?? 'switched')))
  if (!kind) refuse('kind', `“${cell('kind')}” is none of ${CHANNEL_KINDS.join(', ')}`)
  if (old && kind && old.kind !== kind) refuse('kind', `${old.name} is ${old.kind}; a table does not change a kind`)
  const controller =
    cell('controller') === ''
      ? site.controllers.find((c) => c.id === (old?.controller ?? site.controllers[0]?.id))
      : site.controllers.find(
          (c) => c.id === cell('controller') || c.name.toLowerCase() === cell('controller').toLowerCase(),
        )
  if (!controller)
    refuse(
      'controller',
      `there is no controller “${cell('controller')}”; there are ` +
        `${site.controllers.map((c) => c.name).join(', ') || 'none'}`,
    )
  if (errors.length > count) return undefined
  return { row: row.number, old, name: cell('name'), kind: kind!, controller: controller!, room: cell('room') }
}
