import type { Place } from '../../../core/trial'
import type { TrialPart } from './parts'

const PLACES: readonly (readonly [Place, string])[] = [
  ['here', 'at the controller'],
  ['house', 'in the house'],
  ['away', 'away'],
]

/** Where the person is: what they can reach follows from it. */
export const Standing = ({ snapshot, act }: Pick<TrialPart, 'snapshot' | 'act'>) => (
  <span role="group" aria-label="You are" className="flex items-center">
    <span className="mr-1.5 text-small text-soft">You are</span>
    {PLACES.map(([place, name]) => (
      <button
        key={place}
        type="button"
        aria-pressed={snapshot.place === place}
        className="min-h-7 border border-l-0 border-ink px-2 text-note first-of-type:rounded-l-plate first-of-type:border-l last:rounded-r-plate aria-pressed:bg-ink aria-pressed:text-wall"
        onClick={() => act({ kind: 'stand', place })}
      >
        {name}
      </button>
    ))}
  </span>
)
