/** Which pin each role of a board gets, and why. */
export { assign, FORBIDDEN, type Assignment } from './assignment'
export { pinCost, restLevelOf, type PinCost } from './pinCosts'
export { assignWithPairs, type PairDemand, type PairedAssignment } from './pairedAssignment'
export { smallestConflict } from './smallestConflict'
export { MOVE_COST, planPins, type PinPlan, type PlannedPin, type PlanOptions } from './planPins'
export {
  assignedLabel,
  assignedPin,
  expanderPins,
  FIRST_EXPANDER_GPIO,
  isExpanderPin,
  pinsOf,
  readPinOn,
} from './controllerPins'
export { firstPins, movesOf, planKeeping, type Move } from './moves'
export { planAndWrite, replanRoles, writePlan } from './applyPlan'
export { pinChoices, placeRole, rolesByGpio, type PinChoiceView } from './pinChoices'
export { startUpStrips, type StartUpStrip, type Stretch } from './startUp'
