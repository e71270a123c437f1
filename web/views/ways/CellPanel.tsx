import { Fragment } from 'react'
import { controllerOf, type Channel, type Input } from '../../../core/site'
import { addWallWay, addSwitchFor, COLUMN_NAMES, pathOf, removeWay, type Column } from '../../../core/ways'
import { pinReader } from '../../parts/pins'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { AppFields } from './AppFields'
import { HubFields } from './HubFields'
import { WallFields } from './WallFields'
import { makeWay } from './crossbarKeys'

/** The picked cell: its whole path with the numbers, and the fields to change it. Escape goes back to the cell. */
export function CellPanel() {
  const site = useAppSelector((state) => state.site.site)!
  const picked = useAppSelector((state) => state.screen.cell)
  const dispatch = useAppDispatch()
  const channel = site.channels.find((candidate) => candidate.id === picked?.channel)
  if (!picked || !channel) return null
  const ways = site.ways.filter((way) => way.channel === channel.id && way.kind === picked.column)
  const pinOf = pinReader(site, channel.controller)
  return (
    <section
      aria-label={`${channel.name} by ${COLUMN_NAMES[picked.column]}`}
      data-cell-panel
      className="mb-4 border-b-2 border-ink pb-4"
      onKeyDown={(event) => {
        if (event.key === 'Escape') document.querySelector<HTMLElement>(`[data-cell="${picked.channel}/${picked.column}"]`)?.focus()
      }}
    >
      <h2 className="text-head font-bold">
        {channel.name}, by {COLUMN_NAMES[picked.column].toLowerCase()}
      </h2>
      {ways.length === 0 && <NoWay channel={channel} column={picked.column} />}
      {ways.map((way) => (
        <div key={way.id} className="mt-2">
          <ol className="mb-3 border border-hair bg-wall px-2 py-1.5 font-mono text-[0.75rem] leading-5">
            {pathOf(site, way, pinOf).map((station, i) => (
              <li key={i} className="flex gap-1.5">
                <span aria-label={station.direction === 'to' ? 'to' : 'back'} className="shrink-0 text-brass">{station.direction === 'to' ? '→' : '←'}</span>
                <span className="min-w-0 [overflow-wrap:anywhere]">{station.text.split(/(?<=\/)/).map((piece, at) => <Fragment key={at}>{piece}<wbr /></Fragment>)}</span>
              </li>
            ))}
          </ol>
          {way.kind === 'wall' && <WallFields way={way} />}
          {way.kind === 'app' && <AppFields way={way} />}
          {way.kind === 'hub' && <HubFields way={way} />}
          <button type="button" className="press-quiet mt-2 -ml-1.5" onClick={() => dispatch(edit(`no ${picked.column} way to ${channel.name}`, (draft) => removeWay(draft, way.id)))}>
            Take this way out
          </button>
        </div>
      ))}
    </section>
  )
}

function NoWay({ channel, column }: { channel: Channel; column: Column }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  if (column !== 'wall') {
    return (
      <div className="mt-2">
        <p className="text-note text-soft">{column === 'app' ? 'No point on the app service yet.' : 'The hub does not know this channel yet.'}</p>
        <button type="button" className="press mt-2" onClick={() => dispatch(makeWay(channel, column))}>
          {column === 'app' ? 'Give it a point and a widget' : 'Give it an entity'}
        </button>
      </div>
    )
  }
  const add = (kind: Input['kind']) =>
    dispatch(edit(`${kind === 'momentary' ? 'push switch' : kind} for ${channel.name}`, (draft) => {
      const target = draft.channels.find((candidate) => candidate.id === channel.id)!
      addWallWay(draft, target, addSwitchFor(draft, target, kind, controllerOf(draft, target.controller)!))
    }))
  const others = site.inputs.filter((input) => input.controller === channel.controller)
  return (
    <div className="mt-2">
      <p className="text-note text-soft">No switch works it yet.</p>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <button type="button" className="press" onClick={() => add('momentary')}>New push switch</button>
        <button type="button" className="press" onClick={() => add('rocker')}>New rocker</button>
        {channel.kind === 'stepped' && <button type="button" className="press" onClick={() => add('selector')}>New selector</button>}
        {others.map((input) => (
          <button key={input.id} type="button" className="press" onClick={() => dispatch(edit(`${input.name} works ${channel.name}`, (draft) => void addWallWay(draft, draft.channels.find((c) => c.id === channel.id)!, draft.inputs.find((i) => i.id === input.id)!)))}>
            {input.name}
          </button>
        ))}
      </div>
    </div>
  )
}
