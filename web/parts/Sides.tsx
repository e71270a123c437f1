import { lazy, Suspense, useEffect, useState, type ComponentType } from 'react'
import { useSearchParams } from 'react-router'
import { comes } from './comes'

/** A side of a view: its place in the address, its name on the tab, and what it shows. */
export interface Side<Props> {
  readonly id: string
  readonly name: string
  readonly View: ComponentType<Props>
}

/** A side whose code comes when it is looked at. */
export const side = <Props,>(id: string, name: string, load: () => Promise<ComponentType<Props>>): Side<Props> => ({
  id,
  name,
  View: lazy(async () => ({ default: await comes(load) })) as unknown as ComponentType<Props>,
})

/**
 * Which side is looked at; kept in the address, so that it can be linked and reloaded. The first needs no word there.
 */
export function useSide<Row extends { readonly id: string }>(sides: readonly Row[]): [Row, (id: string) => void] {
  const [parameters, setParameters] = useSearchParams()
  const first = sides[0]!
  const asked = sides.find(({ id }) => id === parameters.get('side')) ?? first
  return [asked, (id) => setParameters(id === first.id ? {} : { side: id }, { replace: true })]
}

/** What one is led to within a side: the thing's id, kept in the address beside the side. */
export const useLedTo = (): string | null => useSearchParams()[0].get('at')

/** What is picked in a list: by hand, until one is led to another thing; null: nothing yet. */
export function usePicked(): [string | null, (id: string) => void] {
  const led = useLedTo()
  const [own, setOwn] = useState<{ readonly over: string | null; readonly id: string } | null>(null)
  return [own && own.over === led ? own.id : led, (id) => setOwn({ over: led, id })]
}

/** Frames that a side is waited for: its code may be on its way. */
const MOST_FRAMES = 120

/** Brings what one is led to before the eye and into the hand, as soon as it is there. */
function useLeading(): void {
  const led = useLedTo()
  useEffect(() => {
    let frame = 0
    let count = 0
    const look = () => {
      const thing = led === null ? null : document.querySelector<HTMLElement>(`[data-thing="${CSS.escape(led)}"]`)
      if (thing) {
        thing.scrollIntoView({ block: 'center' })
        thing.tabIndex = -1
        thing.focus({ preventScroll: true })
      } else if (led !== null && count++ < MOST_FRAMES) frame = requestAnimationFrame(look)
    }
    look()
    return () => cancelAnimationFrame(frame)
  }, [led])
}

interface TabsProps {
  readonly label: string
  readonly sides: readonly { readonly id: string; readonly name: string }[]
  readonly current: string
  readonly onPick: (id: string) => void
}

export function SideTabs({ label, sides, current, onPick }: TabsProps) {
  return (
    <div role="group" aria-label={label} className="flex gap-4 overflow-x-auto border-b border-hair whitespace-nowrap">
      {sides.map(({ id, name }) => (
        <button
          key={id}
          type="button"
          aria-pressed={current === id}
          className={
            '-mb-px min-h-7 border-b-3 border-transparent pb-1 text-soft hover:text-ink ' +
            'aria-pressed:border-brass-fill aria-pressed:font-semibold aria-pressed:text-ink'
          }
          onClick={() => onPick(id)}
        >
          {name}
        </button>
      ))}
    </div>
  )
}

/** The side that is looked at, or that it is on its way. */
export function SideView<Props extends object>({ side: { View }, ...props }: { side: Side<Props> } & Props) {
  useLeading()
  return (
    <Suspense
      fallback={
        <p role="status" className="mt-4 text-soft">
          Loading …
        </p>
      }
    >
      <View {...(props as unknown as Props)} />
    </Suspense>
  )
}
