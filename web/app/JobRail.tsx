import { NavLink } from 'react-router'
import { formatDistanceToNowStrict } from 'date-fns'
import { counted } from '../../core/site'
import { selectOpenFindings, selectUnchecked } from '../store/findings'
import { selectShown } from '../store/selection'
import { useAppSelector, type RootState } from '../store/store'
import { STEPS, type StepId } from './steps'

/** Findings of a step, or what of it no check has looked at. */
function checkedWords(state: RootState, step: StepId): string {
  const found = selectOpenFindings(state).filter((finding) => finding.where.step === step).length
  if (found > 0) return counted(found, 'finding')
  const blank = selectUnchecked(state).filter((row) => row.step === step).length
  return blank > 0 ? `${blank} not checked` : 'no findings'
}

/** Of the controllers that are shown: what runs on the boards. */
function buildWords({ logbook: { builds, boards } }: RootState, isShown: (row: OfOne) => boolean): string {
  if (!builds.some(isShown)) return 'nothing built'
  const flashed = boards.filter(isShown)
  if (flashed.length === 0) return 'nothing flashed'
  const behind = flashed.filter((board) => board.changes.length > 0).length
  return behind ? `${counted(behind, 'board')} out of date` : 'boards up to date'
}

/** The last test run of what is shown. */
function handoverWords({ logbook: { runs } }: RootState, isShown: (row: OfOne) => boolean): string {
  const items = runs.find(isShown)?.items ?? []
  const count = (outcome: string) => items.filter((item) => item.outcome === outcome).length
  if (count('open') > 0) return `${items.length - count('open')} of ${items.length} tested`
  if (count('failed') > 0) return `${count('failed')} failed`
  return items.length > 0 ? 'all tested' : 'not tested yet'
}

/** The last entry of what is shown. */
function logbookWords({ logbook: { entries } }: RootState, isShown: (row: OfOne) => boolean): string {
  const last = entries.find(isShown)
  return last ? `last: ${formatDistanceToNowStrict(new Date(last.at), { addSuffix: true })}` : 'empty'
}

/** Channels that a single failure beside their own chain leaves without control: findings B01 and B07. */
function hangingWords(state: RootState, shown: string | null): string {
  const { site } = state.site
  if (!site || site.channels.length === 0) return 'nothing to ask'
  const found = selectOpenFindings(state).filter(
    ({ id, where }) => (id === 'B01' || id === 'B07') && (shown === null || where.controller === shown),
  )
  return found.length > 0 ? `${counted(found.length, 'weak spot')}` : 'no weak spots'
}

interface OfOne {
  readonly controller?: string | null
}

/** One line for each step: what is open in it, for the controller that the page shows. */
function openIn(state: RootState): Record<StepId, string> {
  const shown = selectShown(state)
  const isShown = ({ controller }: OfOne) => shown === null || controller === null || controller === shown
  const { trials } = state.logbook
  return {
    bench: checkedWords(state, 'bench'),
    ways: checkedWords(state, 'ways'),
    build: buildWords(state, isShown),
    trial: trials.length ? `${counted(trials.length, 'run')} saved` : 'not tried yet',
    whatif: hangingWords(state, shown),
    handover: handoverWords(state, isShown),
    logbook: logbookWords(state, isShown),
  }
}

/** Beside a wide view. */
export const JobRail = ({ siteId }: { siteId: string }) => (
  <nav aria-label="Steps of the job" className="w-34 shrink-0 border-r border-hair pt-3">
    <JobList siteId={siteId} />
  </nav>
)

export function JobList({ siteId }: { siteId: string }) {
  const lines = useAppSelector(openIn, (a, b) => STEPS.every((step) => a[step.id] === b[step.id]))
  return (
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
  )
}
