import { assignedPin } from '../pins'
import { rolesOf, type Site } from '../site'
import { connectionsOf, type Connection } from './connections'

/** What a wire is known by when it is ticked off: moved to another pin it is another wire. */
export const wireKey = ({ from, to }: Pick<Connection, 'from' | 'to'>): string => `${from}|${to}`

/** Roles of a controller whose wire at the board is ticked off. */
export function solderedRoles(site: Site, controllerId: string, ticked: ReadonlySet<string>): Set<string> {
  const from = new Set(
    connectionsOf(site, controllerId)
      .filter((row) => ticked.has(wireKey(row)))
      .map((row) => row.from),
  )
  const soldered = rolesOf(site, controllerId).filter(({ id }) => {
    const pin = assignedPin(site, controllerId, id)
    return pin !== undefined && from.has(`board ${pin}`)
  })
  return new Set(soldered.map(({ id }) => id))
}
