import { assignedPin } from '../../core/pins'
import type { Site } from '../../core/site'

/** The pin of a role on the controller that has it, as a person reads it. */
export const pinReader =
  (site: Site, controller: string) =>
  (role: string): string | null =>
    assignedPin(site, controller, role)
