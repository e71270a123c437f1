import { useEffect, useMemo } from 'react'
import { searchOf, Suspicion, type FaultTable, type Given, type Search } from '../../../../core/diagnosis'
import { channelOf, type Site } from '../../../../core/site'
import { JobState } from '../../../parts/JobState'
import { ViewHead } from '../../../parts/ViewHead'
import { useAppSelector } from '../../../store/store'
import { useWhatIfJob } from '../useWhatIfJob'
import { Ending } from './Ending'
import { NextStep } from './NextStep'
import { SeenFirst } from './SeenFirst'
import { SeenSoFar } from './SeenSoFar'
import { Suspects } from './Suspects'
import { useLiveBoards } from './useLiveBoards'
import { useSearch, type Searching } from './useSearch'

/** Given what is seen, what has failed, and what to look at next. */
export function FindTheFault() {
  const site = useAppSelector((state) => state.site.site)!
  const searching = useSearch(site.id)
  const { search } = searching
  const channel = search.channel !== null && channelOf(site, search.channel) ? search.channel : null
  return (
    <div className="px-5 py-2" data-testid="find-fault">
      <ViewHead
        title="Find the fault"
        note="Say what you see. Each next look is the one that tells most for its minutes, outside the box first."
      >
        <Sure searching={searching} />
      </ViewHead>
      <PickChannel site={site} channel={channel} searching={searching} />
      {channel !== null && <Played site={site} channel={channel} searching={searching} />}
    </div>
  )
}

const Sure = ({ searching: { search, set } }: { searching: Searching }) => (
  <label className="flex min-h-7 items-center gap-1.5 text-small">
    <input
      type="checkbox"
      className="size-4 accent-(--ink)"
      checked={search.unsure}
      onChange={(event) => set({ unsure: event.target.checked })}
    />
    One answer in twenty may be wrong
  </label>
)

function PickChannel({ site, channel, searching }: { site: Site; channel: string | null; searching: Searching }) {
  if (site.channels.length === 0)
    return <p className="mt-3 text-soft">No channel yet: add one on the bench, and a way in to it.</p>
  return (
    <div className="mt-3 max-w-sm">
      <label htmlFor="fault-channel" className="field-label">
        Channel that does not work
      </label>
      <select
        id="fault-channel"
        className="field"
        value={channel ?? ''}
        onChange={(event) => searching.begin(event.target.value)}
      >
        <option value="" disabled>
          Pick a channel
        </option>
        {site.controllers.map(({ id, name }) => {
          const own = site.channels.filter(({ controller }) => controller === id)
          return own.length === 0 ? null : (
            <optgroup key={id} label={name}>
              {own.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </optgroup>
          )
        })}
      </select>
    </div>
  )
}

interface PlayedProps {
  readonly site: Site
  readonly channel: string
  readonly searching: Searching
}

/** Every part near the channel is broken once in the simulated house: answers are held against that table. */
function Played({ site, channel, searching }: PlayedProps) {
  const { job, start, stop } = useWhatIfJob<FaultTable>()
  useEffect(() => start((remote, onProgress) => remote.faultTable(site, channel, onProgress)), [start, site, channel])
  return (
    <div className="mt-3">
      <JobState job={job} name="Breaking each part once in the simulated house" onStop={stop} />
      {job.state === 'done' && <Searched table={job.result} searching={searching} />}
    </div>
  )
}

/** Answers that are not certain. */
const UNSURE = 0.05
/** Nobody is right every time. */
const SURE = 0.003

/** What boards say of themselves, and what a person has seen; a person's own word stands. */
function useGiven(table: FaultTable, own: readonly Given[]) {
  const live = useLiveBoards(table)
  const given: readonly Given[] = useMemo(
    () => [...live.filter(({ observation }) => !own.some((one) => one.observation === observation)), ...own],
    [live, own],
  )
  return { live, given }
}

function Searched({ table, searching }: { table: FaultTable; searching: Searching }) {
  const { search } = searching
  const { live, given } = useGiven(table, search.given)
  const suspicion = useMemo(
    () => new Suspicion(table, given, search.unsure ? UNSURE : SURE),
    [table, given, search.unsure],
  )
  const state = useMemo(() => searchOf(suspicion, new Set(search.skipped)), [suspicion, search.skipped])
  const hasBegun = search.given.length > 0
  return (
    <div className="grid gap-x-8 gap-y-5 @3xl:grid-cols-[minmax(0,1.5fr)_minmax(0,1fr)]">
      <div className="min-w-0">
        {hasBegun && <Stands {...{ table, state, given, searching }} spread={suspicion.spread()} />}
        {!hasBegun && <SeenFirst table={table} searching={searching} />}
        {hasBegun && (
          <details className="mt-4">
            <summary className="min-h-7 cursor-pointer text-small">Add or correct symptoms</summary>
            <SeenFirst table={table} searching={searching} />
          </details>
        )}
      </div>
      <div className="min-w-0">
        <Suspects suspicion={suspicion} hasBegun={hasBegun} />
        <SeenSoFar table={table} given={given} live={live} searching={searching} />
      </div>
    </div>
  )
}

interface StandsProps {
  readonly table: FaultTable
  readonly state: Search
  readonly given: readonly Given[]
  readonly spread: number
  readonly searching: Searching
}

/** The next step, what was found, or that nothing tells more. */
function Stands({ table, state, given, spread, searching }: StandsProps) {
  const { search } = searching
  switch (state.kind) {
    case 'ask':
      return (
        <NextStep
          key={search.given.length + search.skipped.length}
          table={table}
          next={state.next}
          before={spread}
          searching={searching}
        />
      )
    case 'found':
      return <Ending table={table} parts={state.parts} given={given} searching={searching} />
    case 'lost':
      return (
        <p role="status" className="border-l-4 border-warning pl-3">
          Nothing that could be looked at tells more. What was seen fits no one or two parts well: look at the first
          suspects, or take back an answer that you are not sure of.
        </p>
      )
  }
}
