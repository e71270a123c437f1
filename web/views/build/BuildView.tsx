import { format } from 'date-fns'
import { Download } from 'lucide-react'
import { useEffect, useState } from 'react'
import { tablesOf } from '../../../core/image'
import { boardIn } from '../../../core/boards'
import { ask, sitePath } from '../../store/api'
import { attempt } from '../../store/editing'
import { selectOpenFindings } from '../../store/findings'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import type { BuildRow } from '../../store/logbookSlice'
import { FileReader } from './FileReader'
import { FlashForm } from './FlashForm'
import { Secrets } from './Secrets'

interface BuildFile {
  readonly name: string
  readonly text: string
}

/** Firmware, sheets and tables of a controller, and how they differ from what is on the board. */
export function BuildView() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const pending = useAppSelector((state) => state.site.pending)
  const narrowed = useAppSelector((state) => state.screen.controller)
  const { builds, boards } = useAppSelector((state) => state.logbook)
  const findings = useAppSelector(selectOpenFindings)
  const controller = site.controllers.find((candidate) => candidate.id === narrowed) ?? site.controllers[0]
  const own = builds.filter((build) => build.controller === controller?.id)
  const [shown, setShown] = useState<number | null>(null)
  const [files, setFiles] = useState<readonly BuildFile[]>([])
  const [file, setFile] = useState('sheets/service.md')
  const build = own.find((candidate) => candidate.id === shown) ?? own[0]
  useEffect(() => {
    if (build) void attempt(ask<{ files: BuildFile[] }>('GET', `/api/builds/${build.id}`)).then((answer) => answer && setFiles(answer.files))
    else setFiles([])
  }, [build?.id, build])
  if (!controller) return <Empty />
  const blocking = findings.filter((finding) => finding.where.controller === controller.id && (finding.severity === 'danger' || finding.severity === 'error'))
  const now = boardIn(site, controller.board) ? tablesOf(site, controller.id).image.hash : ''
  const board = boards.find((candidate) => candidate.controller === controller.id)
  const make = async (despite: boolean) => {
    const answer = await attempt(ask<{ build: BuildRow }>('POST', `${sitePath(site.id)}/builds`, { controller: controller.id, despiteFindings: despite }), `${controller.name} is built`)
    if (answer) setShown(answer.build.id)
  }
  const reading = files.find((candidate) => candidate.name === file) ?? files[0]
  return (
    <div className="flex min-h-full flex-col px-5 py-4">
      <div className="flex items-baseline gap-4">
        <h1 className="text-view font-bold">Build</h1>
        <label className="flex items-baseline gap-1.5 text-note text-soft">
          controller
          <select className="field" value={controller.id} onChange={(event) => dispatch(screenActions.controllerPicked(event.target.value))}>
            {site.controllers.map((c) => <option key={c.id} value={c.id}>{c.name}</option>)}
          </select>
        </label>
        <span className="text-note text-soft">tables now <code className="font-mono text-ink">{now}</code></span>
        <div className="ml-auto flex gap-2">
          {blocking.length > 0 && <button type="button" className="press" disabled={pending > 0} onClick={() => void make(true)}>Build despite {blocking.map((finding) => finding.id).join(', ')}</button>}
          <button type="button" className="press-main" disabled={blocking.length > 0 || pending > 0} onClick={() => void make(false)}>Build {controller.name}</button>
        </div>
      </div>
      {blocking.length > 0 && <p className="mt-1 text-note text-error">{blocking.length} open {blocking.length === 1 ? 'finding' : 'findings'} of danger or error on this controller: settle or accept them first.</p>}
      <div className="mt-3 grid min-h-0 flex-1 grid-cols-[15rem_minmax(0,1fr)] gap-5">
        <div className="space-y-5">
          <section aria-label="On the board">
            <h2 className="rule-head">On the board</h2>
            {!board && <p className="mt-1.5 text-note text-soft">No flash on record.</p>}
            {board && (
              <div className="mt-1.5 text-note">
                <p>
                  Build {board.number}, <code className="font-mono">{board.hash}</code>, since {format(new Date(board.at), 'd MMM HH:mm')}
                </p>
                {board.hash === now ? <p className="mt-1 font-semibold text-rest">The board runs what you see here.</p> : <p className="mt-1 text-soft">Changed since then:</p>}
                <ul className="mt-1">
                  {board.hash !== now && board.changes.map((change) => (
                    <li key={change.what} className="flex gap-1.5 border-b border-hair py-0.5">
                      <span className="w-3 shrink-0 font-mono font-semibold" aria-label={change.kind}>{change.kind === 'added' ? '+' : change.kind === 'removed' ? '−' : '≠'}</span>
                      <span className="break-words">{change.what}</span>
                    </li>
                  ))}
                </ul>
              </div>
            )}
          </section>
          <section aria-label="Builds">
            <h2 className="rule-head">Builds</h2>
            {own.length === 0 && <p className="mt-1.5 text-note text-soft">None yet. Press “Build {controller.name}”.</p>}
            <ul>
              {own.map((candidate) => (
                <li key={candidate.id}>
                  <button type="button" aria-pressed={candidate.id === build?.id} className="flex w-full items-baseline gap-2 border-b border-hair py-1 text-left text-note hover:bg-panel aria-pressed:font-semibold" onClick={() => setShown(candidate.id)}>
                    <span>build {candidate.number}</span>
                    <code className="font-mono text-soft">{candidate.hash}</code>
                    <span className="ml-auto text-small text-soft">{candidate.flashes.length ? 'flashed' : format(new Date(candidate.at), 'd MMM')}</span>
                  </button>
                </li>
              ))}
            </ul>
          </section>
          {build && <FlashForm key={build.id} build={build} />}
          <Secrets controller={controller} />
        </div>
        {build ? (
          <section aria-label="Files of the build" className="flex min-h-0 min-w-0 flex-col">
            <div className="rule-head flex items-baseline gap-3">
              <h2>Build {build.number}: revision {build.revision}, {files.length} files</h2>
              <a className="press ml-auto text-note" href={`/api/builds/${build.id}/zip`} download>
                <Download size={13} aria-hidden="true" />
                zip
              </a>
            </div>
            <div className="grid min-h-0 flex-1 grid-cols-[12rem_minmax(0,1fr)]">
              <ul className="border-r border-hair py-1 pr-2">
                {/* what is read at the bench first, then what is compiled */}
                {[...files].sort((a, b) => Number(a.name.startsWith('firmware/')) - Number(b.name.startsWith('firmware/'))).map((candidate) => (
                  <li key={candidate.name}>
                    <button type="button" aria-pressed={candidate.name === reading?.name} className="min-h-6 w-full truncate px-1.5 text-left font-mono text-[0.75rem] hover:bg-panel aria-pressed:bg-ink aria-pressed:text-wall" title={candidate.name} onClick={() => setFile(candidate.name)}>
                      {candidate.name.replace('firmware/', '')}
                    </button>
                  </li>
                ))}
              </ul>
              {reading && <FileReader key={`${build.id}/${reading.name}`} name={reading.name} text={reading.text} />}
            </div>
          </section>
        ) : (
          <p className="text-soft">A build holds the firmware’s tables, the runtime, a secrets example, the service sheet, the connection list, flash steps, and the site itself.</p>
        )}
      </div>
    </div>
  )
}

function Empty() {
  return (
    <div className="px-5 py-4">
      <h1 className="text-view font-bold">Build</h1>
      <p className="mt-2 text-soft">Nothing to build yet: put a controller on the bench first.</p>
    </div>
  )
}
