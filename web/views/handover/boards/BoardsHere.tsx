import { formatDistanceToNowStrict } from 'date-fns'
import { useCallback } from 'react'
import { Link } from 'react-router'
import type { BoardHereRow, StrangerRow } from '../../../../core/api'
import { useAsked } from '../../../parts/useAsked'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'
import { useAppSelector } from '../../../store/store'
import { useShownControllers } from '../tests/TestRuns'

const concerns = ({ kind }: { kind: string }): boolean => kind === 'boards' || kind === 'logbook' || kind === 'edit'
/** How long the door stays open for one press, minutes. */
const DOOR_MINUTES = 15

/** A sign and a word for each place that a board can have on the network. */
const STATES: Readonly<Record<BoardHereRow['state'], readonly [sign: string, words: string, looks: string]>> = {
  online: ['●', 'online', 'text-rest'],
  offline: ['✕', 'offline', 'text-error'],
  joining: ['◑', 'tries to join', 'text-warning'],
  'waited for': ['◌', 'waited for', 'text-warning'],
  never: ['○', 'never seen', 'text-soft'],
}

const COLUMNS = ['Board', 'On the network', 'Runs', 'Said last', 'Starts seen', 'Signal', 'Door'] as const

/** Which boards are on the network, by what they say themselves. */
export function BoardsHere() {
  const site = useAppSelector((state) => state.site.site!.id)
  const controllers = useShownControllers()
  const ask = useCallback(() => call('boards', { site }), [site])
  const page = useAsked(ask, concerns)
  if (!page) return <p className="mt-3 text-soft">Asking the broker …</p>
  return (
    <div className="mt-3">
      <div className="overflow-x-auto">
        <table className="sheet w-full">
          <caption className="sr-only">Boards of this site</caption>
          <thead>
            <tr>
              {COLUMNS.map((name) => (
                <th key={name} scope="col">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {page.boards
              .filter((row) => controllers.some(({ id }) => id === row.controller))
              .map((row) => (
                <BoardLine key={row.controller} row={row} />
              ))}
          </tbody>
        </table>
      </div>
      <p className="mt-2 max-w-prose text-note text-soft">
        A board that has never joined gets in only while its door is open. Downloading its secrets.h on{' '}
        <Link className="underline" to={`/${site}/build`}>
          Build
        </Link>{' '}
        opens it for an hour. A board that has joined comes back at any time.
      </p>
      <Strangers strangers={page.strangers} />
    </div>
  )
}

const ago = (at: string): string => formatDistanceToNowStrict(new Date(at))

function BoardLine({ row }: { row: BoardHereRow }) {
  const site = useAppSelector((state) => state.site.site!)
  const name = site.controllers.find(({ id }) => id === row.controller)?.name ?? row.controller
  const [sign, words, looks] = STATES[row.state]
  const door = (minutes: number) =>
    void attempt(call('openDoor', { site: site.id, controller: row.controller, body: { minutes } }))
  return (
    <tr data-board={row.controller} data-state={row.state}>
      <td className="font-semibold">{name}</td>
      <td className="text-note">
        <span className={`font-semibold ${looks}`}>
          <span aria-hidden="true">{sign}</span> {words}
        </span>
        {row.since && row.state !== 'never' && row.state !== 'waited for' && (
          <span className="text-soft">, {ago(row.since)}</span>
        )}
        {row.refused && (
          <span className="block text-warning">
            not let in {ago(row.refused.at)} ago: {row.refused.why}
          </span>
        )}
      </td>
      <td className="text-note">
        {row.runs ?? '–'}
        {row.hash !== null && !row.runs?.includes(row.hash) && (
          <code className="ml-1.5 font-mono text-small text-soft">{row.hash}</code>
        )}
      </td>
      <td className="font-mono text-small">{row.said ?? '–'}</td>
      <td className="text-note">{row.restarts}</td>
      <td className="text-note">
        {row.signalDbm === null ? '–' : `${row.signalDbm} dBm`}
        {row.upSince !== null && <span className="block text-small text-soft">up {ago(row.upSince)}</span>}
      </td>
      <td className="text-note">
        <DoorCell row={row} name={name} onDoor={door} />
      </td>
    </tr>
  )
}

function DoorCell({ row, name, onDoor }: { row: BoardHereRow; name: string; onDoor: (minutes: number) => void }) {
  if (row.joined) return <span className="text-soft">has joined</span>
  if (row.openUntil !== null)
    return (
      <button type="button" className="press" onClick={() => onDoor(0)}>
        Close ({ago(row.openUntil)} left)
      </button>
    )
  return (
    <button type="button" className="press" aria-label={`Let ${name} join`} onClick={() => onDoor(DOOR_MINUTES)}>
      Let it join
    </button>
  )
}

/** Somebody on the broker who is no board of this site. */
function Strangers({ strangers }: { strangers: readonly StrangerRow[] }) {
  if (strangers.length === 0) return null
  return (
    <section aria-label="Strangers" className="mt-4">
      <h2 className="rule-head">Not of this site</h2>
      <ul>
        {strangers.map(({ who, at, what }) => (
          <li key={who} className="border-b border-hair py-1 text-note">
            <code className="font-mono">{who}</code>, {ago(at)} ago: {what}
          </li>
        ))}
      </ul>
    </section>
  )
}
