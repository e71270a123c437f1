import { useEffect, useRef } from 'react'
import { Link } from 'react-router'
import {
  endingWords,
  howWords,
  retestOf,
  type FaultTable,
  type FoundPart,
  type Given,
  type Retest,
  type Suspect,
} from '../../../../core/diagnosis'
import { FAULT_WORDS } from '../../../../core/parts'
import { channelOf, counted, type Site } from '../../../../core/site'
import { graphOf } from '../graph'
import { attempt } from '../../../store/attempt'
import { call } from '../../../store/api'
import { loadLogbook } from '../../../store/logbook'
import { useAppDispatch, useAppSelector } from '../../../store/store'
import { wayWords } from '../words'
import type { Searching } from './useSearch'

interface Props {
  readonly table: FaultTable
  readonly parts: readonly FoundPart[]
  readonly given: readonly Given[]
  readonly searching: Searching
}

/** It is found: the sentence for the logbook, and what must be tested again. */
export function Ending({ table, parts, given, searching }: Props) {
  const { search, set } = searching
  const site = useAppSelector((state) => state.site.site)!
  const head = useRef<HTMLHeadingElement>(null)
  useEffect(() => head.current?.focus(), [])
  const text = endingWords(table.site, table.observations, given, parts, search.changed)
  const tests = retestOf(
    site,
    parts.map(({ part }) => part),
  )
  return (
    <section aria-label="Found" className="rounded-plate border-2 border-rest bg-panel p-4">
      <h2 ref={head} tabIndex={-1} className="text-[1.125rem] font-semibold outline-none">
        {parts.map((one) => `${one.name}: ${howWords(one)}`).join(' and ')}
      </h2>
      {search.hidden !== null && <Hidden suspect={table.suspects[search.hidden]!} />}
      <label htmlFor="changed" className="field-label mt-3">
        What was changed
      </label>
      <input
        id="changed"
        className="field"
        value={search.changed}
        placeholder="new switch, same type"
        onChange={(event) => set({ changed: event.target.value })}
      />
      <p className="mt-3 text-small">{text}</p>
      <ToTest site={site} tests={tests} />
      <Presses
        table={table}
        parts={parts}
        text={`${text} To test again: ${testWords(site, tests)}.`}
        searching={searching}
      />
    </section>
  )
}

/** After practice: what it really was. */
const Hidden = ({ suspect: { name, how } }: { suspect: Suspect }) => (
  <p className="mt-1 text-small">
    Hidden was: {name}, {FAULT_WORDS[how]}.
  </p>
)

const ToTest = ({ site, tests }: { site: Site; tests: readonly Retest[] }) => (
  <>
    <h3 className="rule-head mt-3">Test again ({tests.length})</h3>
    <ul className="mt-1 text-small @xl:columns-2">
      {tests.map(({ channel, way }) => (
        <li key={`${channel} ${way}`}>
          ☐ {channelOf(site, channel)!.name}, {wayWords(site, way)}
        </li>
      ))}
    </ul>
  </>
)

interface PressesProps extends Omit<Props, 'given'> {
  /** what the logbook is told */
  readonly text: string
}

function Presses({ table, parts, text, searching: { search, back, begin } }: PressesProps) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const write = async (): Promise<void> => {
    const controller = graphOf(site).get(parts[0]!.part)?.controller ?? null
    const body = { controller, kind: 'fault', text: text.slice(0, LONGEST), part: parts[0]!.part } as const
    const kept = await attempt(call('writeLog', { site: site.id, body }), 'Written to the logbook')
    if (kept === undefined) return
    await dispatch(loadLogbook(site.id))
    begin(table.channel)
  }
  return (
    <div className="mt-3 flex flex-wrap gap-3">
      {search.hidden === null && (
        <button type="button" className="press-main" onClick={() => void write()}>
          Write to the logbook
        </button>
      )}
      <Link className="press" to={`/${site.id}/logbook`}>
        Open the logbook
      </Link>
      <button type="button" className="press-quiet" onClick={back}>
        Take the last answer back
      </button>
    </div>
  )
}

/** A log entry is so long at most. */
const LONGEST = 2_000

/** Channels with their ways: "Bench lights (switch S1, app); Shelf lights (app)". */
function testWords(site: Site, tests: readonly Retest[]): string {
  if (tests.length === 0) return 'nothing'
  const channels = [...new Set(tests.map(({ channel }) => channel))]
  if (channels.length > 8) return `${counted(tests.length, 'way')} of ${channels.length} channels`
  return channels
    .map((id) => {
      const ways = tests.filter(({ channel }) => channel === id).map(({ way }) => wayWords(site, way))
      return `${channelOf(site, id)!.name} (${ways.join(', ')})`
    })
    .join('; ')
}
