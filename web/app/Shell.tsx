import { lazy, Suspense, useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react'
import { Link, Outlet, useLocation, useNavigate, useParams } from 'react-router'
import { Toaster } from 'sonner'
import { comes } from '../parts/comes'
import { loadSite } from '../store/editing'
import { followLive } from '../store/live'
import { keepTheme } from '../parts/theme'
import { screenActions } from '../store/screenSlice'
import { useAppDispatch, useAppSelector } from '../store/store'
import { Drawer, useTurnDrawer } from './Drawer'
import { FindAnything } from './FindAnything'
import { Head } from './Head'
import { JobRail } from './JobRail'
import { useKeptFocus } from './keepFocus'
import { useShellKeys } from './keys'
import { NarrowPanels } from './NarrowPanels'
import { useWide } from '../parts/wide'
import { Walk } from './Walk'

const KeysHelp = lazy(() => comes(() => import('./KeysHelp')))

/** Head, job rail, view, findings drawer, foot: the hall in which every step stands. */
export function Shell() {
  const { siteId = '' } = useParams()
  const { pathname } = useLocation()
  const { status, error } = useAppSelector((state) => state.site)
  const theme = useAppSelector((state) => state.screen.theme)
  const wide = useWide()
  const { help, finding, open, close } = useDialogs(siteId)

  useSite(siteId)
  useTheme(theme)
  useUnkept()
  useKeptFocus()
  useStep(pathname.split('/')[2] ?? null)

  if (status === 'failed') return <NoSite why={error} />
  return (
    <div className="flex h-full flex-col">
      <SkipToView />
      <Head onFind={() => open('find')} wide={wide} />
      <Walk />
      <div className="flex min-h-0 flex-1">
        {wide && <JobRail siteId={siteId} />}
        <View key={pathname} ready={status === 'ready'} />
        {wide && status === 'ready' && <Drawer />}
      </div>
      {!wide && status === 'ready' && <NarrowPanels siteId={siteId} />}
      <Foot wide={wide} />
      {finding && <FindAnything onClose={close} />}
      {help && (
        <Suspense fallback={null}>
          <KeysHelp onClose={close} />
        </Suspense>
      )}
      <Toaster theme={theme} position="bottom-center" toastOptions={{ className: 'font-sans' }} />
    </div>
  )
}

/** The finder and the list of keys, and the keys that open them and go to a step. */
function useDialogs(siteId: string) {
  const navigate = useNavigate()
  const { pathname } = useLocation()
  const [shown, open] = useState<'find' | 'keys' | null>(null)
  const wide = useWide()
  const dispatch = useAppDispatch()
  const turn = useTurnDrawer()
  const byKey = useArrivalByKey()
  useShellKeys({
    onFind: () => open('find'),
    onHelp: () => open('keys'),
    onDrawer: () => (wide ? turn() : dispatch(screenActions.panelTurned('findings'))),
    onStep: (step) => {
      const path = `/${siteId}/${step}`
      byKey.current = path !== pathname
      void navigate(path)
    },
  })
  return { finding: shown === 'find', help: shown === 'keys', open, close: () => open(null) }
}

/** Frames in which what stands ready in a view may still be on its way. */
const MOST_FRAMES = 30

/**
 * A view that was asked for by key takes the hand: what stands ready in it (the cell of the crossbar), else the view
 * itself. Gives the mark that a key has asked.
 */
function useArrivalByKey(): RefObject<boolean> {
  const { pathname } = useLocation()
  const byKey = useRef(false)
  useEffect(() => {
    if (!byKey.current) return
    byKey.current = false
    let frame = 0
    let left = MOST_FRAMES
    const take = () => {
      const view = document.getElementById('view')
      const ready = view?.querySelector<HTMLElement>('[role="gridcell"][tabindex="0"]')
      if (ready) return ready.focus()
      if (left === MOST_FRAMES) view?.focus()
      // a hand that has gone elsewhere meanwhile stays there
      if (left-- > 0 && document.activeElement === view) frame = requestAnimationFrame(take)
    }
    take()
    return () => cancelAnimationFrame(frame)
  }, [pathname])
  return byKey
}

/** Selections go by the step that is looked at. */
function useStep(step: string | null): void {
  const dispatch = useAppDispatch()
  useLayoutEffect(() => void dispatch(screenActions.stepOpened(step)), [dispatch, step])
}

/** Reads the site, and stays with what others change in it. */
function useSite(siteId: string): void {
  const dispatch = useAppDispatch()
  useEffect(() => {
    void dispatch(loadSite(siteId))
    return followLive(siteId, dispatch)
  }, [siteId, dispatch])
}

/** A tab that is closed takes with it what waits in it: the browser asks first. */
function useUnkept(): void {
  const waits = useAppSelector((state) => state.site.waiting.length > 0)
  useEffect(() => {
    if (!waits) return
    const ask = (event: BeforeUnloadEvent) => event.preventDefault()
    window.addEventListener('beforeunload', ask)
    return () => window.removeEventListener('beforeunload', ask)
  }, [waits])
}

function useTheme(theme: 'light' | 'dark'): void {
  useEffect(() => {
    document.documentElement.dataset['theme'] = theme
    keepTheme(theme)
  }, [theme])
}

const NoSite = ({ why }: { why: string | null }) => (
  <main className="p-10">
    <h1 className="text-view font-bold">This site cannot be shown</h1>
    <p className="my-3">{why}</p>
    <Link className="press" to="/">
      Back to the sites
    </Link>
  </main>
)

const SkipToView = () => (
  <a href="#view" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-2">
    Skip to the view
  </a>
)

const View = ({ ready }: { ready: boolean }) => (
  <main
    id="view"
    tabIndex={-1}
    className="@container min-w-0 flex-1 overflow-auto outline-none [contain:strict] print:[contain:none]"
  >
    {ready ? <Outlet /> : <Loading />}
  </main>
)

const Loading = () => (
  <p className="p-6 text-soft" role="status">
    Loading the site …
  </p>
)

const Foot = ({ wide }: { wide: boolean }) => (
  <footer className="flex items-center gap-5 border-t border-hair px-4 py-1.5 text-small text-soft">
    {wide && (
      <>
        <Key word="g" what="then a letter: go to a step" />
        <Key word="u" what="undo" />
        <Key word="/" what="find" />
        <Key word="?" what="all keys" />
      </>
    )}
    <span className="ml-auto">Supply off and proved dead before opening a box. Local code decides.</span>
  </footer>
)

function Key({ word, what }: { word: string; what: string }) {
  return (
    <span>
      <kbd className="rounded-plate mr-1 border border-bus px-1 font-mono">{word}</kbd>
      {what}
    </span>
  )
}
