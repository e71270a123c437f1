import { createHash } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { testList } from '../outputs'
import { channelOf, readSite, waysTo, type Site } from '../site'
import { acceptanceRun, acceptanceSheet } from '.'

// Source of the checks: what each way, outage and policy promises in docs/behaviour.md; and for each group a site with
// the matching mistake.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value
const report = acceptanceRun(pottery)

const failures = (change: (draft: Site) => void): string[] =>
  acceptanceRun(produce(pottery, change))
    .items.filter(({ result }) => result === 'failed')
    .map(({ key, note }) => `${key}: ${note}`)

describe('the pottery', () => {
  it('passes, and says of what it did not try why', () => {
    expect(report.items.filter(({ result }) => result === 'failed')).toEqual([])
    expect(report.items.filter(({ result, note }) => result === 'skipped' && note === '')).toEqual([])
    expect(report.items.filter(({ result }) => result === 'skipped').length).toBeLessThan(report.items.length / 20)
  })
  it('leaves out no way', () => {
    const tried = new Set(report.items.map(({ way }) => way))
    for (const channel of pottery.channels)
      for (const way of waysTo(pottery, channel.id)) expect(tried.has(way.id), way.id).toBe(true)
  })
  it('has the keys of the test list at the real board, where that has the same line', () => {
    const list = new Set(pottery.controllers.flatMap(({ id }) => testList(pottery, id).map(({ key }) => key)))
    const ways = report.items.filter(({ group }) => group === 'way')
    const known = ways.filter(({ key }) => list.has(key))
    // a feed's own word by hub or the second voice line may differ; all else must be found
    expect(known.length).toBeGreaterThan(ways.length * 0.9)
  })
  it('the same seed, the same bytes; hands on two machines give this', () => {
    const hash = (one: ReturnType<typeof acceptanceRun>): string =>
      createHash('sha256')
        .update(JSON.stringify([one.items, one.lastsMs]))
        .digest('hex')
    expect(hash(acceptanceRun(pottery))).toBe(hash(report))
    expect(hash(report)).toMatchInlineSnapshot(`"39b728e8983b3a18ea38effb156d859e3999b11c15548958bbb332c89a235cfc"`)
  })
  it('is a sheet with a row for each thing tried, and the tables that it holds for', () => {
    const sheet = acceptanceSheet(pottery, report)
    expect(sheet.split('\n').filter((line) => /^\| (?!Channel)/.test(line))).toHaveLength(report.items.length)
    for (const hash of Object.values(report.tables)) expect(sheet).toContain(hash)
  })
})

describe('a site with a mistake fails where the mistake is', () => {
  const MISTAKES: readonly (readonly [what: string, change: (draft: Site) => void, finds: RegExp])[] = [
    [
      'a switch that settles for longer than a press lasts',
      (draft) => {
        draft.inputs.find(({ id }) => id === 's3')!.settleMs = 900
      },
      /alone:wedging-lamp:.*Wedging lamp is off/,
    ],
    [
      'two channels of one spoken name',
      (draft) => {
        const spoken = draft.ways.filter(({ kind }) => kind === 'voice')
        for (const way of spoken.slice(0, 2)) if (way.kind === 'voice') way.name = 'the light'
      },
      /:say: /,
    ],
    [
      'a widget that is upside down and a point that is not told so',
      (draft) => {
        for (const service of draft.services)
          for (const widget of service.widgets) if (widget.point === 'shelf-lights') widget.inverted = !widget.inverted
      },
      /shelf-lights/,
    ],
    [
      'a fan whose top level has no contacts of its own',
      (draft) => {
        const fan = channelOf(draft, 'clay-dust-fan')
        if (fan?.kind === 'stepped') fan.patterns[fan.patterns.length - 1] = [...fan.patterns[1]!]
      },
      /clay-dust-fan/,
    ],
    [
      'a limit that is shorter than an outage',
      (draft) => {
        Object.assign(channelOf(draft, 'bench-lights')!, { maxOnMs: 2_000 })
      },
      /winner:throwing: Bench lights is off/,
    ],
  ]
  it.each(MISTAKES)(
    '%s',
    (_, change, finds) => {
      const found = failures(change)
      expect(found.join('\n')).toMatch(finds)
    },
    60_000,
  )
})
