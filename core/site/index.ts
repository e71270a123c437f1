/** The site document: what a maker has said, once, about rooms, controllers, channels and their ways in. */
export * from './ids'
export { name as Name } from './shapes'
export { LONGEST_MS, LONGEST_NAME, SITE_VERSION } from './limits'
export { ID_PATTERN, freshId, idFromName, idMaker } from './names'
export * from './schema'
export * from './channels'
export * from './ways'
export * from './wayParts'
export * from './services'
export * from './wire'
export { migrate, RENAMED_SECRETS } from './migrate'
export {
  parseSite,
  readSite,
  writeSite,
  siteJsonSchema,
  refusalOf,
  placeOf,
  SiteDocument,
  SiteRefused,
  LARGEST_SITE_BYTES,
  type Parsed,
} from './parse'
export {
  draftEdit,
  makeEdit,
  applyOperations,
  inverseOf,
  patchBetween,
  EditRefused,
  type Edit,
  type Operation,
} from './edits'
export { goneWith, type Gone } from './gone'
export { rebased } from './rebase'
export { lastTurn, undoState, type HistoryEntry, type HistoryKind, type UndoState } from './history'
export * from './kinds'
export * from './lookups'
export { MAINS_CHOICES } from './mainsChoices'
export { handFor, heldFor, isTooNear, longHoldOf, opensAtASpike } from './refusals'
export { narrowed, siteOf } from './narrow'
export { asItStands, plainCopy } from './plain'
export { grouped } from './grouped'
export { counted, figureOf, timeText } from './words'
export {
  emptySite,
  newChannel,
  newController,
  newFeed,
  newInput,
  newLoad,
  newPaired,
  newPulsed,
  newStepped,
  newSwitched,
  optoModule,
} from './build'
export { NO_FAILURES, type Failures, type OwnRate, type Strip } from './failures'
