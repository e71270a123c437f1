import { useCallback } from 'react'
import type { Faults, StandInPage } from '../../../../core/api'
import { controllerOf, type Point, type Service, type Site } from '../../../../core/site'
import { attempt } from '../../../store/attempt'
import { call } from '../../../store/api'
import { FaultSwitches, Refusals } from './Faults'
import { useAsked } from '../../../parts/useAsked'

/** A service's stand-in: what it knows, what it refused, what is used of its plan, and what can be done to it. */
export function StandIn({ site, service }: { site: Site; service: Service }) {
  const ask = useCallback(() => call('standIn', { site: site.id, service: service.id }), [site.id, service.id])
  const about = useCallback(
    (news: { kind: string; service?: string }) => news.kind === 'standIn' && news.service === service.id,
    [service.id],
  )
  const page = useAsked(ask, about)
  if (!page) return null
  const setFaults = (body: Faults) => void attempt(call('setFaults', { site: site.id, service: service.id, body }))
  return (
    <article aria-label={service.name}>
      <h2 className="rule-head">{service.name}</h2>
      <p className="mt-1 text-small">
        {onlineWords(site, page)} {planWords(page)}
      </p>
      <Points site={site} service={service} page={page} />
      <FaultSwitches faults={page.faults} of="this service" set={setFaults} />
      <Refusals lines={page.refused} />
    </article>
  )
}

export function onlineWords(site: Site, { online }: Pick<StandInPage, 'online'>): string {
  const names = Object.entries(online).flatMap(([id, is]) => (is ? [controllerOf(site, id)?.name ?? id] : []))
  return names.length ? `Online: ${names.join(', ')}.` : 'No board is online.'
}

const planWords = ({ used, allowed }: StandInPage): string => {
  const of = (limit: number | null): string => (limit === null ? '' : ` of ${limit.toLocaleString('en')}`)
  return `Messages: ${used.day}${of(allowed.day)} today, ${used.month}${of(allowed.month)} this month.`
}

function Points({ site, service, page }: { site: Site; service: Service; page: StandInPage }) {
  return (
    <table className="mt-2 w-full text-small" aria-label={`Points of ${service.name}`}>
      <tbody>
        {service.points.map((point) => (
          <tr key={point.id} className="border-b border-hair">
            <th scope="row" className="py-0.5 pr-3 text-left font-normal">
              {point.name}
            </th>
            <td className="w-20 py-0.5 font-semibold tabular-nums">
              {page.values[point.id] ?? point.default}
              {point.unit && ` ${point.unit}`}
            </td>
            <td className="w-40 py-0.5 text-right">
              <Touch site={site} service={service} point={point} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  )
}

/** What a finger on the phone can set. */
function Touch({ site, service, point }: { site: Site; service: Service; point: Point }) {
  const widget = service.widgets.find((one) => one.point === point.id)
  if (!widget || widget.kind === 'value' || widget.kind === 'gauge') return null
  const touch = (value: number) =>
    void attempt(
      call('touchWidget', {
        site: site.id,
        service: service.id,
        widget: widget.id,
        body: { on: value !== point.min, value },
      }),
    )
  const values = point.max - point.min > 4 ? [point.min, point.max] : range(point.min, point.max)
  return (
    <span role="group" aria-label={`Set ${point.name}`} className="inline-flex gap-1">
      {values.map((value) => (
        <button
          key={value}
          type="button"
          className="press min-w-7"
          aria-label={`Set ${point.name} to ${value}`}
          onClick={() => touch(value)}
        >
          {value}
        </button>
      ))}
    </span>
  )
}

const range = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i)
