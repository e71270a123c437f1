import { ChevronDown, CloudOff, Menu, Moon, Redo2, Search, Sun, Undo2 } from 'lucide-react'
import { lazy, Suspense, useEffect, useRef, useState } from 'react'
import { counted } from '../../core/site'
import { Arch } from '../parts/Arch'
import { comes } from '../parts/comes'
import { redo, undo } from '../store/editing'
import { selectUnchecked } from '../store/findings'
import { screenActions } from '../store/screenSlice'
import { selectShown, showsOne } from '../store/selection'
import { useAppDispatch, useAppSelector } from '../store/store'
import { CountTags, spokenCounts, useCounts } from './counts'

// The menu's machinery weighs more than the head: it comes when the name is pressed.
const SiteMenu = lazy(() => comes(() => import('./SiteMenu')))

function SiteName({ name }: { name: string }) {
  const [wanted, setWanted] = useState(false)
  const plain = (
    <button
      type="button"
      aria-haspopup="menu"
      className="flex max-w-full min-w-0 items-center gap-2 rounded-plate px-1 py-0.5"
      aria-label={`Site ${name}: choose another`}
      onClick={() => setWanted(true)}
    >
      <span className="font-place truncate text-room font-bold tracking-tight">{name}</span>
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

/** What can be picked: all of them, but where a view shows one at a time. */
function usePickable(): readonly { readonly id: string | null; readonly name: string }[] {
  const controllers = useAppSelector((state) => state.site.site?.controllers) ?? []
  const step = useAppSelector((state) => state.screen.step)
  return showsOne(step) ? controllers : [{ id: null, name: 'All' }, ...controllers]
}

function ControllerTabs() {
  const dispatch = useAppDispatch()
  const picked = useAppSelector(selectShown)
  const pickable = usePickable()
  const row = useRef<HTMLDivElement>(null)
  useEffect(() => {
    row.current?.querySelector('[aria-pressed="true"]')?.scrollIntoView({ block: 'nearest', inline: 'nearest' })
  }, [picked])
  if (pickable.filter(({ id }) => id !== null).length < 2) return null
  return (
    <div
      ref={row}
      role="group"
      aria-label="Controllers"
      className="flex min-w-0 overflow-x-auto border border-hair bg-panel"
    >
      {pickable.map(({ id, name }) => (
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

/** The same choice where there is no room for tabs. */
function ControllerList() {
  const dispatch = useAppDispatch()
  const picked = useAppSelector(selectShown)
  const pickable = usePickable()
  if (pickable.filter(({ id }) => id !== null).length < 2) return null
  return (
    <select
      aria-label="Controller"
      className="field min-h-9 min-w-0 flex-1"
      value={picked ?? ''}
      onChange={({ target }) => dispatch(screenActions.controllerPicked(target.value || null))}
    >
      {pickable.map(({ id, name }) => (
        <option key={id ?? ''} value={id ?? ''}>
          {id === null ? 'All controllers' : name}
        </option>
      ))}
    </select>
  )
}

/** Whether all is saved; where the server is gone, how many edits wait here for it. */
function Saved() {
  const { revision, waiting, away } = useAppSelector((state) => state.site)
  const pending = waiting.length
  if (away === null)
    return (
      <span role="status" data-testid="saved" className="whitespace-nowrap">
        {pending ? 'saving …' : `revision ${revision}, saved`}
      </span>
    )
  return (
    <span role="status" data-testid="saved" className="flex items-center gap-1.5 font-semibold text-error" title={away}>
      <CloudOff size={15} aria-hidden="true" />
      {counted(pending, 'edit')} not saved yet: {away}
    </span>
  )
}

function History({ wide }: { wide: boolean }) {
  const dispatch = useAppDispatch()
  const { undo: undoLabel, redo: redoLabel, elsewhere } = useAppSelector((state) => state.site)
  const others = undoLabel === null ? elsewhere : null
  const undoWords = undoLabel ? `Undo “${undoLabel}”` : others ? `Undo in other tab: “${others}”` : 'Nothing to undo'
  return (
    <>
      <button
        type="button"
        className={wide ? 'press-quiet max-w-48 text-ink' : ICON}
        aria-label={undoWords}
        disabled={!undoLabel && !others}
        onClick={() => void dispatch(undo(others === null ? 'own' : 'any'))}
        title={others === null ? (undoLabel ?? undefined) : `${others}: made elsewhere, not in this tab`}
      >
        <Undo2 size={wide ? 14 : 18} aria-hidden="true" />
        {wide && <span className="truncate">{undoWords}</span>}
      </button>
      <button
        type="button"
        className={wide ? 'press-quiet text-ink' : ICON}
        disabled={!redoLabel}
        onClick={() => void dispatch(redo())}
        aria-label={redoLabel ? `Redo “${redoLabel}”` : 'Nothing to redo'}
      >
        <Redo2 size={wide ? 14 : 18} aria-hidden="true" />
      </button>
    </>
  )
}

/** A press on a narrow screen: as large as a thumb wants it. */
const ICON = 'press-quiet min-h-9 min-w-9 justify-center text-ink'

function ThemePress({ wide }: { wide: boolean }) {
  const dispatch = useAppDispatch()
  const theme = useAppSelector((state) => state.screen.theme)
  const Sign = theme === 'light' ? Moon : Sun
  return (
    <button
      type="button"
      className={wide ? 'press-quiet text-ink' : ICON}
      aria-label={theme === 'light' ? 'Dark theme' : 'Light theme'}
      onClick={() => dispatch(screenActions.themeTurned())}
    >
      <Sign size={wide ? 15 : 18} aria-hidden="true" />
    </button>
  )
}

/** Where one is, what is shown, and what works everywhere. */
export function Head({ onFind, wide }: { onFind: () => void; wide: boolean }) {
  const name = useAppSelector((state) => state.site.site?.name) ?? '…'
  if (!wide) return <NarrowHead name={name} onFind={onFind} />
  return (
    <header className="flex items-center gap-4 border-b-2 border-ink px-4 py-2">
      <Arch />
      <SiteName name={name} />
      <ControllerTabs />
      <div className="ml-auto flex items-center gap-3 text-note text-soft">
        <Saved />
        <History wide />
        <button type="button" className="press-quiet text-ink" onClick={onFind}>
          <Search size={14} aria-hidden="true" />
          Find
        </button>
        <ThemePress wide />
      </div>
    </header>
  )
}

/** The same in two lines; steps and findings are panels that open. */
function NarrowHead({ name, onFind }: { name: string; onFind: () => void }) {
  const dispatch = useAppDispatch()
  return (
    <header className="border-b-2 border-ink px-2 py-1">
      <div className="flex items-center gap-1">
        <button
          type="button"
          className={ICON}
          aria-label="Steps of the job"
          onClick={() => dispatch(screenActions.panelTurned('steps'))}
        >
          <Menu size={20} aria-hidden="true" />
        </button>
        <div className="min-w-0 flex-1 overflow-hidden">
          <SiteName name={name} />
        </div>
        <History wide={false} />
        <button type="button" className={ICON} aria-label="Find" onClick={onFind}>
          <Search size={18} aria-hidden="true" />
        </button>
        <ThemePress wide={false} />
      </div>
      <div className="flex items-center gap-2 px-1 pb-1 text-small text-soft">
        <ControllerList />
        <Saved />
        <FindingsPress />
      </div>
    </header>
  )
}

function FindingsPress() {
  const dispatch = useAppDispatch()
  const counts = useCounts()
  const unchecked = useAppSelector(selectUnchecked).length
  return (
    <button
      type="button"
      className="press ml-auto min-h-9"
      aria-label={`Open the findings: ${spokenCounts(counts, unchecked)}`}
      onClick={() => dispatch(screenActions.panelTurned('findings'))}
    >
      <CountTags counts={counts} unchecked={unchecked} />
    </button>
  )
}
