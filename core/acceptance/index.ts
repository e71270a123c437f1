/** The acceptance run: what a site promises, tried in a simulated house, one thing after another. */
export { acceptanceRun, tablesOf, type AcceptanceOptions } from './run'
export type { AcceptanceItem, AcceptanceReport } from './types'
