import { format } from 'date-fns'
import type { Outcome, TestRun } from '../../../core/api'
import type { Controller } from '../../../core/site'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { useAppSelector } from '../../store/store'

/** Which build is on each board, and whether the site has gone on since. */
export function BuildsOnBoards() {
  const controllers = useAppSelector((state) => state.site.site!.controllers)
  return (
    <section aria-label="Boards">
      <h2 className="rule-head">Which build is where</h2>
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
  const behind = board && board.changes.length > 0 ? 'behind the site' : 'as the site'
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
  const runs = useAppSelector((state) => state.logbook.runs)
  const begin = async (controller: string) => {
    const answer = await attempt(call('newTestRun', { site: site.id, body: { controller } }))
    if (answer) onShow(answer.id)
  }
  return (
    <section aria-label="Test runs">
      <h2 className="rule-head">Test runs</h2>
      <p className="mt-1.5 text-note text-soft">In the safe order: controller alone, relays with no load, load.</p>
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {site.controllers.map(({ id, name }) => (
          <button key={id} type="button" className="press" onClick={() => void begin(id)}>
            Test {name}
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
          {count('passed')} passed, {count('failed')} failed, {count('open')} open
        </span>
      </button>
    </li>
  )
}
