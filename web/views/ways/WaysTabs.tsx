import { useSearchParams } from 'react-router'

export const SIDES = [
  ['crossbar', 'Crossbar'],
  ['services', 'Services'],
  ['phone', 'Phone'],
  ['voice', 'Voice'],
  ['remotes', 'Remotes'],
  ['links', 'Links'],
  ['rules', 'Rules'],
  ['credentials', 'Credentials'],
  ['templates', 'Templates'],
  ['tables', 'Tables'],
] as const
export type Side = (typeof SIDES)[number][0]

/** Which side of the ways is looked at; kept in the address, so that it can be linked and reloaded. */
export function useSide(): [Side, (side: Side) => void] {
  const [parameters, setParameters] = useSearchParams()
  const asked = parameters.get('side')
  return [
    SIDES.find(([id]) => id === asked)?.[0] ?? 'crossbar',
    (next) => setParameters(next === 'crossbar' ? {} : { side: next }, { replace: true }),
  ]
}

export function WaysTabs({ side, onPick }: { side: Side; onPick: (side: Side) => void }) {
  return (
    <div role="group" aria-label="Sides of the ways" className="mt-1 flex gap-4 border-b border-hair">
      {SIDES.map(([id, name]) => (
        <button
          key={id}
          type="button"
          aria-pressed={side === id}
          className="-mb-px min-h-7 border-b-3 border-transparent pb-1 text-soft hover:text-ink aria-pressed:border-brass-fill aria-pressed:font-semibold aria-pressed:text-ink"
          onClick={() => onPick(id)}
        >
          {name}
        </button>
      ))}
    </div>
  )
}
