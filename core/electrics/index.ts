/** Currents, volts and heat: supply, drive, pulls, contacts, and the box that all of it goes into. */
export {
  chainMilliamps,
  chainOhms,
  optoChain,
  OPTO,
  optoCalculations,
  pullInMilliamps,
  type OptoChain,
} from './optoDrive'
export { baseDrive, TRANSISTOR, type BaseDrive } from './transistorDrive'
export { pullChoice, PULL, type PullChoice } from './pullChoice'
export { E12, E24, ohms, preferred } from './preferred'
export type { Share, SupplyBudget } from './budget'
export { linearHeat, MARGIN, MOST_DIP_VOLTS, reservoirDip, reservoirFor, supplyBudget } from './supply'
export {
  COIL_SNUBBER,
  contactorThatFits,
  contactRatingOf,
  contactVerdict,
  DC_ARC_VOLTS,
  LOAD_KINDS,
  loadAmps,
  betweenLines,
  countedAmps,
  loadVolts,
  SILVER_MILLIAMPS,
  snubberFor,
  snubberLeak,
  suppressionFor,
  type ContactVerdict,
  type Snubber,
  type Suppression,
} from './contacts'
export { conductorAmps, conductorSize, feedVerdict, touchesMains, type FeedVerdict } from './mainsFeed'
export {
  BOXES,
  boxFill,
  countsConductors,
  fillOf,
  CONDUCTOR_CUBIC_INCHES,
  CUBIC_CENTIMETRES_PER_CUBIC_INCH,
  type BoxFill,
} from './boxFill'
export { cannotConvert, railMilliamps, railsOf, type Rail, type RailKey } from './rails'
export { boardPull, pulledVolts, pullsText, readsAs, type Pull } from './pinVolts'
export { figure, inSentence, type Calculation } from './calculation'
export { pinLoad, type PinLoad } from './pinLoad'
export {
  BUS_PULL_OHMS,
  bleedOhms,
  bleedWatts,
  DIVIDER,
  dividedVolts,
  LIGHT_DIVIDER_OHMS,
  lightOhms,
  SENSOR_PULL_OHMS,
  THRESHOLD,
} from './partValues'
