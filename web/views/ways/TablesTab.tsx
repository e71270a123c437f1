import { useState } from 'react'
import { importChannels, importPoints, type Preview } from '../../../core/imports'
import { SITE_EXPORTS, type SiteExport } from '../../../core/outputs'
import { counted, type Site } from '../../../core/site'
import { FileField } from '../../parts/FileField'
import { save } from '../../parts/save'
import { keep } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { Duplicate } from './Duplicate'

const { site: _whole, schema: _schema, ...TABLES } = SITE_EXPORTS

/** Tables that go out, and those that come back with what they would change. */
export function TablesTab() {
  return (
    <div className="grid @3xl:grid-cols-2 gap-8">
      <section aria-label="Export">
        <h2 className="rule-head">Export</h2>
        <ul>
          {Object.values(TABLES).map((one) => (
            <OutLine key={one.file} of={one} />
          ))}
        </ul>
        <h2 className="rule-head mt-5">Copy controller</h2>
        <Duplicate />
      </section>
      <section aria-label="Import">
        <h2 className="rule-head">Import</h2>
        <p className="mt-1 text-note text-soft">
          A table is previewed before anything changes. With a wrong row, nothing is imported.
        </p>
        <Import name="Points" read={importPoints} />
        <Import name="Channels" read={importChannels} />
      </section>
    </div>
  )
}

function OutLine({ of: { name, what, file, type, make } }: { of: SiteExport }) {
  const site = useAppSelector((state) => state.site.site)!
  return (
    <li className="flex items-center gap-3 border-b border-hair py-1">
      <span className="min-w-0 flex-1">
        <span className="font-semibold">{name}</span>
        <span className="block text-note leading-tight text-soft">{what}</span>
      </span>
      <button
        type="button"
        className="press text-note"
        aria-label={`Save ${name}`}
        onClick={() => save(`${site.id}${file}`, make(site), type)}
      >
        {file.replace(/^-/, '')}
      </button>
    </li>
  )
}

function Import({ name, read }: { name: string; read: (site: Site, text: string) => Preview }) {
  const site = useAppSelector((state) => state.site.site)!
  const [text, setText] = useState('')
  const preview = text.trim() ? read(site, text) : null
  return (
    <div className="mt-3">
      <p className="field-label">{name}, as CSV</p>
      <div className="my-1">
        <FileField label={`${name} file`} accept=".csv,text/csv" onText={setText} />
      </div>
      <textarea
        className="field h-20 resize-y font-mono text-small"
        aria-label={`${name} table`}
        spellCheck={false}
        placeholder="or paste the table here"
        value={text}
        onChange={(event) => setText(event.target.value)}
      />
      {preview && !preview.ok && <RowErrors errors={preview.errors} />}
      {preview?.ok && <Changes name={name} preview={preview} onTaken={() => setText('')} />}
    </div>
  )
}

type Refused = Extract<Preview, { ok: false }>
type Ready = Extract<Preview, { ok: true }>
const MOST_ERRORS = 12

function RowErrors({ errors }: Pick<Refused, 'errors'>) {
  return (
    <ul role="alert" className="mt-1 border-l-4 border-error bg-panel px-2 py-1 text-note text-error">
      {errors.slice(0, MOST_ERRORS).map(({ row, column, what }, i) => (
        <li key={i}>{`Row ${row}${column ? `, ${column}` : ''}: ${what}`}</li>
      ))}
      {errors.length > MOST_ERRORS && <li>{errors.length - MOST_ERRORS} more</li>}
    </ul>
  )
}

const SIGNS = { new: '＋', changed: '△', same: '＝' } as const

function Changes({ name, preview, onTaken }: { name: string; preview: Ready; onTaken: () => void }) {
  const dispatch = useAppDispatch()
  const real = preview.changes.filter((change) => change.kind !== 'same').length
  const take = () => {
    dispatch(keep(preview.edit))
    onTaken()
  }
  return (
    <div className="mt-1" role="status">
      <ul
        className="max-h-44 overflow-auto border-y border-hair"
        tabIndex={0}
        aria-label={`Preview of the ${name.toLowerCase()} table`}
      >
        {preview.changes.map(({ row, kind, name: changed, what }) => (
          <li
            key={row}
            className={`flex gap-2 border-b border-hair py-0.5 text-note ${kind === 'same' ? 'text-soft' : ''}`}
          >
            <span aria-label={kind}>{SIGNS[kind]}</span>
            <span className="w-40 truncate font-semibold">{changed}</span>
            <span className="min-w-0 flex-1">{what || 'no change'}</span>
          </li>
        ))}
      </ul>
      {preview.leftAlone.length > 0 && (
        <p className="mt-1 text-note text-soft">
          Not imported: {preview.leftAlone.join(', ')}. Set them on the bench and in the crossbar.
        </p>
      )}
      <button type="button" className="press mt-1.5" disabled={real === 0} onClick={take}>
        {real === 0 ? 'No changes' : `Import ${counted(real, 'change')}`}
      </button>
    </div>
  )
}
