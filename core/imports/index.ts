/** Tables that a maker brings back: read, shown as what they would change, and refused whole where a row is wrong. */
export { siteFromAnswers, siteFromSketch, type Beginning } from './begin'
export { importChannels } from './channels'
export { importPoints } from './points'
export type { Change, Preview } from './preview'
export type { RowError } from './rows'
export { readSketch, type SketchPin, type SketchUse } from './sketch'
