import {
  inputMisses,
  runMeasures,
  SLOW_SCAN_MS,
  wayLatencies,
  type RunMeasures,
  type Spread,
  type WayLatency,
} from '../core/measures'
import { PLACE_WORDS, PLACES } from '../core/parts'
import { readScenario, runScenario } from '../core/scenario'
import { timeText, type Site } from '../core/site'
import { TracksKept, World } from '../core/trial'
import { loadSite, Unusable, type Answer, type Source } from './commands'

const DAY_MS = 86_400_000

/** Measures a quiet day, or a scenario, and how long each way takes. */
export function measure(
  source: Source,
  scenario: Source | null,
  { samples, seed, json }: { readonly samples: number; readonly seed: number; readonly json: boolean },
): Answer {
  const site = loadSite(source)
  const run = scenario ? ofScenario(site, scenario, seed) : ofQuietDay(site, seed)
  const latencies = samples > 0 ? wayLatencies(site, { samples, seed }) : []
  if (json) return { exit: 0, text: `${JSON.stringify({ ...run, latencies }, null, 2)}\n` }
  return { exit: 0, text: tableOf(site, run, latencies) }
}

function ofQuietDay(site: Site, seed: number): RunMeasures {
  const tracks = new TracksKept()
  World.begin(site, seed, { onTrack: (event) => tracks.add(event) }).advance(DAY_MS)
  return runMeasures(site, tracks, DAY_MS)
}

function ofScenario(site: Site, { name, text }: Source, seed: number): RunMeasures {
  const answer = readScenario(text, site)
  if (!answer.ok) throw new Unusable(`${name}: ${answer.message}`)
  const tracks = new TracksKept()
  const { t } = runScenario(site, answer.scenario, { seed, onTrack: (event) => tracks.add(event) })
  return runMeasures(site, tracks, t)
}

const spreadText = ({ p50, p95, p99, seen, tried }: Spread): string =>
  `${p50 ?? '–'} / ${p95 ?? '–'} / ${p99 ?? '–'} ms${seen < tried ? `, ${tried - seen} of ${tried} never` : ''}`

function tableOf(site: Site, run: RunMeasures, latencies: readonly WayLatency[]): string {
  const dark = (ms: number | null): string => (ms === null ? 'no way' : ms === 0 ? '0' : timeText(ms))
  const life = (years: number | null): string => (years === null ? 'not known' : `${years.toFixed(1)} years`)
  const channels = run.channels.map(
    ({ name, operations, lifeYears, darkMs, wrongMs }) =>
      `${name}: ${operations} operations, contact life ${life(lifeYears)}; without control: ` +
      `${PLACES.map((place) => `${PLACE_WORDS[place]} ${dark(darkMs[place])}`).join(', ')}; ` +
      `a screen wrong for ${dark(wrongMs)}\n`,
  )
  const traffic = run.traffic.map(
    ({ name, messagesAMonth, bytesAMonth, limit }) =>
      `${name}: ${messagesAMonth} messages per month${limit === null ? '' : ` of ${limit}`}, ${Math.round(bytesAMonth / 1024)} KB\n`,
  )
  const ways = latencies.flatMap(({ action, channel, toLoad, toScreens }) => {
    const name = site.channels.find(({ id }) => id === channel)?.name ?? channel
    const screens = toScreens.map(({ who, spread }) => `    ${who} ${spreadText(spread)}\n`)
    return [`${action}: ${name} ${spreadText(toLoad)}\n`, ...screens]
  })
  const misses = inputMisses(site).map(
    ({ name, leastMs, missed, missedBySlow }) =>
      `${name}: shortest press ${leastMs} ms, missed ${Math.round(missed * 100)} %; ` +
      `by a program that looks every ${SLOW_SCAN_MS} ms ${Math.round(missedBySlow * 100)} %\n`,
  )
  return `over ${timeText(run.lastsMs)}\n${[...channels, ...traffic, ...misses, ...ways].join('')}`
}
