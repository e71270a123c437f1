import { describe, expect, it } from 'vitest'
import { cleanSite } from '../../core/findings/cleanSite.testkit'
import { makeEdit } from '../../core/site'
import { siteActions, siteReducer, type SiteState } from './siteSlice'

const site = cleanSite()
const loaded = siteReducer(
  undefined,
  siteActions.loaded({ site, revision: 4, undo: 'earlier', redo: 'taken back', elsewhere: null }),
)
const rename = (of: SiteState, name: string) => {
  const { label, patch } = makeEdit(of.site!, `rename to ${name}`, (draft) => {
    draft.name = name
  })
  return siteReducer(of, siteActions.applied({ label, patch }))
}

describe('the document on screen', () => {
  it('shows an edit at once, and says that it is on its way', () => {
    const after = rename(loaded, 'New')
    expect([after.site!.name, after.waiting.length, after.revision, after.undo, after.redo]).toEqual([
      'New',
      1,
      4,
      'rename to New',
      null,
    ])
  })
  it('takes the revision of each answer, and the history only of the last', () => {
    const two = rename(rename(loaded, 'A'), 'B')
    const one = siteReducer(
      two,
      siteActions.acknowledged({ revision: 5, undo: 'rename to A', redo: null, elsewhere: null }),
    )
    expect([one.waiting.length, one.revision, one.undo]).toEqual([1, 5, 'rename to B'])
    const none = siteReducer(
      one,
      siteActions.acknowledged({ revision: 6, undo: 'rename to B', redo: null, elsewhere: null }),
    )
    expect([none.waiting.length, none.revision, none.undo]).toEqual([0, 6, 'rename to B'])
  })
  it('knows what is kept apart from what waits on top of it', () => {
    const two = rename(rename(loaded, 'A'), 'B')
    expect([two.kept!.name, two.site!.name]).toEqual([site.name, 'B'])
    const labels = { undo: 'rename to A', redo: null, elsewhere: null }
    const one = siteReducer(two, siteActions.acknowledged({ revision: 5, ...labels }))
    expect([one.kept!.name, one.site!.name]).toEqual(['A', 'B'])
    const none = siteReducer(one, siteActions.acknowledged({ revision: 6, ...labels }))
    expect(none.kept).toBe(none.site)
  })
  it('leaves what did not change the same object, so that views need not draw it again', () => {
    const after = rename(loaded, 'New')
    expect(after.site!.channels).toBe(loaded.site!.channels)
  })
  it('forgets everything when another site is loaded', () =>
    expect(siteReducer(loaded, siteActions.loading())).toMatchObject({
      status: 'loading',
      site: null,
      waiting: [],
      undo: null,
    }))
  it('an edit before a site is there changes nothing', () => {
    const empty = siteReducer(undefined, siteActions.loading())
    expect(siteReducer(empty, siteActions.applied({ label: 'x', patch: [] }))).toBe(empty)
  })
})
