import { writeFileSync } from 'node:fs'
import { timeText, type Site } from '../core/site'
import {
  libraryFor,
  NoSuchName,
  readScenario,
  runScenario,
  type PlayOptions,
  type Scenario,
  type ScenarioRun,
} from '../core/scenario'
import { runTable, TracksKept, waveFile } from '../core/trial'
import { loadSite, Unusable, type Answer, type Source } from './commands'

interface Row {
  readonly scenario: string
  readonly passed: boolean
  /** of what broke it, ms since the start; null: it passed */
  readonly t: number | null
  readonly what: string | null
}

/** How a trial is played, and where its run is written. */
export interface TrialOptions {
  readonly seed: number
  readonly json: boolean
  /** files for the run, of one scenario */
  readonly vcd?: string | undefined
  readonly csv?: string | undefined
}

/** Plays a scenario, or those of the library, in a simulated house; exit 1 where one is broken. */
export function trial(source: Source, scenario: Source | null, options: TrialOptions): Answer {
  const { json, vcd, csv } = options
  if ((vcd ?? csv) !== undefined && !scenario)
    throw new Unusable('trial: --vcd and --csv write the run of one scenario; name it with --scenario')
  const site = loadSite(source)
  const texts = scenario
    ? [{ name: scenario.name, text: scenario.text }]
    : libraryFor(site).map(({ id, text }) => ({ name: id, text }))
  const tracks = new TracksKept()
  const rows = texts.map(({ name, text }) => rowOf(site, name, text, scenario ? tracks : null, options))
  const failed = rows.some(({ passed }) => !passed)
  return { exit: failed ? 1 : 0, text: json ? `${JSON.stringify(rows, null, 2)}\n` : rows.map(lineOf).join('') }
}

/** The scenarios of the library for a site, as text to be changed. */
export function library(source: Source): Answer {
  const parts = libraryFor(loadSite(source)).map(({ id, text }) => `# ${id}\n${text}`)
  return { exit: 0, text: parts.join('---\n') }
}

function rowOf(
  site: Site,
  name: string,
  text: string,
  tracks: TracksKept | null,
  { seed, vcd, csv }: TrialOptions,
): Row {
  const answer = readScenario(text, site)
  if (!answer.ok) throw new Unusable(`${name}: ${answer.message}`)
  const { broken, t } = played(site, name, answer.scenario, { seed, onTrack: (event) => tracks?.add(event) })
  if (tracks && vcd !== undefined) writeFileSync(vcd, waveFile(site, tracks, t))
  if (tracks && csv !== undefined) writeFileSync(csv, runTable(tracks))
  return {
    scenario: answer.scenario.scenario,
    passed: broken === null,
    t: broken?.t ?? null,
    what: broken?.what ?? null,
  }
}

function played(site: Site, name: string, scenario: Scenario, options: PlayOptions): ScenarioRun {
  try {
    return runScenario(site, scenario, options)
  } catch (error) {
    if (error instanceof NoSuchName) throw new Unusable(`${name}: ${error.message}`)
    throw error
  }
}

const lineOf = ({ scenario, passed, t, what }: Row): string =>
  passed ? `✓ ${scenario}\n` : `✗ ${scenario}: after ${timeText(t!)}: ${what}\n`
