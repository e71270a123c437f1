import { lazy, Suspense, useState } from 'react'
import { MAINS_CHOICES, type Site } from '../../../core/site'
import { comes } from '../../parts/comes'

// The profiles of all boards weigh more than the door: their names come after it.
const BoardOptions = lazy(() => comes(async () => ({ default: (await import('./BoardOptions')).BoardOptions })))

/** The field that a new site begins with. */
export const NAME_FIELD = 'site-name'

interface FieldProps {
  readonly value: string
  readonly onChange: (value: string) => void
}

const Name = ({ value, onChange }: FieldProps) => (
  <label className="block">
    <span className="field-label">Name of the house or room</span>
    <input
      id={NAME_FIELD}
      className="field"
      value={value}
      maxLength={60}
      onChange={(event) => onChange(event.target.value)}
    />
  </label>
)

const MainsChoice = ({ value, onChange }: FieldProps) => (
  <label className="block">
    <span className="field-label">Mains, as on the meter</span>
    <select className="field" value={value} onChange={(event) => onChange(event.target.value)}>
      <option value="">choose …</option>
      {MAINS_CHOICES.map(([key, words]) => (
        <option key={key} value={key}>
          {words}
        </option>
      ))}
    </select>
  </label>
)

const BoardChoice = ({ value, onChange, needed }: FieldProps & { needed: boolean }) => (
  <label className="block">
    <span className="field-label">Board on the table</span>
    <select className="field" value={value} onChange={(event) => onChange(event.target.value)}>
      <option value="">{needed ? 'choose …' : 'not chosen yet'}</option>
      <Suspense fallback={null}>
        <BoardOptions />
      </Suspense>
    </select>
  </label>
)

/** Name, mains and board, as each way to begin asks for them; null while something of it is missing. */
export function useBeginning({ boardNeeded }: { boardNeeded: boolean }) {
  const [name, setName] = useState('')
  const [mains, setMains] = useState('')
  const [board, setBoard] = useState('')
  const picked: Site['mains'] | undefined = MAINS_CHOICES.find(([key]) => key === mains)?.[2]
  const ready = name.trim() !== '' && picked !== undefined && (board !== '' || !boardNeeded)
  const fields = (
    <>
      <Name value={name} onChange={setName} />
      <MainsChoice value={mains} onChange={setMains} />
      <BoardChoice value={board} onChange={setBoard} needed={boardNeeded} />
    </>
  )
  const answers = ready ? { name: name.trim(), mains: picked, board: board === '' ? null : board } : null
  return { fields, answers, board: board === '' ? null : board }
}
