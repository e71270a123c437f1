import { useSearchParams } from 'react-router'
import { TestAgain } from './TestAgain'
import { BuildsOnBoards, TestRuns, useShownControllers } from './TestRuns'

/** Runs there were, what must be tested again, and which build is on which board. */
export function TestsSide() {
  const controllers = useShownControllers()
  const [, setParameters] = useSearchParams()
  const show = (run: number) => setParameters({ run: String(run) })
  return (
    <div className="mt-3 grid gap-x-8 gap-y-5 @3xl:grid-cols-2">
      <TestRuns onShow={show} />
      <div className="space-y-5">
        <TestAgain controllers={controllers} onShow={show} />
        <BuildsOnBoards />
      </div>
    </div>
  )
}
