import { useMemo, useState, type FormEvent } from 'react'
import type { SketchPin, SketchUse } from '../../../core/imports'
import { boardIn, counted, readSketch, siteFromSketch } from './begin'
import { useBeginning } from './beginFields'
import type { BeginningProps } from './useDoor'

const USES: readonly (readonly [SketchUse, string])[] = [
  ['channel', 'channel'],
  ['rocker', 'rocker switch'],
  ['momentary', 'push switch'],
  ['left', 'leave out'],
]

const NO_PROFILES = { profiles: { boards: [], modules: [] } }

/** A site from the pin lines of a sketch: what they would make is shown, and can be corrected, before it is made. */
export function SketchForm({ door }: BeginningProps) {
  const { fields, answers, board } = useBeginning({ boardNeeded: true })
  const [text, setText] = useState('')
  const [uses, setUses] = useState<Readonly<Record<string, SketchUse>>>({})
  const profile = board === null ? undefined : boardIn(NO_PROFILES, board)
  const read = useMemo(() => (profile ? readSketch(profile, text) : []), [profile, text])
  const rows = read.map((row): SketchPin => ({ ...row, use: uses[`${row.written}|${row.pin}`] ?? row.use }))
  const made = rows.filter(({ use }) => use !== 'left')
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (answers && made.length > 0) void door.create({ site: siteFromSketch({ ...answers, taken: door.taken }, rows) })
  }
  return (
    <form className="grid gap-3 sm:grid-cols-3" onSubmit={submit}>
      {fields}
      <label className="block sm:col-span-3">
        <span className="field-label">Pin lines of the sketch, or the whole of it</span>
        <textarea
          className="field h-36 resize-y font-mono text-note"
          spellCheck={false}
          value={text}
          placeholder={'#define RelayPin1 23\nconst int switchPins[] = {13, 12};\npinMode(RelayPin1, OUTPUT);'}
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <Hint text={text} board={profile !== undefined} found={rows.length > 0} />
      {rows.length > 0 && (
        <Preview rows={rows} onUse={(row, use) => setUses({ ...uses, [`${row.written}|${row.pin}`]: use })} />
      )}
      <div className="sm:col-span-3">
        <button type="submit" className="press-main" disabled={!answers || made.length === 0}>
          Create site
        </button>
      </div>
    </form>
  )
}

/** What is missing before anything can be shown. */
function Hint({ text, board, found }: { text: string; board: boolean; found: boolean }) {
  if (text.trim() === '' || found) return null
  return (
    <p className="text-warning sm:col-span-3">
      {board
        ? 'No pin line found. Lines like “#define LAMP 23”, “const int lamp = 23;” and “int relays[] = {23, 22};” are read.'
        : 'Choose the board: it says which numbers are pins.'}
    </p>
  )
}

interface PreviewProps {
  readonly rows: readonly SketchPin[]
  readonly onUse: (row: SketchPin, use: SketchUse) => void
}

/** Each line with what it would become; pins are locked, since they are soldered already. */
function Preview({ rows, onUse }: PreviewProps) {
  const count = (use: SketchUse) => rows.filter((row) => row.use === use).length
  return (
    <div className="min-w-0 overflow-x-auto sm:col-span-3" role="region" aria-label="Preview" tabIndex={0}>
      <p className="text-note" role="status">
        {counted(count('channel'), 'channel')} and {counted(count('rocker') + count('momentary'), 'switch', 'switches')}{' '}
        with locked pins; {count('left')} left out. A low-active relay module and the board’s own pulls are assumed:
        check both on the bench.
      </p>
      <table className="sheet mt-1 w-full">
        <thead>
          <tr>
            <th>line</th>
            <th>in the sketch</th>
            <th>becomes</th>
            <th>name</th>
            <th>pin</th>
            <th>because</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <PreviewRow key={`${row.line}|${row.written}`} row={row} onUse={(use) => onUse(row, use)} />
          ))}
        </tbody>
      </table>
    </div>
  )
}

const PreviewRow = ({ row, onUse }: { row: SketchPin; onUse: (use: SketchUse) => void }) => (
  <tr className={row.use === 'left' ? 'text-soft' : ''}>
    <td className="text-right font-mono">{row.line}</td>
    <td className="font-mono text-note">{row.written}</td>
    <td>
      <select
        className="field min-w-32"
        aria-label={`${row.written} becomes`}
        value={row.use}
        onChange={(event) => onUse(event.target.value as SketchUse)}
      >
        {USES.map(([use, words]) => (
          <option key={use} value={use}>
            {words}
          </option>
        ))}
      </select>
    </td>
    <td className="font-semibold">{row.name}</td>
    <td className="font-mono">{row.pin}</td>
    <td className="text-note text-soft">{row.why}</td>
  </tr>
)
