import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { applyOperations, parseSite, type Site } from '../site'
import { checkSite, fixEdit, type Finding } from '.'
import { cleanSite } from './cleanSite.testkit'
import type { Change } from './changes.testkit'

/** A finding as two sentences: it is there when …, and it is not when …, which is the nearest that just has not. */
export interface Sentence {
  readonly id: string
  readonly severity: Finding['severity']
  /** of the clean site; two cores and 30 pins where it is not said */
  readonly board?: string
  readonly when: string
  readonly has: Change
  readonly unless: string
  readonly hasNot: Change
  readonly says: RegExp
}

/** The clean site after a change; it must still be a legal one. */
export function changed(change: Change, board?: string): Site {
  const site = produce(cleanSite(board), (draft) => void change(draft as Site))
  const parsed = parseSite(site)
  if (!parsed.ok) throw parsed.error
  return site
}

export const ofId = (findings: readonly Finding[], id: string): Finding[] =>
  findings.filter((finding) => finding.id === id)

/** Tests both sentences of each finding, and that each of its fixes takes it away and leaves a legal site. */
export function sentences(list: readonly Sentence[]): void {
  describe.each(list)('$id, $severity', ({ id, severity, board, when, has, unless, hasNot, says }) => {
    const found = (site: Site) => ofId(checkSite(site), id).filter((finding) => says.test(finding.what))
    it(`when ${when}`, () => {
      const site = changed(has, board)
      const all = ofId(checkSite(site), id).map(({ what }) => what)
      expect(
        found(site).map((finding) => finding.severity),
        `${String(says)} in ${all.join(' | ')}`,
      ).toContain(severity)
    })
    it(`not when ${unless}`, () => expect(ofId(checkSite(changed(hasNot, board)), id)).toEqual([]))
    it(`each fix mends it when ${when}`, () => {
      const site = changed(has, board)
      for (const finding of found(site))
        for (const fix of finding.fixes) {
          const edit = fixEdit(site, finding, fix)
          const mended = applyOperations(site, edit.patch)
          expect(edit.patch.length).toBeGreaterThan(0)
          expect(parseSite(mended).ok).toBe(true)
          const same = (other: Finding) => other.what === finding.what && other.where.id === finding.where.id
          expect(ofId(checkSite(mended), id).filter(same)).toEqual([])
        }
    })
  })
}
