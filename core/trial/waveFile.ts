import Papa from 'papaparse'
import { kindOf, type Site } from '../site'
import type { Kept, TracksKept } from './tracksKept'

/** A run as a file for programs that draw signals, and as a table. */

interface Signal {
  readonly name: string
  readonly width: number
  readonly events: readonly { readonly t: number; readonly value: number }[]
}

const numbers = (events: readonly Kept[]): Signal['events'] =>
  events.flatMap((event) =>
    'value' in event && typeof event.value === 'number' ? [{ t: event.t, value: event.value }] : [],
  )

const plain = (text: string): string => text.replace(/[^A-Za-z0-9_]+/g, '_')

function signalsOf(site: Site, tracks: TracksKept): Signal[] {
  const inputs = site.inputs.map((input) => ({
    name: `input_${plain(input.id)}`,
    width: input.kind === 'selector' ? input.bits : 1,
    events: numbers(tracks.of(`input:${input.id}`)),
  }))
  const channels = site.channels.flatMap((channel) => [
    ...kindOf(channel)
      .outputs(channel)
      .map((_, k) => ({
        name: `contact_${plain(channel.id)}_${k + 1}`,
        width: 1,
        events: numbers(tracks.of(`contact:${channel.id}.${k}`)),
      })),
    { name: `load_${plain(channel.id)}`, width: 4, events: numbers(tracks.of(`load:${channel.id}`)) },
  ])
  const screens = site.ways.flatMap((way) =>
    way.kind === 'app' || way.kind === 'hub'
      ? [
          {
            name: `screen_${plain(way.channel)}_${plain(way.id)}`,
            width: 4,
            events: numbers(tracks.of(`belief:${way.id}`)),
          },
        ]
      : [],
  )
  return [...inputs, ...channels, ...screens]
}

/** Identifiers are of the printable characters from ! to ~ (IEEE 1364-2005, 18.2.1). */
function identifier(n: number): string {
  const digit = String.fromCharCode(33 + (n % 94))
  return n < 94 ? digit : identifier(Math.floor(n / 94) - 1) + digit
}

const valueText = ({ width }: Signal, value: number, id: string): string =>
  width === 1 ? `${value ? 1 : 0}${id}` : `b${value.toString(2)} ${id}`

/** A value change dump (IEEE 1364-2005, clause 18) of inputs, contacts, loads and screens; a step of time is 1 ms. */
export function waveFile(site: Site, tracks: TracksKept, until: number): string {
  const signals = signalsOf(site, tracks)
  const declared = signals.map((signal, i) => `$var wire ${signal.width} ${identifier(i)} ${signal.name} $end`)
  const started = signals.map((signal, i) => valueText(signal, 0, identifier(i)))
  const changes = signals
    .flatMap((signal, i) => signal.events.map(({ t, value }) => ({ t, text: valueText(signal, value, identifier(i)) })))
    .sort((a, b) => a.t - b.t)
  const lines: string[] = []
  let at = 0
  for (const { t, text } of changes) {
    if (t !== at) lines.push(`#${t}`)
    at = t
    lines.push(text)
  }
  if (until > at) lines.push(`#${until}`)
  const head = [
    '$timescale 1 ms $end',
    `$scope module ${plain(site.id)} $end`,
    ...declared,
    '$upscope $end',
    '$enddefinitions $end',
  ]
  return [...head, '#0', '$dumpvars', ...started, '$end', ...lines].join('\n') + '\n'
}

/** Everything that happened, a row each (RFC 4180). */
export function runTable(tracks: TracksKept): string {
  const rows = [...tracks.lanes]
    .flatMap(([, events]) => events)
    .sort((a, b) => a.order - b.order)
    .map((event) => ({
      ms: event.t,
      lane: event.lane,
      value: event.lane === 'hand' ? event.text : event.lane === 'message' ? event.topic : (event.value ?? ''),
      from: event.lane === 'message' ? event.from : '',
      deed: event.cause ?? '',
    }))
  return `${Papa.unparse(rows, { columns: ['ms', 'lane', 'value', 'from', 'deed'] })}\r\n`
}
