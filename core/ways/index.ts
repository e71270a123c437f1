/** The ways in: what stands in each cell of the crossbar, and the changes that make and remove them. */
export {
  cellOf,
  columnFoot,
  columnOf,
  COLUMN_NAMES,
  COLUMNS,
  waysIn,
  type Cell,
  type Column,
  type Mark,
} from './columns'
export {
  addHubWay,
  addSwitchFor,
  addWallWay,
  fillColumn,
  firstHub,
  makeUsualWay,
  usualBindings,
  usualWatch,
} from './make'
export {
  addAppWay,
  addModePoint,
  addSensorPoint,
  firstService,
  freeVp,
  moveWidget,
  removePoint,
  renumberPoints,
  swapPoints,
  usualWidget,
} from './points'
export { addKey, addRemoteWay, bindKey, codeKey, remoteFor, removeKey, removeRemote } from './remotes'
export { addLinkWay, addLinkWays, charsUsed, freeChar, linkFor, linkTable, type LinkRow } from './links'
export { addVoiceWay, firstVoiceService, voiceCount } from './voiceWays'
export { addRule, clockText, dayText, removeRule, ruleWords, timeText } from './rules'
export { addControl, addGroup, removeControl, removeGroup, sourceWords } from './groups'
export { duplicateController } from './duplicate'
export {
  removeChannel,
  removeController,
  removeHub,
  removeInput,
  removeLink,
  removePart,
  removeSensor,
  removeService,
  removeWay,
} from './remove'
export { pathOf, rangeWords, rulePath, setWords, type Station } from './path'
export { giveWallWay, setInputKind } from './switches'
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
  shapeTrouble,
  type Cleaned,
  type CredentialNeed,
} from './credentials'
