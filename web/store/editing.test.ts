import { soon } from '../soon.testkit'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { toast } from 'sonner'
import { applyOperations, parseSite } from '../../core/site'
import { clearCell, makeWay } from '../views/ways/cellEdits'
import { chooseAlso } from '../views/ways/crossbarChoice'
import { askNow } from './away'
import { edit, heardEdit, loadSite, redo, undo } from './editing'
import { Keeper } from './keeper.testkit'
import { screenActions } from './screenSlice'
import { store } from './store'

vi.mock('sonner', () => ({ toast: Object.assign(vi.fn(), { error: vi.fn(), success: vi.fn() }) }))

let keeper: Keeper
const state = () => store.getState().site
const theirs = (revision: number) => ({ revision, label: 'theirs', tab: 'another' })
const settled = () => soon(() => expect(state().waiting.length).toBe(0))
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
    expect([state().site!.name, state().waiting.length, state().undo]).toEqual(['C', 3, 'call it C'])
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
    expect(toast.error).toHaveBeenCalledWith('Not saved: name: too short')
    // and what comes afterwards is kept again
    rename('C')
    await settled()
    expect(keeper.heard).toEqual(['call it C at "7"'])
  })
  it('while the server is gone they stand on the screen and wait, and go out in order when it answers', async () => {
    keeper.unreachable = true
    rename('A')
    rename('B')
    await soon(() => expect(state().away).toBe('the server cannot be reached'))
    rename('C')
    expect([state().status, state().site!.name, state().waiting.length]).toEqual(['ready', 'C', 3])
    keeper.unreachable = false
    askNow()
    await settled()
    expect(keeper.heard).toEqual(['call it A at "7"', 'call it B at "8"', 'call it C at "9"'])
    expect([state().site!.name, state().away, keeper.site.name]).toEqual(['C', null, 'C'])
    expect(toast.error).not.toHaveBeenCalled()
  })
  it('one that was kept, and only its answer lost, is not sent twice', async () => {
    keeper.loseAnswers = 1
    rename('A')
    await soon(() => expect(state().away).not.toBeNull())
    rename('B')
    askNow()
    await settled()
    expect(keeper.heard).toEqual(['call it A at "7"', 'call it B at "8"'])
    expect([state().revision, state().site!.name]).toEqual([9, 'B'])
  })
  it('a store that cannot keep anything now is asked again, and says why', async () => {
    keeper.refusals = [{ status: 503, message: 'not saved: the disk is full' }]
    rename('A')
    await soon(() => expect(state().away).toBe('not saved: the disk is full'))
    askNow()
    await settled()
    expect([state().away, keeper.site.name]).toEqual([null, 'A'])
  })
  it('going to another site waits for what is on its way', async () => {
    keeper.unreachable = true
    rename('A')
    await soon(() => expect(state().away).not.toBeNull())
    const gone = store.dispatch(loadSite('test-bench'))
    keeper.unreachable = false
    askNow()
    await gone
    expect(keeper.heard).toEqual(['call it A at "7"'])
    expect([state().status, state().site!.name]).toEqual(['ready', 'A'])
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
    expect(toast).toHaveBeenLastCalledWith('Redone: call it B')
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
    await store.dispatch(heardEdit('test-bench', theirs(8)))
    expect([state().site!.name, state().revision]).toEqual(['theirs', 8])
  })
  it.each([
    ['of another site', 'elsewhere', 9],
    ['that is already here', 'test-bench', 7],
  ])('%s is not', async (_, id, revision) => {
    const before = state().site
    await store.dispatch(heardEdit(id, theirs(revision)))
    expect(state().site).toBe(before)
  })
  const theirEdit = (patch: Parameters<typeof applyOperations>[1]) => {
    keeper.site = applyOperations(keeper.site, patch)
    keeper.revision++
  }
  it('says what it was', async () => {
    theirEdit([{ op: 'replace', path: '/name', value: 'theirs' }])
    await store.dispatch(heardEdit('test-bench', { revision: 8, label: 'Site: name', tab: 'another' }))
    expect(toast).toHaveBeenCalledWith('Changed in another tab: Site: name', { id: 'elsewhere' })
  })
  it('that was faster, elsewhere in the document: ours is made on top of it, and both are kept', async () => {
    theirEdit([{ op: 'add', path: '/channels/0', value: { ...keeper.site.channels[0]!, id: 'extra' } }])
    store.dispatch(
      edit('ours', (draft) => {
        draft.channels[0]!.name = 'Ours'
      }),
    )
    rename('house')
    await settled()
    expect(keeper.heard).toEqual(['ours at "8"', 'call it house at "9"'])
    expect(keeper.site.channels.slice(0, 2).map(({ id, name }) => [id, name])).toEqual([
      ['extra', expect.any(String)],
      [expect.not.stringMatching('extra'), 'Ours'],
    ])
    expect(keeper.site.name).toBe('house')
    expect(state().site).toEqual(keeper.site)
    expect(toast.error).not.toHaveBeenCalled()
  })
  it('that was faster, at the same place: theirs stands, ours is said with what was typed, and the rest is kept', async () => {
    theirEdit([{ op: 'replace', path: '/name', value: 'theirs' }])
    rename('ours')
    store.dispatch(
      edit('call the lamp', (draft) => {
        draft.channels[0]!.name = 'Lamp of ours'
      }),
    )
    await settled()
    expect([keeper.site.name, keeper.site.channels[0]!.name]).toEqual(['theirs', 'Lamp of ours'])
    expect(state().site).toEqual(keeper.site)
    expect(toast.error).toHaveBeenCalledExactlyOnceWith(
      'Not saved: call it ours. The same place was changed in another tab. You had “ours”.',
      expect.objectContaining({ duration: Infinity }),
    )
  })
  it('does not undo itself by our key: it is said, and offered', async () => {
    keeper.elsewhere = 'theirs'
    await store.dispatch(loadSite('test-bench'))
    await store.dispatch(undo())
    expect(keeper.heard).toEqual([])
    const [words, { action }] = vi.mocked(toast).mock.lastCall as unknown as [
      string,
      { action: { label: string; onClick: () => void } },
    ]
    expect(words).toBe('This tab has nothing to undo. The last change, “theirs”, was made elsewhere.')
    expect(action.label).toBe('Undo that')
  })
  it('waits for our own, which then are the newer ones', async () => {
    let open = (): void => undefined
    keeper.gate = new Promise((resolve) => {
      open = resolve
    })
    rename('ours')
    const heard = store.dispatch(heardEdit('test-bench', theirs(8)))
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
