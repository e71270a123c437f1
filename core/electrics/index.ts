/** Currents, volts and heat: supply, drive, pulls, contacts, and the box that all of it goes into. */
export { chainMilliamps, optoChain, OPTO, optoCalculations, type OptoChain } from './optoDrive'
export { baseDrive, TRANSISTOR, type BaseDrive } from './transistorDrive'
export { pullChoice, PULL, type PullChoice } from './pullChoice'
export { E12, E24, ohms, preferred } from './preferred'
export type { Share, SupplyBudget } from './budget'
export { linearHeat, MARGIN, reservoirDip, supplyBudget } from './supply'
export { contactVerdict, loadAmps, LOAD_KINDS, snubberFor, type ContactVerdict, type Snubber } from './contacts'
export {
  BOXES,
  boxFill,
  CONDUCTOR_CUBIC_INCHES,
  CUBIC_CENTIMETRES_PER_CUBIC_INCH,
  wireCaution,
  type BoxFill,
} from './boxFill'
export { figure, type Calculation } from './calculation'
export { pinLoad, type PinLoad } from './pinLoad'
