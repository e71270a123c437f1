import { useSearchParams } from 'react-router'

export const TABS = [
  ['board', 'Board'],
  ['supply', 'Supply'],
  ['contacts', 'Contacts'],
  ['start', 'Start-up'],
  ['wiring', 'Wiring'],
  ['profiles', 'Profiles'],
] as const
export type TabId = (typeof TABS)[number][0]

/** Which side of the bench is looked at; kept in the address, so that it can be linked and reloaded. */
export function useTab(): [TabId, (tab: TabId) => void] {
  const [parameters, setParameters] = useSearchParams()
  const asked = parameters.get('side')
  const tab = TABS.find(([id]) => id === asked)?.[0] ?? 'board'
  return [tab, (next) => setParameters(next === 'board' ? {} : { side: next }, { replace: true })]
}

export function BenchTabs({ tab, onPick }: { tab: TabId; onPick: (tab: TabId) => void }) {
  return (
    <div role="group" aria-label="Sides of the bench" className="flex gap-4 border-b border-hair">
      {TABS.map(([id, name]) => (
        <button
          key={id}
          type="button"
          aria-pressed={tab === id}
          className="-mb-px min-h-7 border-b-3 border-transparent pb-1 text-soft hover:text-ink aria-pressed:border-brass-fill aria-pressed:font-semibold aria-pressed:text-ink"
          onClick={() => onPick(id)}
        >
          {name}
        </button>
      ))}
    </div>
  )
}
