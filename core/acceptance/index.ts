/** The acceptance run: what a site promises, tried in a simulated house, one thing after another. */
export { acceptanceRun, tablesOf, type AcceptanceOptions } from './run'
export type { AcceptanceItem, AcceptanceReport } from './types'
export { stepsOf, type Asked, type Step } from './deeds'
export { restMs } from './ways'
export type { TimedAction } from './tryout'
export { acceptanceSheet, GROUP_NAMES } from './sheet'
