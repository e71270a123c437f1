/** The parts of a house: what each needs, how it can fail, and what fails with it. */
export { levelOfContacts } from './contactLevel'
export { downWith } from './down'
export { BOARD_STARTS_MS, faultText, HUB_STARTS_MS, isInternetService, partsOf, ROUTER_STARTS_MS } from './graph'
export { levelsOf, turnsOff } from './levels'
export { wayPaths } from './wayPaths'
export {
  homeOfService,
  leadsInside,
  linkNeeds,
  PLACE_WORDS,
  PLACES,
  reachedFrom,
  wayNeeds,
  type Place,
} from './wayNeeds'
export { FAULT_KINDS, FAULT_WORDS, type FaultKind, type Part, type PartGraph, type PartId } from './part'
