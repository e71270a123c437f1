import type { Site } from '../site'
import type { Circuit, Device, Terminal, Wire } from './circuit'
import { circuitOf } from './circuitOf'
import { wireColour } from './wireColours'

/** One wire as it stands in the connection list: what is joined to what, and what to mind. */
export interface Connection {
  /** the device that is being wired */
  readonly device: string
  /** a colour to choose: a caution, local code decides */
  readonly colour: string
  readonly from: string
  readonly to: string
  readonly note: string
  readonly mains: boolean
}

/** A terminal as every page writes it: "A1 IN3". */
export const terminalText = ({ ref, pin }: Terminal): string => `${ref} ${pin}`

const rowOf = (site: Site, { under, conductor, from, to, note, mains }: Wire): Connection => ({
  device: under,
  colour: conductor === null ? '' : wireColour(site, conductor),
  from: terminalText(from),
  to: terminalText(to),
  note,
  mains,
})

/** The wires of a circuit as rows: what is not mains first, in the order in which it is wired. */
export function connectionRows(site: Site, { wires }: Circuit): Connection[] {
  // a heading stands once, with all that is wired under it
  const headings = [...new Set(wires.map(({ under }) => under))]
  const grouped = headings.flatMap((heading) => wires.filter(({ under }) => under === heading))
  const rows = grouped.map((wire) => rowOf(site, wire))
  return [...rows.filter(({ mains }) => !mains), ...rows.filter(({ mains }) => mains)]
}

/** The things that each heading of the list is the first to name, apart from the one in the heading itself. */
export function firstNamed(circuit: Circuit): ReadonlyMap<string, readonly Device[]> {
  const met = new Set<string>()
  const named = new Map<string, Device[]>()
  const inOrder = [...circuit.wires.filter(({ mains }) => !mains), ...circuit.wires.filter(({ mains }) => mains)]
  for (const { under, from, to } of inOrder)
    for (const { ref } of [from, to]) {
      if (met.has(ref)) continue
      met.add(ref)
      const device = circuit.devices.find((one) => one.ref === ref)
      if (device && !under.startsWith(`${ref} `)) named.set(under, [...(named.get(under) ?? []), device])
    }
  return named
}

/** The connection list of a controller. */
export const connectionsOf = (site: Site, controllerId: string): Connection[] =>
  connectionRows(site, circuitOf(site, controllerId))
