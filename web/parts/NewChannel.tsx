import { useState } from 'react'
import { modulesIn } from '../../core/boards'
import { freshId, newChannel, newStepped, type Channel, type RoomId, CHANNEL_KINDS } from '../../core/site'
import { edit } from '../store/editing'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../store/store'

/** The last line of the crossbar: name a thing, and it is a channel. */
export function NewChannel({ fixed }: { fixed?: string }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const narrowed = useAppSelector((state) => state.screen.controller)
  const [name, setName] = useState('')
  const [chosen, setChosen] = useState<string | null>(null)
  const [room, setRoom] = useState('')
  const [kind, setKind] = useState('switched')
  const controllerId = fixed ?? chosen ?? narrowed ?? site.controllers[0]?.id
  if (!controllerId) return null
  const add = () => {
    const id = freshId(site.channels, name, 'channel')
    dispatch(
      edit(`channel ${name.trim()}`, (draft) => {
        const controller = draft.controllers.find((candidate) => candidate.id === controllerId)!
        let roomId = controller.room
        if (room.trim()) {
          const known = draft.rooms.find((candidate) => candidate.name.toLowerCase() === room.trim().toLowerCase())
          roomId = known?.id ?? (freshId(draft.rooms, room, 'room') as RoomId)
          if (!known) draft.rooms.push({ id: roomId!, name: room.trim() })
        }
        const fan = modulesIn(draft).find((module) => module.kind === 'fan-regulator' && module.id === kind)
        draft.channels.push(
          fan?.kind === 'fan-regulator'
            ? newStepped(draft, name.trim(), controller, fan, { room: roomId })
            : { ...newChannel(draft, name.trim(), controller, kind as Channel['kind']), room: roomId },
        )
      }),
    )
    dispatch(screenActions.cellPicked({ channel: id, column: 'wall' }))
    setName('')
  }
  return (
    <form
      className="mt-3 flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault()
        if (name.trim()) add()
      }}
    >
      <label className="min-w-32 flex-1 max-w-56">
        <span className="field-label">New channel</span>
        <input
          className="field"
          value={name}
          maxLength={60}
          placeholder="Desk lamp"
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <label className="min-w-28 flex-1 max-w-44">
        <span className="field-label">Room</span>
        <input
          className="field"
          value={room}
          maxLength={60}
          list="rooms"
          placeholder={site.rooms.find((one) => one.name.length <= 9)?.name ?? 'Hall'}
          onChange={(event) => setRoom(event.target.value)}
        />
        <datalist id="rooms">
          {site.rooms.map((r) => (
            <option key={r.id} value={r.name} />
          ))}
        </datalist>
      </label>
      <label className="w-28">
        <span className="field-label">Kind</span>
        <select className="field" value={kind} onChange={(event) => setKind(event.target.value)}>
          {CHANNEL_KINDS.filter((one) => one !== 'stepped').map((one) => (
            <option key={one} value={one}>
              {one}
            </option>
          ))}
          {modulesIn(site)
            .filter((module) => module.kind === 'fan-regulator')
            .map((module) => (
              <option key={module.id} value={module.id}>
                stepped: {module.name}
              </option>
            ))}
        </select>
      </label>
      {!fixed && site.controllers.length > 1 && (
        <label className="w-40">
          <span className="field-label">Controller</span>
          <select className="field" value={controllerId} onChange={(event) => setChosen(event.target.value)}>
            {site.controllers.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
      )}
      <button type="submit" className="press whitespace-nowrap" disabled={!name.trim()}>
        Add channel
      </button>
    </form>
  )
}
