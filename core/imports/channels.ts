import {
  idMaker,
  newChannel,
  roomOf,
  type Channel,
  type ChannelId,
  type Controller,
  type RoomId,
  type Site,
  CHANNEL_KINDS,
} from '../site'
import { differences, previewOf, type Change, type Preview } from './preview'
import { filledColumns, named, NAME_WANTED, readRows, type Row, type RowError } from './rows'

/** The export's columns; those that the table only shows (pin, load, watts, ways) are read and left alone. */
const COLUMNS = ['id', 'name', 'kind', 'controller', 'room', 'pin', 'load', 'watts', 'wall', 'app', 'hub'] as const

const SHOWN = ['pin', 'load', 'watts', 'wall', 'app', 'hub'] as const

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
  const label = `channels from a table, ${wanted.length} rows`
  const left = filledColumns(rows, SHOWN)
  return previewOf(site, label, changes, wrong, (draft) => take(site, draft, wanted), left)
}

/** Puts the rows into a draft; what is read is read from the plain document, since a table can have thousands. */
function take(site: Site, draft: Site, wanted: readonly Wanted[]): void {
  const places = new Map(site.channels.map(({ id }, at) => [id, at]))
  const idOf = idMaker(places.keys())
  const roomOf = roomsFor(site, draft)
  const bare = { ...site, channels: [] }
  const added = wanted.flatMap(({ old, name, kind, controller, room }) => {
    const id = roomOf(room)
    if (!old)
      return newChannel(bare, name, controller, kind, {
        id: idOf(name, 'channel') as ChannelId,
        room: id ?? controller.room,
      })
    Object.assign(draft.channels[places.get(old.id)!]!, { name, room: id })
    return []
  })
  draft.channels.push(...added)
}

/** A room by its name; one that is not there is made. */
function roomsFor(site: Site, draft: Site): (name: string) => RoomId | null {
  const known = new Map(site.rooms.map(({ id, name }) => [name.toLowerCase(), id]))
  const idOf = idMaker(site.rooms.map(({ id }) => id))
  return (name) => {
    if (name === '') return null
    const id = known.get(name.toLowerCase()) ?? (idOf(name, 'room') as RoomId)
    if (!known.has(name.toLowerCase())) draft.rooms.push({ id, name })
    known.set(name.toLowerCase(), id)
    return id
  }
}

function readRow(site: Site, row: Row, errors: RowError[]): Wanted | undefined {
  const cell = (column: string): string => row.cells[column] ?? ''
  const count = errors.length
  const refuse = (column: string, what: string): void => void errors.push({ row: row.number, column, what })
  const old = cell('id') === '' ? undefined : site.channels.find((channel) => channel.id === cell('id'))
  if (cell('id') !== '' && !old) refuse('id', `there is no channel “${cell('id')}”; leave the id empty for a new one`)
  if (!named(cell('name'))) refuse('name', NAME_WANTED)
  if (cell('room') !== '' && !named(cell('room'))) refuse('room', NAME_WANTED)
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
  // a table without the column says nothing of rooms
  const room = row.cells['room'] ?? roomOf(site, old?.room ?? null)?.name ?? ''
  return { row: row.number, old, name: cell('name'), kind: kind!, controller: controller!, room }
}
