import { timeText, type Site } from '../core/site'
import { libraryFor, NoSuchName, readScenario, runScenario, type Scenario, type ScenarioRun } from '../core/scenario'
import { loadSite, Unusable, type Answer, type Source } from './commands'

interface Row {
  readonly scenario: string
  readonly passed: boolean
  /** of what broke it, ms since the start; null: it passed */
  readonly t: number | null
  readonly what: string | null
}

/** Plays a scenario, or those of the library, in a simulated house; exit 1 where one is broken. */
export function trial(source: Source, scenario: Source | null, json: boolean): Answer {
  const site = loadSite(source)
  const texts = scenario
    ? [{ name: scenario.name, text: scenario.text }]
    : libraryFor(site).map(({ id, text }) => ({ name: id, text }))
  const rows = texts.map(({ name, text }) => rowOf(site, name, text))
  const failed = rows.some(({ passed }) => !passed)
  return { exit: failed ? 1 : 0, text: json ? `${JSON.stringify(rows, null, 2)}\n` : rows.map(lineOf).join('') }
}

/** The scenarios of the library for a site, as text to be changed. */
export function library(source: Source): Answer {
  const parts = libraryFor(loadSite(source)).map(({ id, text }) => `# ${id}\n${text}`)
  return { exit: 0, text: parts.join('---\n') }
}

function rowOf(site: Site, name: string, text: string): Row {
  const answer = readScenario(text)
  if (!answer.ok) throw new Unusable(`${name}: ${answer.message}`)
  const { broken } = played(site, name, answer.scenario)
  return {
    scenario: answer.scenario.scenario,
    passed: broken === null,
    t: broken?.t ?? null,
    what: broken?.what ?? null,
  }
}

function played(site: Site, name: string, scenario: Scenario): ScenarioRun {
  try {
    return runScenario(site, scenario)
  } catch (error) {
    if (error instanceof NoSuchName) throw new Unusable(`${name}: ${error.message}`)
    throw error
  }
}

const lineOf = ({ scenario, passed, t, what }: Row): string =>
  passed ? `✓ ${scenario}\n` : `✗ ${scenario}: after ${timeText(t!)}: ${what}\n`
