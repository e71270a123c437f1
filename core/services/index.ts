/**
 * Services as their makers sell them: kinds with their plans, what of a plan is used, and the credentials they want.
 */
export { familyOf, keepServiceKind, SERVICE_KINDS, serviceKindIn, serviceKindsOf } from './serviceKinds'
export {
  DAYS_OF_MONTH,
  messageBytes,
  MODEM_KEEP_ALIVE_S,
  modemQuota,
  quotasOf,
  type Quota,
  type QuotaRow,
} from './quota'
export {
  cleanPasted,
  controllersOf,
  credentialsNeeded,
  isDefaultPin,
  isInHouse,
  shapeTrouble,
  type Cleaned,
  type CredentialNeed,
} from './credentials'
export { addServiceOfKind, limitExceeded, limitsUsed, setLimit, setWire, voiceCount } from './limitsUsed'
export { DATAPOINT_WIRE, VARIABLE_WIRE } from './shippedWires'
export { holderOf, holdersOf, isDirectVoice, reachesDirectly, wiredHolders, wireOf, type Holder } from './holders'
export {
  ACCESS_KEY,
  addSecret,
  addServiceKind,
  FIRST_WIRES,
  readServiceKindFile,
  removeSecret,
  serviceKindFile,
} from './ownKinds'
export { neverSent } from './neverSent'

export { PAIRING, pinKeyOf } from './pairing'
