/** The site document: what a maker has said, once, about rooms, controllers, channels and their ways in. */
export * from './ids'
export * from './schema'
export { parseSite, readSite, writeSite, siteJsonSchema, refusalOf, placeOf, SiteDocument, SiteRefused, LARGEST_SITE_BYTES, type Parsed } from './parse'
export { makeEdit, applyOperations, inverted, patchBetween, EditRefused, type Edit, type Operation } from './edits'
export { undoState, type HistoryEntry, type HistoryKind, type UndoState } from './history'
export * from './lookups'
export { emptySite, newController, newSwitched, newInput, optoModule } from './build'
