import { createSelector } from '@reduxjs/toolkit'
import { checkSite, type Finding } from '../../core/findings'
import type { RootState } from './store'

const NONE: readonly Finding[] = []

/** Findings of the document on screen, checked again only when it or the boards' flashes change. */
export const selectFindings = createSelector(
  [(state: RootState) => state.site.site, (state: RootState) => state.logbook.boards],
  (site, boards): readonly Finding[] => (site ? checkSite(site, { flashed: boards }) : NONE),
)

/** Findings that still want something, narrowed to a controller. */
export const selectOpenFindings = createSelector([selectFindings, (state: RootState) => state.screen.controller], (findings, controller) =>
  findings.filter((finding) => finding.accepted === undefined && (controller === null || finding.where.controller === controller)),
)
