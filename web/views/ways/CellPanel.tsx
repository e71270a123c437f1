import { Fragment } from 'react'
import { kindOf, type Channel, type Rule, type Way } from '../../../core/site'
import {
  addLinkWay,
  addRule,
  COLUMN_NAMES,
  freeChar,
  pathOf,
  removeRule,
  removeWay,
  rulePath,
  waysIn,
} from '../../../core/ways'
import type { Column, Station } from '../../../core/ways'
import { pinReader } from '../../parts/pins'
import { Help } from '../../parts/Help'
import { edit } from '../../store/editing'
import { takeOut } from '../../store/takeOut'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { withId } from '../../store/useChange'
import { AppFields } from './AppFields'
import { makeWay } from './cellEdits'
import { EmptyCell } from './EmptyCell'
import { HubFields } from './HubFields'
import { ManyCells } from './ManyCells'
import { LinkFields, RemoteFields } from './RemoteFields'
import { RuleFields } from './rules/RuleFields'
import { VoiceFields } from './VoiceFields'
import { WallFields } from './WallFields'

/** The picked cell: its whole path with the numbers, and the fields to change it. */
export function CellPanel() {
  const picked = useAppSelector((state) => state.screen.cell)
  const chosen = useAppSelector((state) => state.screen.chosen)
  const channel = useAppSelector((state) => withId(state.site.site!.channels, picked?.channel ?? ''))
  if (!picked || !channel) return null
  if (chosen.length > 1) return <ManyCells channels={chosen} column={picked.column} />
  return <OneCell channel={channel} column={picked.column} />
}

interface CellProps {
  readonly channel: Channel
  readonly column: Column
}

/** Escape goes back to the cell. */
function OneCell({ channel, column }: CellProps) {
  const site = useAppSelector((state) => state.site.site)!
  const ways = column === 'rule' ? [] : waysIn(site, channel.id, column)
  const rules = column === 'rule' ? site.rules.filter((rule) => rule.channel === channel.id) : []
  const back = () => document.querySelector<HTMLElement>(`[data-cell="${channel.id}/${column}"]`)?.focus()
  return (
    <section
      aria-label={`${channel.name} by ${COLUMN_NAMES[column]}`}
      data-cell-panel
      className="mb-4 border-b-2 border-ink pb-4"
      onKeyDown={(event) => event.key === 'Escape' && back()}
    >
      <Help of={COLUMN_NAMES[column]}>
        <h2 className="text-head font-bold">
          {channel.name}, {column === 'rule' ? 'rules' : `by ${COLUMN_NAMES[column].toLowerCase()}`}
        </h2>
      </Help>
      {ways.length === 0 && rules.length === 0 && <EmptyCell channel={channel} column={column} />}
      {ways.map((way) => (
        <WayInCell key={way.id} way={way} channel={channel} column={column} />
      ))}
      {rules.map((rule) => (
        <RuleInCell key={rule.id} rule={rule} channel={channel} />
      ))}
      <OneMore channel={channel} column={column} there={ways.length + rules.length > 0} />
    </section>
  )
}

function WayInCell({ way, channel, column }: CellProps & { way: Way }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const out = () =>
    dispatch(takeOut(`The ${column} way to ${channel.name}`, (draft) => removeWay(draft, way.id), undefined, 1))
  return (
    <div className="mt-2">
      <Path stations={pathOf(site, way, pinReader(site, channel.controller))} />
      <WayFields way={way} channel={channel} />
      <button type="button" className="press-quiet mt-2 -ml-1.5" onClick={out}>
        Delete way
      </button>
    </div>
  )
}

function RuleInCell({ rule, channel }: { rule: Rule; channel: Channel }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const out = () => dispatch(takeOut(rule.name, (draft) => removeRule(draft, rule.id)))
  return (
    <div className="mt-2">
      <Path stations={rulePath(site, rule, pinReader(site, channel.controller))} />
      <RuleFields rule={rule} channel={channel} />
      <button type="button" className="press-quiet mt-2 -ml-1.5" onClick={out}>
        Delete rule
      </button>
    </div>
  )
}

/** What a further way of a column is called: each channel may have several of any kind. */
const MORE: Readonly<Record<Column, string>> = {
  wall: 'Add switch',
  remote: 'Add key',
  app: 'Add point and widget',
  hub: 'Add entity',
  voice: 'Add spoken name',
  nearby: 'Add character',
  serial: 'Add character',
  rule: 'Add schedule',
}

/** A further way beside what is there: a second switch, an on/off point beside the one with levels, a schedule. */
function OneMore({ channel, column, there }: CellProps & { there: boolean }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const schedule = edit(`schedule for ${channel.name}`, (draft) => {
    const target = withId(draft.channels, channel.id)
    if (target) addRule(draft, target, 'schedule')
  })
  const link = site.links.find((one) => one.controller === channel.controller && one.kind === column)
  const character = edit(`character for ${channel.name}`, (draft) => {
    const target = withId(draft.channels, channel.id)
    const own = withId(draft.links, link?.id ?? '')
    if (target && own) addLinkWay(draft, target, own, freeChar(draft, target.controller), kindOf(target).usual.press)
  })
  if (!there) return null
  const more =
    column === 'rule' ? schedule : column === 'nearby' || column === 'serial' ? character : makeWay(channel, column)
  return (
    <button type="button" className="press mt-1" onClick={() => dispatch(more)}>
      {MORE[column]}
    </button>
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
      {stations.map(({ direction, text }, i) => (
        <li key={i} className="flex gap-1.5">
          <span aria-label={direction} className="shrink-0 text-brass">
            {direction === 'to' ? '→' : '←'}
          </span>
          <span className="min-w-0 [overflow-wrap:anywhere]">
            {text.split(/(?<=\/)/).map((piece, at) => (
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
