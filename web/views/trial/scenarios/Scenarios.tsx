import { useEffect, useMemo, useState } from 'react'
import { libraryFor, readScenario, type ScenarioRun } from '../../../../core/scenario'
import type { Site } from '../../../../core/site'
import { save } from '../../../parts/save'
import { ViewHead } from '../../../parts/ViewHead'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { edit } from '../../../store/editing'
import { clockOf } from '../clock'
import { JobState } from '../../../parts/JobState'
import { useJob } from '../useJob'
import { recordedScenario } from '../useTrial'
import { ScenarioText } from './ScenarioText'

type Played = { readonly run: ScenarioRun } | { readonly message: string }

interface Row {
  readonly id: string
  readonly title: string
  readonly text: string
  /** kept with the site, so that it can be changed and deleted */
  readonly isOwn: boolean
}

const titleOf = (text: string): string =>
  /^scenario:\s*(.+)$/m.exec(text)?.[1]?.replace(/^["']|["']$/g, '') ?? 'without a name'

const rowsOf = (site: Site): Row[] => [
  ...(site.scenarios ?? []).map(({ id, text }) => ({ id, text, title: titleOf(text), isOwn: true })),
  ...libraryFor(site).map(({ id, text }) => ({ id: `library:${id}`, text, title: titleOf(text), isOwn: false })),
]

const START =
  'scenario: A new one\nsteps:\n  - { at: 10 s, do: {  } }\n  - { after: 1 s, expect: { screens: agree } }\n'

/** Puts a scenario among the site's own. Changes a draft. */
function putScenario(draft: Site, id: string, text: string): void {
  const own = (draft.scenarios ??= [])
  const place = own.findIndex((one) => one.id === id)
  if (place < 0) own.push({ id, text })
  else own[place] = { id, text }
}

/** The scenarios of the page: which is picked, what became of each, and what can be done with them. */
function useScenarios(site: Site) {
  const rows = useMemo(() => rowsOf(site), [site])
  const [picked, setPicked] = useState<string | null>(null)
  const [results, setResults] = useState<Readonly<Record<string, Played>>>({})
  const dispatch = useAppDispatch()
  const { job, start, stop } = useJob<number>()
  const play = (list: readonly Row[]): void =>
    start(async (remote, onProgress) => {
      for (const [i, { id, text }] of list.entries()) {
        onProgress(i / list.length)
        const played = await remote.playScenario(site, text, 1)
        setResults((before) => ({ ...before, [id]: played }))
      }
      return list.length
    })
  const keep = (text: string, over?: string): void => {
    const id = over ?? `s${Math.max(0, ...(site.scenarios ?? []).map((one) => Number(one.id.slice(1)))) + 1}`
    const put = (draft: Site): void => putScenario(draft, id, text)
    dispatch(edit(over ? 'Change a scenario' : 'Add a scenario', put))
    setPicked(id)
  }
  const remove = (id: string): void => {
    const out = (draft: Site): void => void (draft.scenarios = (draft.scenarios ?? []).filter((one) => one.id !== id))
    dispatch(edit('Delete a scenario', out))
  }
  return {
    rows,
    row: rows.find(({ id }) => id === picked) ?? rows[0],
    pick: setPicked,
    results,
    job,
    play,
    stop,
    keep,
    remove,
  }
}

/** Scenarios: those of the library, made for this site, and the site's own; read, changed, played. */
export function Scenarios() {
  const site = useAppSelector((state) => state.site.site)!
  const { rows, row, pick, results, job, play, stop, keep, remove } = useScenarios(site)
  const record = (): void => void recordedScenario('Recorded').then((text) => keep(text || START))
  return (
    <div className="px-5 py-2" data-testid="scenarios">
      <ViewHead title="Scenarios" note="Actions with their times, and what must be seen. Run faster than real time.">
        <button type="button" className="press" onClick={() => keep(START)}>
          Add scenario
        </button>
        <button type="button" className="press" onClick={record}>
          Record from run
        </button>
        <button type="button" className="press-main" disabled={job.state === 'running'} onClick={() => play(rows)}>
          Run all
        </button>
      </ViewHead>
      <JobState job={job} name="Scenario run" onStop={stop} />
      <div className="mt-3 grid gap-5 @3xl:grid-cols-[18rem_minmax(0,1fr)]">
        <List rows={rows} picked={row?.id ?? null} results={results} onPick={pick} />
        {row && (
          <Editor
            key={row.id}
            site={site}
            row={row}
            result={results[row.id] ?? null}
            onPlay={(text) => play([{ ...row, text }])}
            onKeep={(text) => keep(text, row.isOwn ? row.id : undefined)}
            onDelete={() => remove(row.id)}
          />
        )}
      </div>
    </div>
  )
}

interface ListProps {
  readonly rows: readonly Row[]
  readonly picked: string | null
  readonly results: Readonly<Record<string, Played>>
  readonly onPick: (id: string) => void
}

const signOf = (played: Played | undefined): string =>
  !played ? '' : 'message' in played || played.run.broken ? '✕' : '✓'

function List({ rows, picked, results, onPick }: ListProps) {
  const group = (name: string, own: boolean) => {
    const list = rows.filter(({ isOwn }) => isOwn === own)
    return (
      <div key={name}>
        <h2 className="rule-head mt-4">{name}</h2>
        {list.length === 0 && (
          <p className="mt-1 text-note text-soft">None yet. Add one, or record it from the run of the trial.</p>
        )}
        <ul>
          {list.map(({ id, title }) => {
            const sign = signOf(results[id])
            return (
              <li key={id} className="border-b border-hair">
                <button
                  type="button"
                  aria-pressed={picked === id}
                  className="flex min-h-7 w-full items-center gap-2 px-1.5 text-left hover:bg-panel aria-pressed:bg-ink aria-pressed:text-wall"
                  onClick={() => onPick(id)}
                >
                  <span
                    className={`w-3 font-semibold ${picked === id ? '' : sign === '✕' ? 'text-error' : 'text-rest'}`}
                    aria-label={sign === '✕' ? 'failed' : sign === '✓' ? 'passed' : undefined}
                  >
                    {sign}
                  </span>
                  {title}
                </button>
              </li>
            )
          })}
        </ul>
      </div>
    )
  }
  return <nav aria-label="Scenarios">{[group('Scenarios of this site', true), group('Library', false)]}</nav>
}

interface EditorProps {
  readonly site: Site
  readonly row: Row
  readonly result: Played | null
  readonly onPlay: (text: string) => void
  readonly onKeep: (text: string) => void
  readonly onDelete: () => void
}

/** "line 3: …" as the line and what is wrong there. */
function markOf(message: string): { line: number; message: string } {
  const found = /^line (\d+): (.*)$/s.exec(message)
  return found ? { line: Number(found[1]), message: found[2]! } : { line: 1, message }
}

/** A pause in the typing after which the text is looked at, ms. */
const PAUSE_MS = 250

/** What is wrong with a text as it is typed; null: nothing. */
function useTrouble(site: Site, text: string): string | null {
  const [trouble, setTrouble] = useState<string | null>(null)
  useEffect(() => {
    const timer = setTimeout(() => {
      const answer = readScenario(text, site)
      setTrouble(answer.ok ? null : answer.message)
    }, PAUSE_MS)
    return () => clearTimeout(timer)
  }, [text, site])
  return trouble
}

function Editor({ site, row, result, onPlay, onKeep, onDelete }: EditorProps) {
  const [text, setText] = useState(row.text)
  const trouble = useTrouble(site, text)
  const marks = useMemo(() => (trouble === null ? [] : [markOf(trouble)]), [trouble])
  return (
    <section aria-label={row.title}>
      <div className="mb-1.5 flex flex-wrap items-center gap-2">
        <button type="button" className="press-main" disabled={trouble !== null} onClick={() => onPlay(text)}>
          Run scenario
        </button>
        <button type="button" className="press" disabled={row.isOwn && text === row.text} onClick={() => onKeep(text)}>
          {row.isOwn ? 'Save scenario' : 'Copy scenario to site'}
        </button>
        <button type="button" className="press" onClick={() => save('scenario.yaml', text, 'text/yaml')}>
          Export scenario
        </button>
        {row.isOwn && (
          <button type="button" className="press-quiet" onClick={onDelete}>
            Delete scenario
          </button>
        )}
        <Outcome result={result} />
      </div>
      <ScenarioText site={site} text={text} marks={marks} onText={setText} />
      {trouble !== null && (
        <p role="alert" className="mt-1 text-error">
          {trouble}
        </p>
      )}
      <p className="mt-1 text-small text-soft">Press Ctrl+Space for a list of what fits there.</p>
    </section>
  )
}

function Outcome({ result }: { result: Played | null }) {
  if (!result) return null
  if ('message' in result) return <p className="text-error">{result.message}</p>
  const { broken, t } = result.run
  return broken ? (
    <p role="status" className="font-semibold text-error">
      ✕ at {clockOf(broken.t)}: {broken.what}
    </p>
  ) : (
    <p role="status" className="font-semibold text-rest">
      ✓ passed, {clockOf(t, 1_000)} of the house
    </p>
  )
}
