import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { toast } from 'sonner'
import { applyOperations, parseSite } from '../../core/site'
import { clearCell, makeWay } from '../views/ways/cellEdits'
import { chooseAlso } from '../views/ways/crossbarChoice'
import { edit, heardEdit, loadSite, redo, undo } from './editing'
import { Keeper } from './keeper.testkit'
import { screenActions } from './screenSlice'
import { store } from './store'

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn(), success: vi.fn() }) }))

let keeper: Keeper
const state = () => store.getState().site
const settled = () => vi.waitFor(() => expect(state().pending).toBe(0))
const rename = (name: string) =>
  store.dispatch(
    edit(`call it ${name}`, (draft) => {
      draft.name = name
    }),
  )

beforeEach(async () => {
  vi.stubGlobal('requestAnimationFrame', (run: () => void) => setTimeout(run))
  keeper = new Keeper()
  vi.stubGlobal('fetch', keeper.fetch)
  await store.dispatch(loadSite('test-bench'))
})
afterEach(() => {
  vi.unstubAllGlobals()
  vi.clearAllMocks()
})

describe('edits and the server that keeps them', () => {
  it('show at once, go out one after the other, each against the revision of the one before', async () => {
    rename('A')
    rename('B')
    rename('C')
    expect([state().site!.name, state().pending, state().undo]).toEqual(['C', 3, 'call it C'])
    await settled()
    expect(keeper.heard).toEqual(['call it A at "7"', 'call it B at "8"', 'call it C at "9"'])
    expect(state().site).toEqual(keeper.site)
    expect(state().revision).toBe(10)
  })
  it('an edit that changes nothing is not sent', async () => {
    rename(state().site!.name)
    await settled()
    expect(keeper.heard).toEqual([])
  })
  it('one that is refused is taken back from the screen, with all that were made on top of it', async () => {
    const before = state().site
    keeper.refusals = [{ status: 422, message: 'name: too short' }]
    rename('A')
    rename('B')
    await settled()
    expect(state().site).toEqual(before)
    expect(keeper.heard).toEqual([])
    expect(toast.error).toHaveBeenCalledWith('Not kept: name: too short')
    // and what comes afterwards is kept again
    rename('C')
    await settled()
    expect(keeper.heard).toEqual(['call it C at "7"'])
  })
  it('another tab that was faster is seen, not overwritten', async () => {
    keeper.site = applyOperations(keeper.site, [{ op: 'replace', path: '/name', value: 'theirs' }])
    keeper.revision++
    rename('ours')
    await settled()
    expect(state().site!.name).toBe('theirs')
    expect(toast.error).toHaveBeenCalledWith('Not kept: the site is at 8')
  })
  it('a server that is gone is said in one line', async () => {
    keeper.unreachable = true
    rename('A')
    await vi.waitFor(() =>
      expect(toast.error).toHaveBeenCalledWith(
        'Not kept: the server cannot be reached; what you change now is not kept',
      ),
    )
    expect(state().status).toBe('failed')
  })
})

describe('undo and redo', () => {
  it('walk what the server kept, after what is still on its way', async () => {
    rename('A')
    rename('B')
    await store.dispatch(undo())
    expect(keeper.heard.at(-1)).toBe('undo call it B')
    expect([state().site!.name, state().undo, state().redo]).toEqual(['A', 'call it A', 'call it B'])
    await store.dispatch(redo())
    expect([state().site!.name, state().redo]).toEqual(['B', null])
    expect(toast).toHaveBeenLastCalledWith('Done again: call it B')
    expect(state().site).toEqual(keeper.site)
  })
  it('do nothing where there is nothing to walk', async () => {
    await store.dispatch(undo())
    await store.dispatch(redo())
    expect(keeper.heard).toEqual([])
  })
})

describe('an edit in another tab', () => {
  it('is taken over', async () => {
    keeper.site = applyOperations(keeper.site, [{ op: 'replace', path: '/name', value: 'theirs' }])
    keeper.revision++
    await store.dispatch(heardEdit('test-bench', 8))
    expect([state().site!.name, state().revision]).toEqual(['theirs', 8])
  })
  it.each([
    ['of another site', 'elsewhere', 9],
    ['that is already here', 'test-bench', 7],
  ])('%s is not', async (_, id, revision) => {
    const before = state().site
    await store.dispatch(heardEdit(id, revision))
    expect(state().site).toBe(before)
  })
  it('waits for our own, which then are the newer ones', async () => {
    let open = (): void => undefined
    keeper.gate = new Promise((resolve) => {
      open = resolve
    })
    rename('ours')
    const heard = store.dispatch(heardEdit('test-bench', 8))
    open()
    await heard
    await settled()
    expect([state().site!.name, state().revision]).toEqual(['ours', 8])
  })
})

describe('the crossbar’s edits', () => {
  const ways = (column: string) => state().site!.ways.filter((way) => way.kind === column).length
  it('make the usual way of a cell and take it out again, each undone by one press', async () => {
    const channel = state().site!.channels[0]!
    const before = state().site
    store.dispatch(makeWay(channel, 'voice'))
    expect(ways('voice')).toBe(1)
    store.dispatch(clearCell(channel, 'voice'))
    expect(ways('voice')).toBe(0)
    await settled()
    expect(keeper.heard).toHaveLength(2)
    await store.dispatch(undo())
    await store.dispatch(undo())
    expect(state().site).toEqual(before)
    expect(parseSite(keeper.site).ok).toBe(true)
  })
  it('choose several channels: one more, one less, or all between', () => {
    const ids = state().site!.channels.map((channel) => channel.id as string)
    store.dispatch(screenActions.cellPicked({ channel: ids[0]!, column: 'wall' }))
    store.dispatch(chooseAlso(ids[1]!, true))
    expect(store.getState().screen.chosen).toEqual(ids)
    store.dispatch(chooseAlso(ids[1]!, false))
    expect(store.getState().screen.chosen).toEqual([])
    store.dispatch(screenActions.siteLeft())
    store.dispatch(chooseAlso(ids[1]!, false))
    expect(store.getState().screen.chosen).toEqual([])
  })
})
