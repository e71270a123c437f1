import type { Circuit } from '../wiring'
import { toCsv } from './tables'

/** A quoted atom of an s-expression. */
const atom = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&')}"`

/**
 * The netlist as an s-expression, a form of our own: (netlist (controller "id") (devices (device (ref "U1") (type "…"))
 * …) (nets (net (name "GND") (node "U1" "GND") …) …))
 */
export function netlistText({ controller, devices, nets }: Circuit): string {
  const device = devices.map(
    (d) => `    (device (ref ${atom(d.ref)}) (kind ${atom(d.kind)}) (title ${atom(d.title)}) (type ${atom(d.type)}))`,
  )
  const net = nets.map(
    (n) =>
      `    (net (name ${atom(n.name)}) (class ` +
      `${atom(n.class)})\n${n.nodes.map((node) => `      (node ${atom(node.ref)} ${atom(node.pin)})`).join('\n')})`,
  )
  return (
    `(netlist\n  (controller ${atom(controller)})\n  (devices\n${device.join('\n')})\n  ` +
    `(nets\n${net.join('\n')}))\n`
  )
}

/** One line of the parts list. */
export interface PartsLine {
  readonly count: number
  readonly type: string
  readonly refs: readonly string[]
}

/**
 * What to lay out before soldering: equal parts counted together. Loads and what belongs to the house are there
 * already; a coprocessor’s parts stand on the list of its main board.
 */
export function partsList({ devices, partOf }: Circuit): PartsLine[] {
  if (partOf !== null) return []
  const byType = new Map<string, string[]>()
  for (const device of devices)
    if (device.kind !== 'load' && device.kind !== 'house')
      byType.set(device.type, [...(byType.get(device.type) ?? []), device.ref])
  return [...byType].map(([type, refs]) => ({ count: refs.length, type, refs }))
}

/** Sum of the lines whose price is known, and how many are not. */
export function partsTotal(
  lines: readonly PartsLine[],
  prices: Readonly<Record<string, number>>,
): { readonly sum: number; readonly unpriced: number } {
  return {
    sum: lines.reduce((sum, line) => sum + line.count * (prices[line.type] ?? 0), 0),
    unpriced: lines.filter((line) => prices[line.type] === undefined).length,
  }
}

/** The parts list as CSV; a price that is not known is left empty. */
export const partsCsv = (circuit: Circuit, prices: Readonly<Record<string, number>> = {}): string =>
  toCsv(
    ['count', 'part', 'references', 'price each'],
    partsList(circuit).map((line) => [line.count, line.type, line.refs.join(' '), prices[line.type] ?? '']),
  )
