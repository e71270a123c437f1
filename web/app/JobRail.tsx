import { NavLink } from 'react-router'
import { formatDistanceToNowStrict } from 'date-fns'
import { selectOpenFindings, selectUnchecked } from '../store/findings'
import { useAppSelector, type RootState } from '../store/store'
import { STEPS, type StepId } from './steps'

const plural = (count: number, word: string): string => `${count} ${word}${count === 1 ? '' : 's'}`

/** One line for each step: what is open in it. */
function openIn(state: RootState): Record<StepId, string> {
  const open = selectOpenFindings(state)
  const unchecked = selectUnchecked(state)
  const toSettle = (step: string) => {
    const count = open.filter((finding) => finding.where.step === step).length
    if (count > 0) return `${count} to settle`
    const blank = unchecked.filter((row) => row.step === step).length
    return blank > 0 ? `${blank} not checked` : 'settled'
  }
  const { builds, boards, runs, trials, entries } = state.logbook
  const behind = boards.filter((board) => board.changes.length > 0).length
  const lastRun = runs[0]
  const untested = lastRun ? lastRun.items.filter((item) => item.outcome === 'open').length : 0
  const failed = lastRun ? lastRun.items.filter((item) => item.outcome === 'failed').length : 0
  const last = entries[0]
  return {
    bench: toSettle('bench'),
    ways: toSettle('ways'),
    build:
      builds.length === 0
        ? 'nothing built'
        : boards.length === 0
          ? 'nothing flashed'
          : behind
            ? `${plural(behind, 'board')} behind`
            : 'boards up to date',
    trial: trials.length ? `${plural(trials.length, 'run')} kept` : 'not tried yet',
    logbook: untested
      ? `${untested} untested`
      : failed
        ? `${failed} failed`
        : last
          ? `last: ${formatDistanceToNowStrict(new Date(last.at), { addSuffix: true })}`
          : 'empty',
  }
}

export function JobRail({ siteId }: { siteId: string }) {
  const lines = useAppSelector(openIn, (a, b) => STEPS.every((step) => a[step.id] === b[step.id]))
  return (
    <nav aria-label="Steps of the job" className="w-34 shrink-0 border-r border-hair pt-3">
      <ol>
        {STEPS.map((step) => (
          <li key={step.id}>
            <NavLink
              to={`/${siteId}/${step.id}`}
              className="block border-l-4 border-transparent py-2 pr-2 pl-3.5 hover:bg-panel aria-[current=page]:border-brass-fill aria-[current=page]:bg-panel"
            >
              <span className="font-place block text-[0.9375rem] font-semibold">{step.name}</span>
              <span className="block text-small text-soft">{lines[step.id]}</span>
            </NavLink>
          </li>
        ))}
      </ol>
    </nav>
  )
}
