import { PanelRightClose } from 'lucide-react'
import { useDeferredValue } from 'react'
import { selectOpenFindings, selectUnchecked } from '../store/findings'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../store/store'
import { CountTags, spokenCounts, useCounts } from './counts'
import { FindingsDrawer } from './FindingsDrawer'
import { concerns, hereKey, useHere } from './here'

/**
 * Does the drawer stand open? What a hand has done counts first: folded stays folded, and opened stays open on that
 * side. Otherwise it is open where there is something to settle, or a cell in hand.
 */
function useShown(): boolean {
  const here = useHere()
  const { folded, openAt } = useAppSelector((state) => state.screen.drawer)
  const cell = useAppSelector((state) => state.screen.cell)
  const asked = useDeferredValue(useAppSelector(selectOpenFindings)).some((finding) => concerns(here, finding))
  // on the crossbar the findings stand in the cells, and its last columns want the room
  const onCrossbar = here.step === 'ways' && here.side === null
  return !folded && (openAt === hereKey(here) || (onCrossbar ? cell !== null : asked))
}

/** Opens the drawer, or folds it to its edge. */
export function useTurnDrawer(): () => void {
  const dispatch = useAppDispatch()
  const at = hereKey(useHere())
  const shown = useShown()
  return () => dispatch(screenActions.drawerTurned({ at, shown }))
}

/** Beside a wide view: the findings, or the edge that counts them. */
export function Drawer() {
  const shown = useShown()
  const turn = useTurnDrawer()
  if (!shown) return <DrawerEdge onOpen={turn} />
  return (
    <aside
      aria-label="Findings"
      className="relative flex w-72 shrink-0 flex-col overflow-auto border-l border-hair bg-panel px-3.5 py-3"
    >
      <button
        type="button"
        className="press-quiet absolute top-2.5 right-2 text-soft"
        aria-label="Fold the findings away"
        title="Fold away (d)"
        onClick={turn}
      >
        <PanelRightClose size={15} aria-hidden="true" />
      </button>
      <FindingsDrawer />
    </aside>
  )
}

/** The folded drawer: the shapes of the findings with their counts, one below the other. */
function DrawerEdge({ onOpen }: { onOpen: () => void }) {
  const counts = useCounts()
  const unchecked = useDeferredValue(useAppSelector(selectUnchecked)).length
  return (
    <aside aria-label="Findings" className="flex w-11 shrink-0 flex-col border-l border-hair bg-panel">
      <button
        type="button"
        className="flex flex-1 flex-col items-center gap-2.5 py-3 hover:bg-wall"
        aria-expanded={false}
        aria-label={`Open the findings: ${spokenCounts(counts, unchecked)}`}
        title="Open (d)"
        onClick={onOpen}
      >
        <CountTags counts={counts} unchecked={unchecked} />
        <span className="mt-1 text-small text-soft [writing-mode:vertical-rl]">Findings</span>
      </button>
    </aside>
  )
}
