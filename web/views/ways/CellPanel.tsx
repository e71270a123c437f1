import { Fragment } from 'react'
import { controllerOf, type Channel, type Input, type Way } from '../../../core/site'
import {
  addRule,
  addSwitchFor,
  addWallWay,
  COLUMN_NAMES,
  fillColumn,
  pathOf,
  removeRule,
  removeWay,
  rulePath,
  waysIn,
  type Column,
  type Station,
} from '../../../core/ways'
import { pinReader } from '../../parts/pins'
import { edit } from '../../store/editing'
import { screenActions } from '../../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { AppFields } from './AppFields'
import { clearInDraft, makeInDraft, makeWay } from './crossbarKeys'
import { HubFields } from './HubFields'
import { LinkFields, RemoteFields } from './RemoteFields'
import { RuleFields } from './rules/RuleFields'
import { VoiceFields } from './VoiceFields'
import { WallFields } from './WallFields'

/** The picked cell: its whole path with the numbers, and the fields to change it. Escape goes back to the cell. */
export function CellPanel() {
  const site = useAppSelector((state) => state.site.site)!
  const picked = useAppSelector((state) => state.screen.cell)
  const chosen = useAppSelector((state) => state.screen.chosen)
  const dispatch = useAppDispatch()
  const channel = site.channels.find((candidate) => candidate.id === picked?.channel)
  if (!picked || !channel) return null
  if (chosen.length > 1) return <ManyCells channels={chosen} column={picked.column} />
  const pinOf = pinReader(site, channel.controller)
  const ways = picked.column === 'rule' ? [] : waysIn(site, channel.id, picked.column)
  const rules = picked.column === 'rule' ? site.rules.filter((rule) => rule.channel === channel.id) : []
  return (
    <section
      aria-label={`${channel.name} by ${COLUMN_NAMES[picked.column]}`}
      data-cell-panel
      className="mb-4 border-b-2 border-ink pb-4"
      onKeyDown={(event) => {
        if (event.key === 'Escape')
          document.querySelector<HTMLElement>(`[data-cell="${picked.channel}/${picked.column}"]`)?.focus()
      }}
    >
      <h2 className="text-head font-bold">
        {channel.name}, {picked.column === 'rule' ? 'rules' : `by ${COLUMN_NAMES[picked.column].toLowerCase()}`}
      </h2>
      {ways.length === 0 && rules.length === 0 && <NoWay channel={channel} column={picked.column} />}
      {ways.map((way) => (
        <div key={way.id} className="mt-2">
          <Path stations={pathOf(site, way, pinOf)} />
          <WayFields way={way} channel={channel} />
          <button
            type="button"
            className="press-quiet mt-2 -ml-1.5"
            onClick={() =>
              dispatch(edit(`no ${picked.column} way to ${channel.name}`, (draft) => removeWay(draft, way.id)))
            }
          >
            Take this way out
          </button>
        </div>
      ))}
      {rules.map((rule) => (
        <div key={rule.id} className="mt-2">
          <Path stations={rulePath(site, rule, pinOf)} />
          <RuleFields rule={rule} channel={channel} />
          <button
            type="button"
            className="press-quiet mt-2 -ml-1.5"
            onClick={() => dispatch(edit(`no rule “${rule.name}”`, (draft) => removeRule(draft, rule.id)))}
          >
            Take this rule out
          </button>
        </div>
      ))}
      {rules.length > 0 && (
        <button
          type="button"
          className="press mt-1"
          onClick={() =>
            dispatch(
              edit(
                `schedule for ${channel.name}`,
                (draft) =>
                  void addRule(
                    draft,
                    draft.channels.find((c) => c.id === channel.id)!,
                    'schedule',
                  ),
              ),
            )
          }
        >
          Add a schedule
        </button>
      )}
      {ways.length > 0 && picked.column === 'remote' && (
        <button type="button" className="press mt-1" onClick={() => dispatch(makeWay(channel, picked.column))}>
          Another key
        </button>
      )}
    </section>
  )
}

function WayFields({ way, channel }: { way: Way; channel: Channel }) {
  switch (way.kind) {
    case 'wall':
      return <WallFields way={way} channel={channel} />
    case 'remote':
      return <RemoteFields way={way} channel={channel} />
    case 'app':
      return <AppFields way={way} />
    case 'hub':
      return <HubFields way={way} />
    case 'voice':
      return <VoiceFields way={way} channel={channel} />
    case 'link':
      return <LinkFields way={way} channel={channel} />
  }
}

/** Stations of a path: there, and back. Topics may break after each level. */
function Path({ stations }: { stations: readonly Station[] }) {
  return (
    <ol className="mb-3 border border-hair bg-wall px-2 py-1.5 font-mono text-[0.75rem] leading-5">
      {stations.map((station, i) => (
        <li key={i} className="flex gap-1.5">
          <span aria-label={station.direction === 'to' ? 'to' : 'back'} className="shrink-0 text-brass">
            {station.direction === 'to' ? '→' : '←'}
          </span>
          <span className="min-w-0 [overflow-wrap:anywhere]">
            {station.text.split(/(?<=\/)/).map((piece, at) => (
              <Fragment key={at}>
                {piece}
                <wbr />
              </Fragment>
            ))}
          </span>
        </li>
      ))}
    </ol>
  )
}

