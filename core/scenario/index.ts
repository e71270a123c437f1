/** Scenarios: what is done in the house and when, and what must be seen; written down, read and played. */
export { libraryFor, type LibraryScenario } from './library'
export { NoSuchName } from './names'
export { readScenario, type ScenarioAnswer } from './read'
export { runScenario, type PlayOptions, type ScenarioRun } from './run'
export type { Deed, Expectation, Never, Scenario } from './schema'
export { scenarioText } from './record'
