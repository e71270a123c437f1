import { lazy, Suspense } from 'react'
import { comes } from '../parts/comes'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../store/store'
import { FindingsDrawer } from './FindingsDrawer'
import { JobList } from './JobRail'

const OverPanel = lazy(() => comes(() => import('./OverPanel')))

/** The steps and the findings, over the view. */
export function NarrowPanels({ siteId }: { siteId: string }) {
  const dispatch = useAppDispatch()
  const panel = useAppSelector((state) => state.screen.panel)
  if (panel === null) return null
  const close = () => dispatch(screenActions.panelTurned(panel))
  return (
    <Suspense fallback={null}>
      {panel === 'steps' ? (
        <OverPanel title="Steps" from="left" onClose={close}>
          <nav aria-label="Steps of the job" className="-mx-4 mt-2">
            <JobList siteId={siteId} />
          </nav>
        </OverPanel>
      ) : (
        <OverPanel title="Findings" from="below" onClose={close}>
          <FindingsDrawer />
        </OverPanel>
      )}
    </Suspense>
  )
}