/** Several cells of one column: made, taken out or changed in one edit. */
function ManyCells({ channels, column }: { channels: readonly string[]; column: Column }) {
  const dispatch = useAppDispatch()
  const count = channels.length
  const name = COLUMN_NAMES[column].toLowerCase()
  const setFeedback = (feedback: 'reports' | 'silent') =>
    dispatch(
      edit(`${count} ${name} ways: ${feedback === 'reports' ? 'report' : 'silent'}`, (draft) => {
        for (const way of draft.ways)
          if (channels.includes(way.channel) && way.kind === column && 'feedback' in way) way.feedback = feedback
      }),
    )
  return (
    <section aria-label={`${count} channels by ${name}`} data-cell-panel className="mb-4 border-b-2 border-ink pb-4">
      <h2 className="text-head font-bold">
        {count} channels, by {name}
      </h2>
      <p className="text-note text-soft">One edit for all of them; one press undoes it.</p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <button
          type="button"
          className="press"
          onClick={() =>
            dispatch(
              edit(`${name} ways to ${count} channels`, (draft) =>
                column === 'wall'
                  ? channels.forEach((id) => waysIn(draft, id, column).length === 0 && makeInDraft(draft, id, column))
                  : void fillColumn(draft, column, { channels }),
              ),
            )
          }
        >
          Give each one
        </button>
        <button
          type="button"
          className="press"
          onClick={() =>
            dispatch(
              edit(`no ${name} way to ${count} channels`, (draft) =>
                channels.forEach((id) => clearInDraft(draft, id, column)),
              ),
            )
          }
        >
          Take all out
        </button>
        {(column === 'app' || column === 'hub') && (
          <button type="button" className="press" onClick={() => setFeedback('reports')}>
            State comes back
          </button>
        )}
        {(column === 'app' || column === 'hub') && (
          <button type="button" className="press" onClick={() => setFeedback('silent')}>
            Nothing comes back
          </button>
        )}
        {column === 'voice' && (
          <button
            type="button"
            className="press"
            onClick={() =>
              dispatch(
                edit(`${count} names with their room`, (draft) => {
                  for (const way of draft.ways)
                    if (way.kind === 'voice' && channels.includes(way.channel)) {
                      const room = draft.rooms
                        .find((r) => r.id === draft.channels.find((c) => c.id === way.channel)?.room)
                        ?.name.split(' ')[0]
                        ?.toLowerCase()
                      if (room && !way.name.startsWith(room)) way.name = `${room} ${way.name}`.slice(0, 60)
                    }
                }),
              )
            }
          >
            With the room before it
          </button>
        )}
        {column === 'wall' && (
          <button
            type="button"
            className="press"
            onClick={() =>
              dispatch(
                edit(`settle time of ${count} switches`, (draft) => {
                  for (const way of draft.ways)
                    if (way.kind === 'wall' && channels.includes(way.channel))
                      draft.inputs.find((i) => i.id === way.input)!.settleMs = 25
                }),
              )
            }
          >
            Settle in 25 ms
          </button>
        )}
        <button type="button" className="press-quiet" onClick={() => dispatch(screenActions.channelsChosen([]))}>
          only one
        </button>
      </div>
    </section>
  )
}

const EMPTY: Record<Exclude<Column, 'wall'>, readonly [string, string]> = {
  remote: ['No key of a remote works it yet.', 'Give it a key'],
  app: ['No point on the app service yet.', 'Give it a point and a widget'],
  hub: ['The hub does not know this channel yet.', 'Give it an entity'],
  voice: ['It cannot be asked for by voice yet.', 'Give it a spoken name'],
  nearby: ['No character over a nearby link yet.', 'Give it characters'],
  serial: ['No character over a serial link yet.', 'Give it characters'],
  rule: ['No rule works it by itself.', 'Give it a rule'],
}

function NoWay({ channel, column }: { channel: Channel; column: Column }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  if (column !== 'wall') {
    return (
      <div className="mt-2">
        <p className="text-note text-soft">{EMPTY[column][0]}</p>
        <button type="button" className="press mt-2" onClick={() => dispatch(makeWay(channel, column))}>
          {EMPTY[column][1]}
        </button>
      </div>
    )
  }
  const add = (kind: Input['kind']) =>
    dispatch(
      edit(`${kind === 'momentary' ? 'push switch' : kind} for ${channel.name}`, (draft) => {
        const target = draft.channels.find((candidate) => candidate.id === channel.id)!
        addWallWay(draft, target, addSwitchFor(draft, target, kind, controllerOf(draft, target.controller)!))
      }),
    )
  const others = site.inputs.filter((input) => input.controller === channel.controller && input.kind !== 'contact')
  return (
    <div className="mt-2">
      <p className="text-note text-soft">No switch works it yet.</p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <button type="button" className="press" onClick={() => add('momentary')}>
          New push switch
        </button>
        {channel.kind !== 'pulsed' && (
          <button type="button" className="press" onClick={() => add('rocker')}>
            New rocker
          </button>
        )}
        {channel.kind === 'stepped' && (
          <button type="button" className="press" onClick={() => add('selector')}>
            New selector
          </button>
        )}
        {others.map((input) => (
          <button
            key={input.id}
            type="button"
            className="press"
            onClick={() =>
              dispatch(
                edit(
                  `${input.name} works ${channel.name}`,
                  (draft) =>
                    void addWallWay(
                      draft,
                      draft.channels.find((c) => c.id === channel.id)!,
                      draft.inputs.find((i) => i.id === input.id)!,
                    ),
                ),
              )
            }
          >
            {input.name}
          </button>
        ))}
      </div>
    </div>
  )
}
