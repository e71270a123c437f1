import { ChevronDown, CloudOff, Moon, Redo2, Search, Sun, Undo2 } from 'lucide-react'
import { lazy, Suspense, useState } from 'react'
import { comes } from '../parts/comes'
import { redo, undo } from '../store/editing'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../store/store'

/** The arch: an entrance with somebody in it. */
function Arch() {
  return (
    <svg viewBox="0 0 26 30" width="24" height="28" aria-hidden="true">
      <path d="M2.5 29V12.5a10.5 10.5 0 0 1 21 0V29" fill="none" stroke="currentColor" strokeWidth="2.4" />
      <circle cx="13" cy="20" r="2.6" fill="var(--brass-fill)" />
    </svg>
  )
}

// The menu's machinery weighs more than the head: it comes when the name is pressed.
const SiteMenu = lazy(() => comes(() => import('./SiteMenu')))

function SiteName({ name }: { name: string }) {
  const [wanted, setWanted] = useState(false)
  const plain = (
    <button
      type="button"
      aria-haspopup="menu"
      className="flex items-center gap-2 rounded-plate px-1 py-0.5"
      aria-label={`Site ${name}: choose another`}
      onClick={() => setWanted(true)}
    >
      <span className="font-place text-room font-bold tracking-tight">{name}</span>
      <ChevronDown size={15} aria-hidden="true" />
    </button>
  )
  return wanted ? (
    <Suspense fallback={plain}>
      <SiteMenu name={name} />
    </Suspense>
  ) : (
    plain
  )
}

function ControllerTabs() {
  const dispatch = useAppDispatch()
  const controllers = useAppSelector((state) => state.site.site?.controllers) ?? []
  const picked = useAppSelector((state) => state.screen.controller)
  if (controllers.length < 2) return null
  return (
    <div role="group" aria-label="Controllers" className="flex min-w-0 overflow-x-auto border border-hair bg-panel">
      {[{ id: null, name: 'All' }, ...controllers].map(({ id, name }) => (
        <button
          key={id ?? 'all'}
          type="button"
          aria-pressed={picked === id}
          className="border-r border-hair px-2.5 py-1 text-note whitespace-nowrap last:border-r-0 aria-pressed:bg-ink aria-pressed:font-semibold aria-pressed:text-wall"
          onClick={() => dispatch(screenActions.controllerPicked(id))}
        >
          {name}
        </button>
      ))}
    </div>
  )
}

/** Whether all is kept; where the server is gone, how many edits wait here for it. */
function Kept() {
  const { revision, waiting, away } = useAppSelector((state) => state.site)
  const pending = waiting.length
  if (away === null)
    return (
      <span role="status" data-testid="saved">
        {pending ? 'keeping …' : `revision ${revision}, kept`}
      </span>
    )
  return (
    <span role="status" data-testid="saved" className="flex items-center gap-1.5 font-semibold text-error" title={away}>
      <CloudOff size={15} aria-hidden="true" />
      {pending} {pending === 1 ? 'edit waits' : 'edits wait'} here: {away}
    </span>
  )
}

function History() {
  const dispatch = useAppDispatch()
  const { undo: undoLabel, redo: redoLabel, elsewhere } = useAppSelector((state) => state.site)
  const others = undoLabel === null ? elsewhere : null
  return (
    <>
      <button
        type="button"
        className="press-quiet max-w-48 text-ink"
        disabled={!undoLabel && !others}
        onClick={() => void dispatch(undo(others === null ? 'own' : 'any'))}
        title={others === null ? (undoLabel ?? undefined) : `${others}: made elsewhere, not in this tab`}
      >
        <Undo2 size={14} aria-hidden="true" />
        <span className="truncate">
          {undoLabel ? `Undo “${undoLabel}”` : others ? `Other tab: undo “${others}”` : 'Nothing to undo'}
        </span>
      </button>
      <button
        type="button"
        className="press-quiet text-ink"
        disabled={!redoLabel}
        onClick={() => void dispatch(redo())}
        aria-label={redoLabel ? `Redo “${redoLabel}”` : 'Nothing to redo'}
      >
        <Redo2 size={14} aria-hidden="true" />
      </button>
    </>
  )
}

export function Head({ onFind }: { onFind: () => void }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)
  const theme = useAppSelector((state) => state.screen.theme)
  return (
    <header className="flex items-center gap-4 border-b-2 border-ink px-4 py-2">
      <Arch />
      <SiteName name={site?.name ?? '…'} />
      <ControllerTabs />
      <div className="ml-auto flex items-center gap-3 text-note text-soft">
        <Kept />
        <History />
        <button type="button" className="press-quiet text-ink" onClick={onFind}>
          <Search size={14} aria-hidden="true" />
          find
        </button>
        <button
          type="button"
          className="press-quiet text-ink"
          aria-label={theme === 'light' ? 'Dark theme' : 'Light theme'}
          onClick={() => dispatch(screenActions.themeTurned())}
        >
          {theme === 'light' ? <Moon size={15} aria-hidden="true" /> : <Sun size={15} aria-hidden="true" />}
        </button>
      </div>
    </header>
  )
}
