import { createContext, useContext, useId, useState, type FormEvent, type ReactNode } from 'react'
import { modulesIn } from '../../core/boards'
import {
  CHANNEL_KINDS,
  freshId,
  newChannel,
  newStepped,
  type Channel,
  type Controller,
  type RoomId,
  type Site,
} from '../../core/site'
import { edit } from '../store/editing'
import { screenActions } from '../store/screenSlice'
import { selectShown } from '../store/selection'
import { useAppDispatch, useAppSelector } from '../store/store'
import { Help } from './Help'

const fansOf = (site: Site) => modulesIn(site).filter((module) => module.kind === 'fan-regulator')

/** The room of this name, made where it is not there yet. */
function roomFor(draft: Site, name: string): RoomId {
  const known = draft.rooms.find((room) => room.name.toLowerCase() === name.toLowerCase())
  if (known) return known.id
  const id = freshId(draft.rooms, name, 'room') as RoomId
  draft.rooms.push({ id, name })
  return id
}

/** `kind`: a kind of channel, or the id of the fan regulator that a stepped one drives. */
function addChannel(draft: Site, controller: Controller, name: string, roomName: string, kind: string): void {
  const room = roomName === '' ? controller.room : roomFor(draft, roomName)
  const fan = fansOf(draft).find((module) => module.id === kind)
  draft.channels.push(
    fan
      ? newStepped(draft, name, controller, fan, { room })
      : { ...newChannel(draft, name, controller, kind as Channel['kind']), room },
  )
}

interface NewName {
  readonly home: string
  readonly name: string
  readonly room: string
  readonly kind: string
}

/** Adds a channel and picks it. */
function useNewChannel(): (wanted: NewName) => void {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  return ({ home, name, room, kind }) => {
    const id = freshId(site.channels, name, 'channel')
    dispatch(
      edit(`channel ${name}`, (draft) => {
        addChannel(
          draft,
          draft.controllers.find((one) => one.id === home)!,
          name,
          room,
          kind,
        )
      }),
    )
    dispatch(screenActions.cellPicked({ channel: id, column: 'wall' }))
  }
}

/** The last line of the crossbar and of the bench's roles: name a thing, and it is a channel. */
export function NewChannel({ fixed }: { fixed?: string }) {
  const put = useNewChannel()
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector(selectShown)
  const [name, setName] = useState('')
  const [chosen, setChosen] = useState<string | null>(null)
  const [room, setRoom] = useState('')
  const [kind, setKind] = useState('switched')
  const home = fixed ?? chosen ?? narrowed ?? site.controllers[0]?.id
  if (!home) return null
  const add = (event: FormEvent) => {
    event.preventDefault()
    if (!name.trim()) return
    put({ home, name: name.trim(), room: room.trim(), kind })
    setName('')
  }
  return (
    <form className="mt-3 flex flex-wrap items-end gap-2" onSubmit={add}>
      <Labelled label="New channel" className="min-w-32 max-w-56 flex-1">
        <Text value={name} placeholder="Desk lamp" onChange={setName} />
      </Labelled>
      <Labelled label="Room" className="min-w-28 max-w-44 flex-1">
        <RoomField value={room} onChange={setRoom} />
      </Labelled>
      <Labelled label="Kind" className="w-28">
        <KindChoice value={kind} onChange={setKind} />
      </Labelled>
      {!fixed && site.controllers.length > 1 && (
        <Labelled label="Controller" className="w-40">
          <Choice value={home} rows={site.controllers.map((one) => [one.id, one.name])} onChange={setChosen} />
        </Labelled>
      )}
      <button type="submit" className="press whitespace-nowrap" disabled={!name.trim()}>
        Add channel
      </button>
    </form>
  )
}

function Labelled({ label, className, children }: { label: string; className: string; children: ReactNode }) {
  const id = useId()
  return (
    <div className={className}>
      <Help of={label}>
        <label className="field-label" htmlFor={id}>
          {label}
        </label>
      </Help>
      <FieldId value={id}>{children}</FieldId>
    </div>
  )
}

/** The id by which a label names its field. */
const FieldId = createContext<string | undefined>(undefined)

interface FieldProps {
  readonly value: string
  readonly onChange: (value: string) => void
}

function Text({ value, onChange, ...more }: FieldProps & { placeholder: string; list?: string }) {
  return (
    <input
      id={useContext(FieldId)}
      className="field"
      value={value}
      maxLength={60}
      onChange={(event) => onChange(event.target.value)}
      {...more}
    />
  )
}

function RoomField(props: FieldProps) {
  const rooms = useAppSelector((state) => state.site.site!.rooms)
  return (
    <>
      <Text {...props} list="rooms" placeholder={rooms.find((one) => one.name.length <= 9)?.name ?? 'Hall'} />
      <datalist id="rooms">
        {rooms.map((room) => (
          <option key={room.id} value={room.name} />
        ))}
      </datalist>
    </>
  )
}

/** Stepped channels are chosen by the regulator that they drive: it says how many contacts and steps there are. */
function KindChoice(props: FieldProps) {
  const site = useAppSelector((state) => state.site.site)!
  const kinds = CHANNEL_KINDS.filter((kind) => kind !== 'stepped').map((kind) => [kind, kind] as const)
  const fans = fansOf(site).map((fan) => [fan.id, `stepped: ${fan.name}`] as const)
  return <Choice rows={[...kinds, ...fans]} {...props} />
}

function Choice({ rows, value, onChange }: FieldProps & { rows: readonly (readonly [string, string])[] }) {
  return (
    <select id={useContext(FieldId)} className="field" value={value} onChange={(event) => onChange(event.target.value)}>
      {rows.map(([id, words]) => (
        <option key={id} value={id}>
          {words}
        </option>
      ))}
    </select>
  )
}
