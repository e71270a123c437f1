/** The checks: what is wrong with a site, why, and what mends it. */
export { checkInSteps, checkSite, isBlocking } from './check'
export {
  acceptEdit,
  findingRow,
  fixEdit,
  NO_RECORD,
  SEVERITIES,
  whereKey,
  type CredentialRecord,
  type Finding,
  type Fix,
  type RecordOfBuilds,
  type Severity,
  type Where,
} from './finding'
export { giveSwitch, switchWords } from './mapping'
export { usualFeed } from './mainsSide'
export { limitsPassed } from './limits'
export { uncheckedOf, type Unchecked } from './unchecked'
