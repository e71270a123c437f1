/** Everything that is written for the maker: firmware tables, sheets, lists, open formats. */
export { cString, imageHeader } from './imageHeader'
export { buildController, BuildRefused, type Build, type BuildFile } from './build'
export { MAINS_CAUTIONS, hasMains } from './cautions'
export { channelsCsv, connectionsCsv, pinsCsv, toCsv } from './tables'
export { flashSteps, serviceSheet, wiringSheet } from './sheets'
export { imageChanges, type ImageChange } from './imageDifference'
export { stageCautions, STAGE_NAMES, STAGES, testList, type Stage, type TestItem } from './testRun'
