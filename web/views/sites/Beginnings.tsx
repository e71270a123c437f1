import { lazy, Suspense, useEffect, useRef, useState, type ComponentType } from 'react'
import { comes } from '../../parts/comes'
import { isTyping } from '../../parts/typing'
import { NAME_FIELD } from './beginFields'
import { NewSiteForm } from './NewSiteForm'
import type { BeginningProps } from './useDoor'

const later = (load: () => Promise<ComponentType<BeginningProps>>) =>
  lazy(async () => ({ default: await comes(load) })) as unknown as ComponentType<BeginningProps>

/** The ways to begin a site. What they need to know of boards comes when one of them is opened. */
const WAYS: readonly {
  readonly id: string
  readonly name: string
  readonly note: string
  readonly Form: ComponentType<BeginningProps>
}[] = [
  { id: 'new', name: 'New site', note: 'name, mains, board, what it switches', Form: NewSiteForm },
  {
    id: 'sketch',
    name: 'From a sketch',
    note: 'paste its pin lines: #define LAMP 23',
    Form: later(async () => (await import('./SketchForm')).SketchForm),
  },
  {
    id: 'table',
    name: 'From a table',
    note: 'channels as CSV',
    Form: later(async () => (await import('./TableForm')).TableForm),
  },
  {
    id: 'example',
    name: 'From an example',
    note: 'two lamps, or a whole pottery',
    Form: later(async () => (await import('./ExampleForm')).ExampleForm),
  },
  {
    id: 'file',
    name: 'From a file',
    note: 'a site file, checked before it is opened',
    Form: later(async () => (await import('./FileForm')).FileForm),
  },
]

/** `n` goes to the name of a new site, past all the sites that are there. */
function useNewKey(pickNew: () => void): void {
  const latest = useRef(pickNew)
  useEffect(() => {
    latest.current = pickNew
  })
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      if (event.key !== 'n' || isTyping(event.target) || event.ctrlKey || event.metaKey || event.altKey) return
      event.preventDefault()
      latest.current()
      requestAnimationFrame(() => document.getElementById(NAME_FIELD)?.focus())
    }
    window.addEventListener('keydown', listen)
    return () => window.removeEventListener('keydown', listen)
  }, [])
}

export function Beginnings({ door }: BeginningProps) {
  const [picked, pick] = useState('new')
  useNewKey(() => pick('new'))
  const { Form, name } = WAYS.find(({ id }) => id === picked)!
  return (
    <section aria-label="Begin a site" className="mt-8 border-t-2 border-ink">
      <div role="group" aria-label="Ways to begin" className="grid grid-cols-2 sm:grid-cols-5">
        {WAYS.map((way) => (
          <button
            key={way.id}
            type="button"
            aria-pressed={way.id === picked}
            className="flex flex-col justify-start border-b-3 border-l border-b-transparent border-l-hair px-3 py-2.5 text-left first:border-l-0 hover:bg-panel aria-pressed:border-b-brass-fill aria-pressed:bg-panel"
            onClick={() => pick(way.id)}
          >
            <span className="font-place block text-head font-bold">{way.name}</span>
            <span className="block text-note leading-tight text-soft">{way.note}</span>
          </button>
        ))}
      </div>
      <div className="bg-panel px-4 py-4">
        <h2 className="sr-only">{name}</h2>
        <Suspense fallback={<p className="text-soft">Loading …</p>}>
          <Form door={door} />
        </Suspense>
      </div>
    </section>
  )
}
