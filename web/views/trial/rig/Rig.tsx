import { Fragment, useCallback, useEffect, useRef } from 'react'
import type { RigBoard, RigState } from '../../../../core/api'
import { holderOf, wiredHolders, wireOf } from '../../../../core/services'
import { channelOf, controllerOf, counted, readOutputName, type Input, type Site } from '../../../../core/site'
import { ViewHead } from '../../../parts/ViewHead'
import { attempt } from '../../../store/attempt'
import { call } from '../../../store/api'
import { useAppSelector } from '../../../store/store'
import { PairBoard } from './PairBoard'
import { RigHub } from './RigHub'
import { StandIn } from './StandIn'
import { useAsked } from '../../../parts/useAsked'

/** The real firmware of every controller as processes of this machine, with the services' stand-ins beside them. */
export function Rig() {
  const site = useAppSelector((state) => state.site.site)!
  const ask = useCallback(() => call('rig', { site: site.id }), [site.id])
  const state = useAsked(ask, isRig)
  const wired = wiredHolders(site)
  const hasHub = site.hubs.some((hub) => !wireOf(site, hub))
  return (
    <div className="px-5 pt-3 pb-4" data-testid="rig">
      <RigHead site={site} state={state} />
      <div className="mt-3 grid gap-6 @3xl:grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)]">
        <section aria-label="Boards" className="min-w-0 space-y-5">
          {(state?.boards ?? []).map((board) => (
            <Board key={board.controller} site={site} board={board} />
          ))}
          {state?.phase === 'off' && <Off site={site} />}
        </section>
        <section aria-label="Services" className="min-w-0 space-y-5">
          {hasHub && <RigHub site={site} />}
          {wired.map((service) => (
            <StandIn key={service.id} site={site} service={service} />
          ))}
          {wired.length === 0 && !hasHub && (
            <p className="text-soft">No service of this site has a connection of its own: all is on the broker.</p>
          )}
        </section>
      </div>
    </div>
  )
}

const isRig = ({ kind }: { kind: string }): boolean => kind === 'rig'

const PHASES: Readonly<Record<RigState['phase'], string>> = {
  off: 'Not running.',
  building: 'Compiling …',
  on: 'Running.',
}

function RigHead({ site, state }: { site: Site; state: RigState | null }) {
  const on = state !== null && state.phase !== 'off'
  const turn = () => void attempt(call('turnRig', { site: site.id, body: { on: !on } }))
  return (
    <ViewHead
      title="Live rig"
      note={`The firmware itself, compiled for this machine with the stored credentials. ${state ? PHASES[state.phase] : ''}`}
    >
      <button type="button" className={on ? 'press' : 'press-main'} onClick={turn}>
        {on ? 'Stop rig' : 'Compile and run'}
      </button>
    </ViewHead>
  )
}

const Off = ({ site }: { site: Site }) => (
  <p className="max-w-prose text-soft">
    {counted(site.controllers.length, 'controller')} of this site will be compiled with the secrets file of each, and
    run against the broker and the services on this machine. Needs g++. Credentials that are missing are refused, as
    they would be on the bench.
  </p>
)

const LINK_MARKS = { up: '●', joining: '◐', down: '○' } as const
const LINK_WORDS = { up: 'connected', joining: 'connecting …', down: 'not connected' } as const

function linkName(site: Site, id: string): string {
  return holderOf(site, id)?.service.name ?? 'Broker'
}

function Board({ site, board }: { site: Site; board: RigBoard }) {
  const controller = controllerOf(site, board.controller)
  const inputs = site.inputs.filter((input) => input.controller === board.controller && input.kind !== 'selector')
  return (
    <article aria-label={controller?.name ?? board.controller}>
      <h2 className="rule-head">{controller?.name ?? board.controller}</h2>
      {board.trouble && (
        <p role="alert" className="mt-1 text-small text-error">
          {board.trouble}
        </p>
      )}
      <ul className="mt-1 flex flex-wrap gap-x-4 gap-y-1 text-small">
        {board.links.map((link) => (
          <li key={link.id}>
            <span aria-hidden="true">{LINK_MARKS[link.state]} </span>
            {linkName(site, link.id)}: {link.note ?? LINK_WORDS[link.state]}
          </li>
        ))}
      </ul>
      <div className="mt-2 grid gap-4 @2xl:grid-cols-2">
        <Outputs site={site} board={board} />
        <Said board={board} />
      </div>
      {board.running && <PairBoard site={site} board={board} />}
      {board.running && inputs.length > 0 && <Switches site={site} board={board} inputs={inputs} />}
    </article>
  )
}

function outputLabel(site: Site, name: string): string {
  const { channel, contact } = readOutputName(name)
  const found = channelOf(site, channel)?.name ?? channel
  return name.includes('.') ? `${found}, contact ${contact + 1}` : found
}

const Outputs = ({ site, board }: { site: Site; board: RigBoard }) => (
  <table className="w-full self-start text-small" aria-label="Relays">
    <tbody>
      {Object.entries(board.outputs).map(([name, level]) => (
        <tr key={name} className="border-b border-hair">
          <th scope="row" className="py-0.5 pr-3 text-left font-normal">
            {outputLabel(site, name)}
          </th>
          <td className="w-24 py-0.5 font-semibold">{level === 1 ? '■ closed' : '□ open'}</td>
        </tr>
      ))}
    </tbody>
  </table>
)

const LAST_LINES = 9

/** A document has no blanks: it breaks behind its commas. */
const breakable = (text: string) =>
  text.split(/(?<=,)/).map((part, i) => (
    <Fragment key={i}>
      {part}
      <wbr />
    </Fragment>
  ))

function Said({ board }: { board: RigBoard }) {
  const list = useRef<HTMLOListElement>(null)
  const last = board.said.at(-1)?.at
  // the newest line is what one waits for
  useEffect(() => {
    if (list.current) list.current.scrollTop = list.current.scrollHeight
  }, [last])
  return (
    <ol
      ref={list}
      aria-label="Log of the board"
      tabIndex={0}
      className="max-h-48 overflow-auto border-l-2 border-hair pl-2 font-mono text-note"
    >
      {board.said.slice(-LAST_LINES).map((line, i) => (
        <li key={`${line.at}-${i}`} className="wrap-anywhere">
          {breakable(line.text)}
        </li>
      ))}
    </ol>
  )
}

function Switches({ site, board, inputs }: { site: Site; board: RigBoard; inputs: readonly Input[] }) {
  const send = (input: Input, closed: boolean) => {
    const level = (input.closedLevel === 'low') === closed ? 0 : 1
    void attempt(call('rigEvent', { site: site.id, controller: board.controller, body: { pin: input.id, level } }))
  }
  return (
    <div className="mt-2 flex flex-wrap gap-2" role="group" aria-label="Switches">
      {inputs.map((input) =>
        input.kind === 'momentary' ? (
          <button
            key={input.id}
            type="button"
            className="press"
            onPointerDown={() => send(input, true)}
            onPointerUp={() => send(input, false)}
            onKeyDown={(event) => !event.repeat && [' ', 'Enter'].includes(event.key) && send(input, true)}
            onKeyUp={(event) => [' ', 'Enter'].includes(event.key) && send(input, false)}
          >
            Press {input.name}
          </button>
        ) : (
          <span key={input.id} className="flex items-center gap-1 text-small">
            {input.name}
            <button type="button" className="press" onClick={() => send(input, true)}>
              Close
            </button>
            <button type="button" className="press" onClick={() => send(input, false)}>
              Open
            </button>
          </span>
        ),
      )}
    </div>
  )
}
