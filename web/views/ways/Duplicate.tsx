import { useState, type FormEvent } from 'react'
import type { Controller } from '../../../core/site'
import { duplicateController } from '../../../core/ways'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** A controller once more, for the next room. */
export function Duplicate() {
  const dispatch = useAppDispatch()
  const controllers = useAppSelector((state) => state.site.site!.controllers)
  const [from, setFrom] = useState<string>(controllers[0]?.id ?? '')
  const [name, setName] = useState('')
  const [room, setRoom] = useState('')
  const ready = Boolean(name.trim() && room.trim())
  const make = (event: FormEvent) => {
    event.preventDefault()
    if (!ready) return
    dispatch(
      edit(`${name.trim()}: copy controller`, (draft) => {
        duplicateController(draft, from, name.trim(), room.trim())
      }),
    )
    setName('')
    setRoom('')
  }
  if (controllers.length === 0) return null
  return (
    <form className="mt-2 grid grid-cols-2 @xl:grid-cols-[1fr_1fr_1fr_auto] items-end gap-2" onSubmit={make}>
      <ControllerChoice controllers={controllers} value={from} onPick={setFrom} />
      <Name label="New name" example="Attic" value={name} onType={setName} />
      <Name label="Room" example="Attic room" value={room} onType={setRoom} />
      <button type="submit" className="press" disabled={!ready}>
        Copy controller
      </button>
      <p className="col-span-full text-small text-soft">
        Copies channels, switches, sensors, keys, characters, rules, points, entities and names. Pins and numbers stay
        the same: board and device are others.
      </p>
    </form>
  )
}

interface ChoiceProps {
  readonly controllers: readonly Controller[]
  readonly value: string
  readonly onPick: (id: string) => void
}

function ControllerChoice({ controllers, value, onPick }: ChoiceProps) {
  return (
    <label>
      <span className="field-label">Controller</span>
      <select className="field" value={value} onChange={(event) => onPick(event.target.value)}>
        {controllers.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </label>
  )
}

interface NameProps {
  readonly label: string
  readonly example: string
  readonly value: string
  readonly onType: (text: string) => void
}

function Name({ label, example, value, onType }: NameProps) {
  return (
    <label>
      <span className="field-label">{label}</span>
      <input
        className="field"
        value={value}
        maxLength={60}
        placeholder={example}
        onChange={(event) => onType(event.target.value)}
      />
    </label>
  )
}
