/** The steps of the job, in the order in which it is done; the letter follows `g`. */
export const STEPS = [
  { id: 'bench', name: 'Bench', letter: 'b' },
  { id: 'ways', name: 'Ways in', letter: 'w' },
  { id: 'build', name: 'Build', letter: 'u' },
  { id: 'trial', name: 'Trial', letter: 't' },
  { id: 'whatif', name: 'What if', letter: 'i' },
  { id: 'handover', name: 'Handover', letter: 'h' },
  { id: 'logbook', name: 'Logbook', letter: 'l' },
] as const
export type StepId = (typeof STEPS)[number]['id']
