import { useMemo, useState, type FormEvent } from 'react'
import type { SketchPin, SketchUse } from '../../../core/imports'
import { boardIn, counted, readSketch, siteFromSketch } from './begin'
import { useBeginning } from './beginFields'
import type { BeginningProps } from './Beginnings'

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
      {text.trim() !== '' && !profile && (
        <p className="text-warning sm:col-span-3">Choose the board: it says which numbers are pins.</p>
      )}
      {profile && text.trim() !== '' && rows.length === 0 && (
        <p className="text-warning sm:col-span-3">
          No pin line found. Lines like “#define LAMP 23”, “const int lamp = 23;” and “int relays[] = {'{'}23, 22{'}'};”
          are read.
        </p>
      )}
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
        {count('channel')} channels and {count('rocker') + count('momentary')} switches with locked pins;{' '}
        {count('left')} left out.
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
            <tr key={`${row.line}|${row.written}`} className={row.use === 'left' ? 'text-soft' : ''}>
              <td className="text-right font-mono">{row.line}</td>
              <td className="font-mono text-note">{row.written}</td>
              <td>
                <select
                  className="field min-w-32"
                  aria-label={`${row.written} becomes`}
                  value={row.use}
                  onChange={(event) => onUse(row, event.target.value as SketchUse)}
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
          ))}
        </tbody>
      </table>
    </div>
  )
}
