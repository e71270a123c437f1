import { side, SideTabs, SideView, useSide } from '../../parts/Sides'
import { WhoIsLeft } from './left/WhoIsLeft'

/** One model asked in both directions: who is left when something fails, and what has failed when something is seen. */
const SIDES = [
  { id: 'left', name: 'Who is left', View: WhoIsLeft },
  side('fault', 'Find the fault', async () => (await import('./find/FindTheFault')).FindTheFault),
  side('rates', 'Failure rates', async () => (await import('./rates/FailureRates')).FailureRates),
  side('years', 'Years by chance', async () => (await import('./years/YearsByChance')).YearsByChance),
]

export function WhatIfView() {
  const [current, pick] = useSide(SIDES)
  return (
    <div className="flex flex-col pt-2 @3xl:h-full">
      <div className="px-5">
        <SideTabs label="Sides of what if" sides={SIDES} current={current.id} onPick={pick} />
      </div>
      <div className="@3xl:min-h-0 @3xl:flex-1 @3xl:overflow-auto">
        <SideView side={current} />
      </div>
    </div>
  )
}
