import { format } from 'date-fns'
import type { Outcome, TestRun } from '../../../../core/api'
import type { Controller } from '../../../../core/site'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'
import { selectShown } from '../../../store/selection'
import { useAppSelector } from '../../../store/store'

/** Those that the page shows: the one that is picked, or all. */
export function useShownControllers(): readonly Controller[] {
  const shown = useAppSelector(selectShown)
  const controllers = useAppSelector((state) => state.site.site!.controllers)
  return shown === null ? controllers : controllers.filter(({ id }) => id === shown)
}

/** Which build is on each board, and whether the site has gone on since. */
export function BuildsOnBoards() {
  const controllers = useShownControllers()
  return (
    <section aria-label="Boards">
      <h2 className="rule-head">Builds on boards</h2>
      <table className="sheet w-full">
        <tbody>
          {controllers.map((controller) => (
            <BoardLine key={controller.id} controller={controller} />
          ))}
        </tbody>
      </table>
    </section>
  )
}

function BoardLine({ controller: { id, name } }: { controller: Controller }) {
  const { boards, builds } = useAppSelector((state) => state.logbook)
  const board = boards.find((candidate) => candidate.controller === id)
  const built = builds.some((candidate) => candidate.controller === id)
  const unflashed = built ? 'built, not flashed' : 'nothing built'
  const behind = board && board.changes.length > 0 ? 'out of date' : 'up to date'
  return (
    <tr>
      <td className="font-semibold">{name}</td>
      <td className="text-note">{board ? `build ${board.number}, ${behind}` : unflashed}</td>
    </tr>
  )
}

/** Test runs there were, and the press that begins one. */
export function TestRuns({ onShow }: { onShow: (run: number) => void }) {
  const site = useAppSelector((state) => state.site.site)!
  const controllers = useShownControllers()
  const all = useAppSelector((state) => state.logbook.runs)
  const shown = useAppSelector(selectShown)
  const runs = all.filter((run) => shown === null || run.controller === shown)
  const begin = async (controller: string) => {
    const answer = await attempt(call('newTestRun', { site: site.id, body: { controller } }))
    if (answer) onShow(answer.id)
  }
  return (
    <section aria-label="Test runs">
      <h2 className="rule-head">Test runs</h2>
      <p className="mt-1.5 text-note text-soft">
        In the safe order: controller alone, relays with no load, load.
        {controllers.length > 1 && ' Start a test run of:'}
      </p>
      <div role="group" aria-label="Start test run" className="mt-1.5 flex flex-wrap items-center gap-1.5">
        {controllers.map(({ id, name }) => (
          <button key={id} type="button" className="press" onClick={() => void begin(id)}>
            {controllers.length > 1 ? name : `Start test run of ${name}`}
          </button>
        ))}
      </div>
      <ul className="mt-2">
        {runs.map((run) => (
          <RunLine
            key={run.id}
            run={run}
            name={site.controllers.find(({ id }) => id === run.controller)?.name ?? run.controller}
            onShow={() => onShow(run.id)}
          />
        ))}
      </ul>
    </section>
  )
}

function RunLine({ run, name, onShow }: { run: TestRun; name: string; onShow: () => void }) {
  const count = (outcome: Outcome) => run.items.filter((item) => item.outcome === outcome).length
  return (
    <li>
      <button
        type="button"
        className="w-full border-b border-hair py-1 text-left text-note hover:bg-panel"
        onClick={onShow}
      >
        <span className="font-semibold">{name}</span>, {format(new Date(run.at), 'd MMM HH:mm')}
        <span className="block text-small text-soft">
          {run.items.length - count('open')} of {run.items.length} done, {count('failed')} failed
        </span>
      </button>
    </li>
  )
}
