/** The parts of a house: what each needs, how it can fail, and what fails with it. */
export { downWith } from './down'
export { BOARD_STARTS_MS, faultText, HUB_STARTS_MS, isInternetService, partsOf, ROUTER_STARTS_MS } from './graph'
export { leadsInside, PLACE_WORDS, PLACES, reachedFrom, wayPaths, type Place } from './wayNeeds'
export { FAULT_KINDS, FAULT_WORDS, type FaultKind, type Part, type PartGraph, type PartId } from './part'
