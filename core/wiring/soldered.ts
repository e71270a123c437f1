import type { Site } from '../site'
import { circuitOf } from './circuitOf'
import { terminalText, type Connection } from './connections'

/** What a wire is known by when it is ticked off: moved to another pin it is another wire. */
export const wireKey = ({ from, to }: Pick<Connection, 'from' | 'to'>): string => `${from}|${to}`

/** Roles of a controller whose wire at the board is ticked off. */
export function solderedRoles(site: Site, controllerId: string, ticked: ReadonlySet<string>): Set<string> {
  const soldered = circuitOf(site, controllerId).wires.flatMap(({ from, to, role }) =>
    role !== null && ticked.has(wireKey({ from: terminalText(from), to: terminalText(to) })) ? [role] : [],
  )
  return new Set(soldered)
}
