import type { Feedback } from '../../../core/site'

/** Whether the state comes back along a way, as a maker chooses it. */
export const FEEDBACK_CHOICES: readonly (readonly [Feedback, string])[] = [
  ['reports', 'yes, reported'],
  ['silent', 'never'],
  ['unknown', 'unknown'],
]
