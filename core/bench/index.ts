/** What is on the table: pins, drive, connections. */
export { assign, FORBIDDEN, type Assignment } from './assignment'
export { pinCost, restLevelOf, type PinCost } from './pinCosts'
export { assignWithPairs, type PairDemand, type PairedAssignment } from './pairedAssignment'
export { smallestConflict } from './smallestConflict'
export { MOVE_COST, planPins, type PinPlan, type PlannedPin, type PlanOptions } from './planPins'
export { expanderSpots, FIRST_EXPANDER_GPIO, isExpanderPin, readPinOn, spotsOf } from './spots'
export { assignedPin, connectionsOf, type Connection } from './connections'
export { optoChain, OPTO, type OptoChain } from './optoDrive'
export { planAndWrite, replanRoles, writePlan } from './applyPlan'
export { pinChoices, placeRole, rolesByGpio, type PinChoiceView } from './pinChoices'
export { chainMilliamps, optoWorked } from './optoDrive'
export { baseDrive, TRANSISTOR, type BaseDrive } from './transistorDrive'
export { pullChoice, PULL, type PullChoice } from './pullChoice'
export { E12, E24, ohms, preferred } from './preferred'
export { linearHeat, MARGIN, reservoirDip, supplyBudget, type Share, type SupplyBudget } from './supply'
export { contactVerdict, loadAmps, LOAD_KINDS, snubberFor, type ContactVerdict, type Snubber } from './contacts'
export {
  BOXES,
  boxFill,
  CONDUCTOR_CUBIC_INCHES,
  CUBIC_CENTIMETRES_PER_CUBIC_INCH,
  wireCaution,
  type BoxFill,
} from './boxFill'
export { startUpStrips, type StartUpStrip, type Stretch } from './startUp'
export { figure, type Worked } from './worked'
export { netlistOf, type Device, type DeviceKind, type Net, type NetClass, type Netlist } from './netlist'
export { wireColour, type Conductor } from './wireColours'
export { pinLoad, type PinLoad } from './pinLoad'
export { forbiddenPatterns, readSelector, smallestRewiring, type Rewiring, type SelectorReading } from './fan'
