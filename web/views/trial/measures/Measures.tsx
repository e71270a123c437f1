import {
  CONTACT_LIFE,
  inputMisses,
  PRESS_MS,
  SLOW_SCAN_MS,
  type RunMeasures,
  type Spread,
  type WayLatency,
} from '../../../../core/measures'
import { useMemo } from 'react'
import { timeText, type Site } from '../../../../core/site'
import { ViewHead } from '../../../parts/ViewHead'
import { useAppSelector } from '../../../store/store'
import type { Measured } from '../../../workers/trialJobs.worker'
import { Captures } from './Captures'
import { JobState } from '../../../parts/JobState'
import { useJob } from '../useJob'

const SAMPLES = 100

/** The last measures of this page. */
let last: { readonly site: Site; readonly found: Measured } | null = null

/** What a quiet day costs, and how long each way takes from the hand To load and to every screen. */
export function Measures() {
  const site = useAppSelector((state) => state.site.site)!
  const { job, start, stop } = useJob<Measured>()
  const found = last?.site === site ? last.found : null
  const begin = (): void =>
    start(async (remote, onProgress) => {
      const measured = await remote.measure(site, SAMPLES, onProgress)
      last = { site, found: measured }
      return measured
    })
  return (
    <div className="px-5 py-2" data-testid="measures">
      <ViewHead title="Measures" note={`An idle day, and ${SAMPLES} tries of each way with random latencies.`}>
        <button type="button" className="press-main" disabled={job.state === 'running'} onClick={begin}>
          {found ? 'Measure again' : 'Measure'}
        </button>
      </ViewHead>
      <JobState job={job} name="The measuring" onStop={stop} />
      {!found && job.state !== 'running' && <p className="mt-3 text-soft">Not measured yet. It takes a few seconds.</p>}
      {found && (
        <>
          <Latencies site={site} latencies={found.latencies} />
          <Misses site={site} />
          <Day site={site} day={found.day} />
        </>
      )}
      <Captures site={site} />
    </div>
  )
}

const ms = (value: number | null): string => (value === null ? '–' : String(value))

function Figures({ spread }: { spread: Spread | undefined }) {
  if (!spread) return <td className="text-right font-mono text-soft">–</td>
  const lost = spread.tried - spread.seen
  return (
    <td className="text-right font-mono">
      {ms(spread.p50)} · {ms(spread.p95)} · {ms(spread.p99)}
      {lost > 0 && (
        <span className="block text-small text-error">
          {lost} of {spread.tried} missed
        </span>
      )}
    </td>
  )
}

function Latencies({ site, latencies }: { site: Site; latencies: readonly WayLatency[] }) {
  return (
    <section aria-label="From hand to load and screen" className="mt-3">
      <table className="sheet w-full">
        <caption className="rule-head text-left">Latency from the hand (ms): median · 95 % · 99 %</caption>
        <thead>
          <tr>
            <th>Channel</th>
            <th>Action</th>
            <th className="text-right">To load</th>
            <th className="text-right">To phone</th>
            <th className="text-right">To hub</th>
          </tr>
        </thead>
        <tbody>
          {latencies.map(({ channel, way, action, toLoad, toScreens }, i) => (
            <tr key={way}>
              <td className="font-semibold">
                {latencies[i - 1]?.channel === channel ? '' : site.channels.find(({ id }) => id === channel)?.name}
              </td>
              <td>{action}</td>
              <Figures spread={toLoad} />
              <Figures spread={toScreens.find(({ who }) => who === 'phone')?.spread} />
              <Figures spread={toScreens.find(({ who }) => who === 'hub')?.spread} />
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

const percent = (share: number): string => `${Math.round(share * 100)} %`

/** Presses that nobody hears: by this controller, and by a program that looks seldom. */
function Misses({ site }: { site: Site }) {
  const rows = useMemo(() => inputMisses(site), [site])
  if (rows.length === 0) return null
  return (
    <section aria-label="Missed presses" className="mt-5">
      <table className="sheet">
        <caption className="rule-head text-left">
          Missed presses ({PRESS_MS[0]} to {PRESS_MS[1]} ms long, common practice)
        </caption>
        <thead>
          <tr>
            <th>Switch</th>
            <th className="text-right">Shortest press</th>
            <th className="text-right">Missed</th>
            <th className="text-right">Missed by a program that looks every {SLOW_SCAN_MS} ms</th>
          </tr>
        </thead>
        <tbody>
          {rows.map(({ input, name, leastMs, missed, missedBySlow }) => (
            <tr key={input}>
              <td className="font-semibold">{name}</td>
              <td className="text-right font-mono">{leastMs} ms</td>
              <td className="text-right font-mono">{percent(missed)}</td>
              <td className="text-right font-mono">{percent(missedBySlow)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

function Day({ site, day }: { site: Site; day: RunMeasures }) {
  return (
    <>
      <Messages day={day} />
      <Contacts day={day} changes={site.day.changes} />
    </>
  )
}

const Messages = ({ day }: { day: RunMeasures }) => (
  <section aria-label="Messages" className="mt-5">
    <table className="sheet">
      <caption className="rule-head text-left">Messages per month while nobody uses anything</caption>
      <thead>
        <tr>
          <th>Service</th>
          <th className="text-right">Messages per month</th>
          <th className="text-right">Plan limit</th>
          <th className="text-right">KB</th>
        </tr>
      </thead>
      <tbody>
        {day.traffic.map(({ service, name, messagesAMonth, limit, bytesAMonth }) => (
          <tr key={service} className={limit !== null && messagesAMonth > limit ? 'font-semibold text-error' : ''}>
            <td>{name}</td>
            <td className="text-right font-mono">{messagesAMonth}</td>
            <td className="text-right font-mono">{limit ?? 'none known'}</td>
            <td className="text-right font-mono">{Math.round(bytesAMonth / 1024)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  </section>
)

const Contacts = ({ day, changes }: { day: RunMeasures; changes: number }) => (
  <section aria-label="Contacts" className="mt-5">
    <table className="sheet">
      <caption className="rule-head text-left">
        Contacts at {changes} changes per day (life: 100,000 operations at rated load, from memory of usual data sheets)
      </caption>
      <thead>
        <tr>
          <th>Channel</th>
          <th className="text-right">Own operations per day</th>
          <th className="text-right">Contact life</th>
          <th className="text-right">Time on per day</th>
        </tr>
      </thead>
      <tbody>
        {day.channels.map(({ channel, name, operations, onMs }) => (
          <tr key={channel}>
            <td className="font-semibold">{name}</td>
            <td className="text-right font-mono">{operations}</td>
            <td className="text-right font-mono">{yearsOf(operations + changes / 2)}</td>
            <td className="text-right font-mono">{onMs === 0 ? '–' : timeText(onMs)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  </section>
)

/** Each second change closes the contact. */
const yearsOf = (closingsADay: number): string =>
  closingsADay === 0 ? 'not worked' : `${(CONTACT_LIFE / (closingsADay * 365)).toFixed(1)} years`
