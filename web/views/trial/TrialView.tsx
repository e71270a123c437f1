import { side, SideTabs, SideView, useSide } from '../../parts/Sides'
import { SimulatedHouse } from './SimulatedHouse'

/** A simulated house, what is tried in it by itself, and beside it the firmware as processes of this machine. */
const SIDES = [
  { id: 'house', name: 'Simulated house', View: SimulatedHouse },
  side('scenarios', 'Scenarios', async () => (await import('./scenarios/Scenarios')).Scenarios),
  side('acceptance', 'Acceptance', async () => (await import('./acceptance/Acceptance')).Acceptance),
  side('measures', 'Measures', async () => (await import('./measures/Measures')).Measures),
  side('fault', 'Find the fault', async () => (await import('../whatif/find/FindTheFault')).FindTheFault),
  side('rig', 'Live rig', async () => (await import('./rig/Rig')).Rig),
]

export function TrialView() {
  const [current, pick] = useSide(SIDES)
  return (
    <div className="flex flex-col pt-2 @3xl:h-full">
      <div className="px-5">
        <SideTabs label="Sides of the trial" sides={SIDES} current={current.id} onPick={pick} />
      </div>
      <div className="@3xl:min-h-0 @3xl:flex-1 @3xl:overflow-auto">
        <SideView side={current} />
      </div>
    </div>
  )
}
