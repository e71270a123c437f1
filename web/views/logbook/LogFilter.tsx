import { toast } from 'sonner'
import type { LogEntry } from '../../../core/api'
import { LOG_FORMATS, logFile, type LogFormat } from '../../../core/outputs'
import { controllerOf } from '../../../core/site'
import { FileField } from '../../parts/FileField'
import { save } from '../../parts/save'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { useAppSelector } from '../../store/store'

/** What is looked for in the log: words that must all be there, and one kind; empty: everything. */
export interface LogSearch {
  readonly words: string
  readonly kind: LogEntry['kind'] | ''
}

const KINDS: readonly LogEntry['kind'][] = ['build', 'flash', 'trial', 'test', 'note', 'fault']

/** Whether an entry has every word, in whatever order. */
export function isFound({ kind, text }: LogEntry, search: LogSearch): boolean {
  if (search.kind !== '' && kind !== search.kind) return false
  const whole = text.toLowerCase()
  return search.words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => whole.includes(word))
}

const FILES: Readonly<Record<LogFormat, { readonly name: string; readonly type: string; readonly end: string }>> = {
  markdown: { name: 'Markdown', type: 'text/markdown', end: 'md' },
  csv: { name: 'CSV', type: 'text/csv', end: 'csv' },
  json: { name: 'JSON', type: 'application/json', end: 'json' },
}

interface Props {
  readonly search: LogSearch
  readonly onSearch: (search: LogSearch) => void
  /** what is shown, and goes into a file */
  readonly found: readonly LogEntry[]
}

/** Looks through the log, and saves what is found as a file. */
export function LogFilter({ search, onSearch, found }: Props) {
  return (
    <div role="search" className="mt-2 flex flex-wrap items-end gap-x-3 gap-y-1.5 border-b border-hair pb-2">
      <label className="min-w-40 flex-1">
        <span className="field-label">Search the log</span>
        <input
          type="search"
          className="field"
          value={search.words}
          onChange={(event) => onSearch({ ...search, words: event.target.value })}
        />
      </label>
      <label>
        <span className="field-label">Kind</span>
        <select
          className="field"
          value={search.kind}
          onChange={(event) => onSearch({ ...search, kind: event.target.value as LogSearch['kind'] })}
        >
          <option value="">all</option>
          {KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {kind}
            </option>
          ))}
        </select>
      </label>
      <Saves found={found} />
      <BringIn />
    </div>
  )
}

/** A log that was saved as JSON, brought in: what is here already stays as it is. */
function BringIn() {
  const site = useAppSelector((state) => state.site.site)!.id
  const read = async (text: string): Promise<void> => {
    let body: unknown
    try {
      body = JSON.parse(text)
    } catch {
      return void toast.error('That is no JSON: save the log as JSON first, and bring that file in')
    }
    const answer = await attempt(call('importLog', { site, body: body as never }))
    if (answer) toast.success(`${answer.came} entries came; ${answer.known} were here already`)
  }
  return <FileField label="Saved log (JSON)" accept=".json,application/json" onText={(text) => void read(text)} />
}

/** What is found, as a file. */
function Saves({ found }: { found: readonly LogEntry[] }) {
  const site = useAppSelector((state) => state.site.site)!
  const saveAs = (format: LogFormat): void => {
    const lines = found.map(({ controller, ...line }) => ({
      ...line,
      controller: controller === null ? null : (controllerOf(site, controller)?.name ?? controller),
    }))
    save(`${site.id}-log.${FILES[format].end}`, logFile(site.name, lines, format), FILES[format].type)
  }
  return (
    <span role="group" aria-label="Save the log" className="flex gap-1.5">
      {LOG_FORMATS.map((format) => (
        <button key={format} type="button" className="press" onClick={() => saveAs(format)}>
          Save {FILES[format].name}
        </button>
      ))}
    </span>
  )
}
