import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { applyOperations, patchBetween, type Operation } from './edits'
import { rebased } from './rebase'
import type { Site } from './schema'

/** A document of lists, as far as edits see it. */
type Doc = { list: { id: string; name: string; level: number }[]; name: string }
const plain = (doc: Doc): Site => doc as unknown as Site
const start = (): Doc => ({
  list: ['a', 'b', 'c', 'd'].map((id) => ({ id, name: id, level: 0 })),
  name: 'n',
})
const apply = (doc: Doc, patch: readonly Operation[]): Doc => applyOperations(plain(doc), patch) as unknown as Doc

/** What a tab does: rename, set, take out, put in. */
type Deed = { kind: 'name' | 'level' | 'out' | 'in'; at: number; word: number }
const deeds = fc.array(
  fc.record({
    kind: fc.constantFrom('name' as const, 'level' as const, 'out' as const, 'in' as const),
    at: fc.nat(5),
    word: fc.nat(99),
  }),
  { maxLength: 4 },
)
function done(doc: Doc, tab: string, list: readonly Deed[]): Doc {
  const next = structuredClone(doc)
  for (const { kind, at, word } of list) {
    const row = next.list[at % Math.max(1, next.list.length)]
    if (kind === 'in') next.list.splice(at % (next.list.length + 1), 0, { id: `${tab}${word}`, name: tab, level: word })
    else if (kind === 'out') next.list.splice(at % Math.max(1, next.list.length), 1)
    else if (row && kind === 'name') row.name = `${tab}${word}`
    else if (row) row.level = word
  }
  return next
}

describe('an edit after another tab’s', () => {
  it('comes to the same in either order, whatever both did, or is refused', () => {
    let merged = 0
    fc.assert(
      fc.property(deeds, deeds, (mine, theirs) => {
        const base = start()
        const [a, b] = [done(base, 'm', mine), done(base, 't', theirs)]
        const [ours, others] = [patchBetween(base, a), patchBetween(base, b)]
        const [second, first] = [rebased(ours, others), rebased(others, ours)]
        expect(second === null).toBe(first === null)
        if (!second) return
        merged++
        const result = apply(b, second)
        // nobody's change is lost, and nothing is done to another thing than was meant
        for (const row of result.list) {
          const was = base.list.find(({ id }) => id === row.id)
          const [ma, th] = [a, b].map((doc) => doc.list.find(({ id }) => id === row.id))
          if (!was) continue
          expect(ma && th, 'taken out').toBeTruthy()
          for (const key of ['name', 'level'] as const)
            expect(row[key]).toBe(ma![key] !== was[key] ? ma![key] : th![key])
        }
        const ids = (doc: Doc) => new Set(doc.list.map(({ id }) => id))
        for (const [doc, other] of [
          [a, b],
          [b, a],
        ] as const)
          for (const id of ids(doc)) if (!ids(base).has(id) || ids(other).has(id)) expect(ids(result)).toContain(id)
      }),
      { numRuns: 1_500, seed: 5 },
    )
    expect(merged).toBeGreaterThan(500)
  })
  const rename = (at: number, value: string): Operation[] => [{ op: 'replace', path: `/channels/${at}/name`, value }]
  it.each<[string, Operation[], Operation[], Operation[] | null]>([
    ['one behind a thing taken out moves up', rename(3, 'x'), [{ op: 'remove', path: '/channels/1' }], rename(2, 'x')],
    ['one before it stays', rename(0, 'x'), [{ op: 'remove', path: '/channels/1' }], rename(0, 'x')],
    ['the thing itself is gone', rename(1, 'x'), [{ op: 'remove', path: '/channels/1' }], null],
    [
      'one behind a thing put in moves down',
      rename(1, 'x'),
      [{ op: 'add', path: '/channels/1', value: {} }],
      rename(2, 'x'),
    ],
    ['the same field', rename(1, 'x'), rename(1, 'y'), null],
    ['another field', rename(1, 'x'), [{ op: 'replace', path: '/channels/1/level', value: 2 }], rename(1, 'x')],
    ['a field within one that was replaced', rename(1, 'x'), [{ op: 'replace', path: '/channels', value: [] }], null],
    ['a thing that became another', rename(1, 'x'), [{ op: 'replace', path: '/channels/1/id', value: 'z' }], null],
    [
      'behind the last',
      [{ op: 'add', path: '/channels/-', value: 1 }],
      [{ op: 'remove', path: '/channels/0' }],
      [{ op: 'add', path: '/channels/-', value: 1 }],
    ],
    ['what cannot be told', [{ op: 'move', from: '/a', path: '/b' }], rename(1, 'y'), null],
  ])('%s', (_, ours, theirs, expected) => expect(rebased(ours, theirs)).toEqual(expected))
  it('holds for a site: one tab takes a channel out, another renames one behind it', () => {
    const site = cleanSite()
    const last = site.channels.length - 1
    const patch: Operation[] = [{ op: 'replace', path: `/channels/${last}/name`, value: 'Ours' }]
    const theirs = applyOperations(site, [{ op: 'add', path: '/channels/0', value: site.channels[0] }])
    const both = applyOperations(theirs, rebased(patch, patchBetween(site, theirs))!)
    expect(both.channels.at(-1)!.name).toBe('Ours')
    expect(both.channels).toHaveLength(site.channels.length + 1)
  })
})
