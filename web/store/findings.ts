import { createSelector } from '@reduxjs/toolkit'
import { checkSite, uncheckedOf, type Finding, type Unchecked } from '../../core/findings'
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

/**
 * Checks the site again after each change, once the change has been painted: a keystroke waits for no check (200
 * channels take 12 to 25 ms). While changes follow each other quickly the findings may lag, but never longer than
 * LONGEST_LAG_MS.
 */
export function followFindings(store: {
  getState(): State
  dispatch(action: ReturnType<typeof screenActions.findingsChecked>): unknown
  subscribe(listener: () => void): unknown
}): void {
  let of: { site: Site | null; boards: unknown; credentials: unknown } = { site: null, boards: null, credentials: null }
  let waitingSince: number | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  const check = () => {
    waitingSince = null
    const { site, logbook } = store.getState()
    findings = site.site ? checkSite(site.site, { flashed: logbook.boards, credentials: logbook.credentials }) : []
    store.dispatch(screenActions.findingsChecked())
  }
  store.subscribe(() => {
    const { site, logbook } = store.getState()
    if (of.site === site.site && of.boards === logbook.boards && of.credentials === logbook.credentials) return
    const first = of.site === null || of.site.id !== site.site?.id
    of = { site: site.site, boards: logbook.boards, credentials: logbook.credentials }
    clearTimeout(timer)
    waitingSince ??= performance.now()
    if (first || performance.now() - waitingSince > LONGEST_LAG_MS) check()
    else timer = setTimeout(() => requestAnimationFrame(() => setTimeout(check)), PAUSE_MS)
  })
}

export const selectFindings = createSelector([(state: State) => state.screen.checked], () => findings)

/** Findings that still want something, narrowed to a controller; those of a service or the whole site stay. */
export const selectOpenFindings = createSelector(
  [selectFindings, selectShown],
  (all, controller) =>
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
