import { describe, expect, it } from 'vitest'
import { cleanSite } from '../../core/findings/cleanSite.testkit'
import { makeEdit } from '../../core/site'
import { siteActions, siteReducer, type SiteState } from './siteSlice'

const site = cleanSite()
const loaded = siteReducer(undefined, siteActions.loaded({ site, revision: 4, undo: 'earlier', redo: 'taken back' }))
const rename = (of: SiteState, name: string) => {
  const { label, patch } = makeEdit(of.site!, `rename to ${name}`, (draft) => {
    draft.name = name
  })
  return siteReducer(of, siteActions.applied({ label, patch }))
}

describe('the document on screen', () => {
  it('shows an edit at once, and says that it is on its way', () => {
    const after = rename(loaded, 'New')
    expect([after.site!.name, after.pending, after.revision, after.undo, after.redo]).toEqual([
      'New',
      1,
      4,
      'rename to New',
      null,
    ])
  })
  it('takes the revision of each answer, and the history only of the last', () => {
    const two = rename(rename(loaded, 'A'), 'B')
    const one = siteReducer(two, siteActions.acknowledged({ revision: 5, undo: 'rename to A', redo: null }))
    expect([one.pending, one.revision, one.undo]).toEqual([1, 5, 'rename to B'])
    const none = siteReducer(one, siteActions.acknowledged({ revision: 6, undo: 'rename to B', redo: null }))
    expect([none.pending, none.revision, none.undo]).toEqual([0, 6, 'rename to B'])
  })
  it('walks back by the patch that the server sends', () => {
    const after = rename(loaded, 'New')
    const back = siteReducer(
      after,
      siteActions.walked({
        patch: [{ op: 'replace', path: '/name', value: site.name }],
        revision: 6,
        undo: 'earlier',
        redo: 'rename to New',
      }),
    )
    expect([back.site!.name, back.revision, back.redo]).toEqual([site.name, 6, 'rename to New'])
  })
  it('leaves what did not change the same object, so that views need not draw it again', () => {
    const after = rename(loaded, 'New')
    expect(after.site!.channels).toBe(loaded.site!.channels)
  })
  it('forgets everything when another site is loaded', () =>
    expect(siteReducer(loaded, siteActions.loading())).toMatchObject({
      status: 'loading',
      site: null,
      pending: 0,
      undo: null,
    }))
  it('an edit before a site is there changes nothing', () => {
    const empty = siteReducer(undefined, siteActions.loading())
    expect(siteReducer(empty, siteActions.applied({ label: 'x', patch: [] }))).toBe(empty)
  })
})
