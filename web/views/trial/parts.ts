import type { Site } from '../../../core/site'
import type { TrialAction, TrialSnapshot } from '../../../core/trial'

export interface TrialPart {
  readonly site: Site
  readonly snapshot: TrialSnapshot
  readonly act: (action: TrialAction) => void
}
