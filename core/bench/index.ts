/** What is on the table: pins, drive, connections. */
export { assign, FORBIDDEN, type Assignment } from './assignment'
export { pinCost, restLevelOf, type PinCost } from './pinCosts'
export { planPins, type PinPlan, type PlannedPin } from './planPins'
export { assignedPin, connectionsOf, type Connection } from './connections'
export { optoChain, OPTO, type OptoChain } from './optoDrive'
export { planAndWrite, replanRoles, writePlan } from './applyPlan'
export { pinChoices, placeRole, rolesByGpio, type PinChoiceView } from './pinChoices'
