import { createSelector } from '@reduxjs/toolkit'
import { checkInSteps, uncheckedOf, type Finding, type Unchecked } from '../../core/findings'
import type { Site } from '../../core/site'
import { screenActions, type ScreenState } from './screenSlice'
import type { LogbookState } from './logbookSlice'
import { selectShown } from './selection'
import type { SiteState } from './siteSlice'

/**
 * Findings of the document on screen. They hold functions (the fixes), so they live beside the store and not in it;
 * `screen.checked`
 * tells when they are new.
 */
interface State {
  readonly site: SiteState
  readonly logbook: LogbookState
  readonly screen: ScreenState
}

let findings: readonly Finding[] = []

const LONGEST_LAG_MS = 400
/** Hands that go on typing are not disturbed: the check waits for a pause. */
const PAUSE_MS = 120
/** A check that takes longer lets the hand in: half of what a frame has. */
const SLICE_MS = 8

/**
 * Checks the site again after each change, once the change has been painted, and in slices: no keystroke waits for it,
 * however large the site. While changes follow each other quickly the findings may lag; a check that a change has
 * overtaken begins again.
 */
export function followFindings(store: {
  getState(): State
  dispatch(action: ReturnType<typeof screenActions.findingsChecked>): unknown
  subscribe(listener: () => void): unknown
}): void {
  let asked: Asked = { site: null, boards: null, credentials: null }
  let waitingSince: number | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  /** In a while, after the next frame: a page that nobody looks at has no frames, and checks all the same. */
  const checkAfter = (ms: number) => {
    clearTimeout(timer)
    timer = setTimeout(() => {
      const begin = () => (timer = setTimeout(check))
      if (typeof document === 'undefined' || document.hidden) begin()
      else requestAnimationFrame(begin)
    }, ms)
  }
  const check = () => {
    const of = asked
    const ended = (found: readonly Finding[]) => {
      waitingSince = null
      findings = found
      store.dispatch(screenActions.findingsChecked())
      // what has changed under a check that was let end is looked at next
      if (asked !== of) checkAfter(PAUSE_MS)
    }
    inSlices(stepsOf(of), ended, (slice) => (timer = setTimeout(slice)))
  }
  store.subscribe(() => {
    const { site, logbook } = store.getState()
    const now: Asked = { site: site.site, boards: logbook.boards, credentials: logbook.credentials }
    if (asked.site === now.site && asked.boards === now.boards && asked.credentials === now.credentials) return
    const first = asked.site === null || asked.site.id !== now.site?.id
    asked = now
    waitingSince ??= performance.now()
    // a check that runs already is let end when changes go on and on: late findings are better than none
    if (first || performance.now() - waitingSince < LONGEST_LAG_MS) checkAfter(first ? 0 : PAUSE_MS)
  })
}

const stepsOf = ({ site, boards, credentials }: Asked): Iterator<undefined, Finding[]> =>
  site ? checkInSteps(site, { flashed: boards ?? [], credentials }) : { next: () => ({ done: true, value: [] }) }

/** Goes through steps as long as a slice of time lasts, and goes on in the next one. */
function inSlices<T>(steps: Iterator<undefined, T>, ended: (value: T) => void, later: (slice: () => void) => void) {
  const slice = () => {
    for (const until = performance.now() + SLICE_MS; performance.now() < until;) {
      const step = steps.next()
      if (step.done) return ended(step.value)
    }
    later(slice)
  }
  slice()
}

/** What a check looks at. */
interface Asked {
  readonly site: Site | null
  readonly boards: LogbookState['boards'] | null
  readonly credentials: LogbookState['credentials']
}

export const selectFindings = createSelector([(state: State) => state.screen.checked], () => findings)

/** Findings that still want something, narrowed to a controller; those of a service or the whole site stay. */
export const selectOpenFindings = createSelector([selectFindings, selectShown], (all, controller) =>
  all.filter(
    (finding) =>
      finding.accepted === undefined &&
      (controller === null || finding.where.controller === undefined || finding.where.controller === controller),
  ),
)

/** What no check has looked at, narrowed to a controller like the findings. */
export const selectUnchecked = createSelector(
  [
    (state: State) => state.site.site,
    selectShown,
    (state: State) => (state.logbook.credentials === null ? 'the server has not answered yet' : null),
  ],
  (site, picked, noCredentials): readonly Unchecked[] =>
    site
      ? uncheckedOf(site, noCredentials).filter(
          ({ controller }) => picked === null || controller === undefined || controller === picked,
        )
      : [],
)
