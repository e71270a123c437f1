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
  furtherBinding,
  makeUsualWay,
  usualBindings,
  usualWatch,
} from './newWays'
export {
  addAppWay,
  addModePoint,
  addSensorPoint,
  SENSOR_RANGES,
  carriedBy,
  unshownModes,
  unshownSensors,
  firstService,
  freeVp,
  moveWidget,
  renumberPoints,
  swapPoints,
  usualWidget,
} from './points'
export { addKey, addRemoteWay, bindKey, codeKey, remoteFor, removeKey, keyDeeds, removeRemote } from './remotes'
export { crossbarLines, moveChannel, usedColumns, type CrossbarLine } from './crossbar'
export {
  addLinkWay,
  addLinkWays,
  charsUsed,
  freeChar,
  linkFor,
  linkRowsByLetter,
  linkTable,
  linkTargetName,
  type LinkRow,
} from './links'
export { addVoiceWay, firstVoiceService } from './voiceWays'
export { addRule, clockText, dayText, removeRule, ruleWords } from './rules'
export {
  addControl,
  addGroup,
  addGroupEntity,
  addGroupName,
  addGroupPoint,
  controlSources,
  removeControl,
  removeGroup,
  removeGroupWay,
  setMember,
  setMemberLevel,
  CONTROLLER_ACTIONS,
  controlWords,
  sourceWords,
} from './groups'
export { addSensor, SENSOR_UNITS } from './sensors'
export { namesakesOf, renameAlong, type Namesake } from './namesakes'
export { duplicateController } from './duplicate'
export {
  removeChannel,
  removeController,
  removeHub,
  removeInput,
  removeLink,
  removePart,
  removePoint,
  removeSensor,
  removeService,
  removeWay,
} from './remove'
export { pathOf, rulePath, type Station } from './path'
export { giveWallWay, setInputKind } from './switches'
