import { useSearchParams } from 'react-router'
import { OnceRead } from '../../parts/OnceRead'
import { side, SideTabs, SideView, useSide } from '../../parts/Sides'
import { ViewHead } from '../../parts/ViewHead'
import { useAppSelector } from '../../store/store'
import { TestRunSheet } from './tests/TestRunSheet'

const SIDES = [
  side('tests', 'Test runs', async () => (await import('./tests/TestsSide')).TestsSide),
  side('flash', 'Flash', async () => (await import('./flash/FlashSide')).FlashSide),
  side('leaving', 'Another board', async () => (await import('./leaving/AnotherBoard')).AnotherBoard),
  side('boards', 'Boards here', async () => (await import('./boards/BoardsHere')).BoardsHere),
] as const

/** The last mile: boards on the network, tests that tick themselves, and what to do when a board dies. */
export function HandoverView() {
  const runs = useAppSelector((state) => state.logbook.runs)
  // in the address, so that a phone at the box can be given it, and a reload stays in it
  const [parameters, setParameters] = useSearchParams()
  const [shown, pick] = useSide(SIDES)
  const run = runs.find((candidate) => String(candidate.id) === parameters.get('run'))
  if (run)
    return (
      <div className="px-5 py-4">
        <h1 className="sr-only">Handover</h1>
        <TestRunSheet run={run} onClose={() => setParameters({})} />
      </div>
    )
  return (
    <div className="px-5 py-4">
      <SideTabs label="Sides of Handover" sides={SIDES} current={shown.id} onPick={pick} />
      <div className="mt-3">
        <ViewHead title="Handover" note="Flash, pair, install with the supply off, test in the safe order, sign off." />
      </div>
      <OnceRead>
        <SideView side={shown} />
      </OnceRead>
    </div>
  )
}
