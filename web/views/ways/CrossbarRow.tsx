import { memo } from 'react'
import { assignedLabel } from '../../../core/pins'
import type { Finding } from '../../../core/findings'
import { inputRoles, kindOf, loadOf, outputRoles, topLevel, type Channel, type Site } from '../../../core/site'
import { cellOf, COLUMNS, type Column } from '../../../core/ways'
import { FindingTags } from '../../parts/FindingTag'
import { useAppSelector } from '../../store/store'
import { CrossbarCell } from './CrossbarCell'
import { useTriedCells } from './tried'

export function RoomHead({ name, count }: { name: string; count: number }) {
  return (
    <div role="row" className="flex items-center gap-3 pt-3 pb-1">
      <span role="rowheader" className="font-place sticky left-0 bg-wall pr-2 font-semibold">
        {name}
      </span>
      <span className="h-px flex-1 bg-hair" aria-hidden="true" />
      <span role="gridcell" className="text-small text-soft">
        {count} {count === 1 ? 'channel' : 'channels'}
      </span>
    </div>
  )
}

interface RowProps {
  readonly channel: Channel
  readonly rowIndex: number
  readonly template: string
  readonly findings: readonly Finding[]
  /** the column that Tab enters */
  readonly current: Column | null
  readonly picked: Column | null
}

/** The pins of an input as the crossbar shows them; null: none is planned. */
function pinsOf(site: Site, controller: string, id: string): string | null {
  const input = site.inputs.find((candidate) => candidate.id === id)
  const pins = input ? inputRoles(input).map((role) => assignedLabel(site, controller, role)) : []
  return pins.every((pin) => pin === null) ? null : pins.map((pin) => pin ?? '–').join(' ')
}

export const CrossbarRow = memo(function CrossbarRow(props: RowProps) {
  const { channel, rowIndex, template, findings, current, picked } = props
  const site = useAppSelector((state) => state.site.site)!
  const tried = useTriedCells()
  const pinOf = (of: Channel, input: string) => pinsOf(site, of.controller, input)
  return (
    <div role="row" aria-rowindex={rowIndex} className="grid" style={{ gridTemplateColumns: template }}>
      <ChannelHead channel={channel} findings={findings.filter(({ where }) => where.column === undefined)} />
      {COLUMNS.map((column) => (
        <CrossbarCell
          key={column}
          cell={cellOf(site, channel, column, pinOf)}
          name={channel.name}
          findings={findings.filter(({ where }) => where.column === column)}
          reachable={current === column}
          picked={picked === column}
          tried={tried.get(`${channel.id}/${column}`)}
        />
      ))}
    </div>
  )
})

/** What a channel is, in a line: its kind with its levels, its load, whether it is essential. */
function channelWords(site: Site, channel: Channel): string {
  const load = loadOf(site, channel.load)
  const levels = kindOf(channel).report === 'level' ? ` 0–${topLevel(channel)}` : ''
  const loaded = load ? `, ${load.type === 'led' ? 'LED' : load.type} ${load.watts} W` : ', no load named'
  return `${channel.kind}${load ? levels : ''}${loaded}${channel.essential ? ', essential' : ''}`
}

function ChannelHead({ channel, findings }: { channel: Channel; findings: readonly Finding[] }) {
  const site = useAppSelector((state) => state.site.site)!
  const pins = site.controllers.find((candidate) => candidate.id === channel.controller)?.pins ?? {}
  const roles = outputRoles(channel)
  const pin = roles.map((role) => pins[role]?.pin).find((one) => one !== undefined)
  return (
    <div
      role="rowheader"
      className="sticky left-0 z-10 flex flex-col items-start gap-x-2.5 gap-y-1 bg-wall py-1.5 pr-2 @3xl:flex-row"
    >
      <span
        className={
          'rounded-plate mt-0.5 flex h-8 w-11 shrink-0 items-center justify-center border-[1.5px] border-plate ' +
          `font-mono text-note font-semibold ${pin ? 'bg-plate text-plate-ink' : 'border-dashed text-soft'}`
        }
        title={pin ? 'output pin' : 'no output pin yet'}
      >
        {pin ?? '–'}
        {pin && roles.length > 1 && <span className="text-[0.625rem]">+{roles.length - 1}</span>}
      </span>
      <span className="min-w-0">
        <span className="block font-semibold">{channel.name}</span>
        <span className="block text-small text-soft">{channelWords(site, channel)}</span>
        <FindingTags findings={findings} />
      </span>
    </div>
  )
}
