import Ajv2020 from 'ajv/dist/2020'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { addAppWay, addHubWay, fillColumn, removeChannel, removeController, removeInput, removeWay } from '../ways'
import { cleanSite } from '../findings/cleanSite.testkit'
import {
  applyOperations,
  emptySite,
  Name,
  inverseOf,
  makeEdit,
  newController,
  newSwitched,
  parseSite,
  readSite,
  siteJsonSchema,
  lastTurn,
  undoState,
  writeSite,
  type Edit,
  type HistoryEntry,
  type Site,
} from '.'

describe('version 3 becomes 4', () => {
  const old = (more: object): unknown => {
    const { mains: _, ...controller } = cleanSite().controllers[0]!
    const { volts: _v, current: _c, feed: _f, ...load } = cleanSite().loads[0]!
    return {
      ...JSON.parse(JSON.stringify(cleanSite())),
      version: 3,
      controllers: [{ ...controller, ...more }],
      loads: [
        { ...load, contactor: true },
        { ...load, id: 'shelf-load', contactor: false },
      ],
    }
  }
  const read = (more: object) => {
    const parsed = parseSite(old(more))
    if (!parsed.ok) throw parsed.error
    return parsed.value
  }
  it('a contactor is one of a profile, a low-voltage load has its volts', () => {
    const { loads } = read({})
    expect(loads.map(({ contactor }) => contactor)).toEqual(['contactor-9a', null])
    expect(loads[0]).toMatchObject({ volts: 12, current: 'dc', feed: { from: 'own' } })
  })
  it('the breaker of the box is the feed’s, with the thinnest wire that was named', () => {
    const box = {
      volumeCubicInches: 30,
      internalClamps: true,
      yokes: 0,
      groundingConductors: 2,
      moduleCubicCentimetres: 0,
    }
    const conductors = [
      { awg: 12, count: 2 },
      { awg: 14, count: 2 },
    ]
    const [controller] = read({ enclosure: { ...box, conductors, breakerAmps: 20 } }).controllers
    expect(controller!.enclosure).toEqual({ ...box, conductors })
    expect(controller!.mains).toEqual({
      breakerAmps: 20,
      residualCurrent: 'unknown',
      fuseAmps: null,
      conductor: { by: 'awg', awg: 14 },
    })
    expect(read({}).controllers[0]!.mains).toBeNull()
  })
})

describe('reading a site', () => {
  it('gives back what was written, byte for byte', () => {
    const text = writeSite(cleanSite())
    const parsed = readSite(text)
    expect(parsed.ok && writeSite(parsed.value)).toBe(text)
  })
  const site = JSON.parse(writeSite(cleanSite())) as Record<string, unknown>
  it.each([
    ['truncated text', writeSite(cleanSite()).slice(0, 500), /^line \d+, column \d+: the text is not whole JSON$/],
    ['a huge text', ' '.repeat(20 * 1024 * 1024), /the file holds 20.0 MiB; a site is at most 4 MiB/],
    ['another version', JSON.stringify({ ...site, version: 9 }), /^version: is 9; this program reads versions 1 to 5$/],
    ['another format', '{"format":"x"}', /^format: is not "vestibule-site"/],
    ['a list', '[]', /a site is a JSON object, this is a list/],
    ['a wrong type', JSON.stringify({ ...site, rooms: 'none' }), /^rooms: Invalid input: expected array/],
    ['an unknown key', JSON.stringify({ ...site, extra: 1 }), /Unrecognized key: "extra"/],
    [
      'a dangling reference',
      JSON.stringify({ ...site, channels: [] }),
      /^hubs\[0\].entities\[0\].channel: there is no channel "bench-lamp"/,
    ],
    [
      'an id that stands twice',
      JSON.stringify({
        ...site,
        rooms: [
          { id: 'a', name: 'A' },
          { id: 'hall', name: 'H' },
          { id: 'a', name: 'B' },
        ],
      }),
      /^rooms\[2\].id: the id "a" stands twice/,
    ],
  ])('refuses %s in one line that names the place', (_, text, message) => {
    const parsed = readSite(text)
    expect(parsed.ok).toBe(false)
    if (!parsed.ok) {
      expect(parsed.error.message).toMatch(message)
      expect(parsed.error.message).not.toContain('\n')
    }
  })
})

describe('the published JSON Schema', () => {
  // Ajv 8 is an independent validator of JSON Schema, draft 2020-12.
  const validate = new Ajv2020({ strict: false }).compile(siteJsonSchema())
  it('takes a site', () => expect(validate(JSON.parse(writeSite(cleanSite())))).toBe(true))
  it('refuses what the program refuses', () => expect(validate({ ...cleanSite(), rooms: 'none' })).toBe(false))
})

/** Random changes of a site, as a maker makes them. */
const CHANGES: ((site: Site, n: number) => void)[] = [
  (site, n) => {
    site.name = `Name ${n}`
  },
  (site, n) => {
    site.controllers.push(newController(site, `Box ${n}`, 'single-core-wifi-16'))
  },
  (site, n) => {
    const c = site.controllers[n % Math.max(1, site.controllers.length)]
    if (c) site.channels.splice(n % (site.channels.length + 1), 0, newSwitched(site, `Lamp ${n}`, c))
  },
  (site, n) => {
    const c = site.channels[n % Math.max(1, site.channels.length)]
    if (c) {
      c.name = `Renamed ${n}`
      if ('maxOnMs' in c) c.maxOnMs = n % 2 ? 1000 + n : null
    }
  },
  (site, n) => {
    const c = site.channels[n % Math.max(1, site.channels.length)]
    if (c) addAppWay(site, c)
  },
  (site, n) => {
    const c = site.channels[n % Math.max(1, site.channels.length)]
    if (c) addHubWay(site, c)
  },
  (site, n) => {
    const c = site.channels[n % Math.max(1, site.channels.length)]
    if (c) removeChannel(site, c.id)
  },
  (site, n) => {
    const c = site.controllers[n % Math.max(1, site.controllers.length)]
    if (c && n % 3 === 0) removeController(site, c.id)
  },
  (site, n) => {
    const i = site.inputs[n % Math.max(1, site.inputs.length)]
    if (i) removeInput(site, i.id)
  },
  (site, n) => {
    const w = site.ways[n % Math.max(1, site.ways.length)]
    if (w) removeWay(site, w.id)
  },
  (site) => {
    site.channels.reverse()
  },
  (site, n) => {
    const [c] = site.channels.splice(n % Math.max(1, site.channels.length), 1)
    if (c) site.channels.push(c)
  },
  (site, n) => {
    fillColumn(site, (['wall', 'app', 'hub'] as const)[n % 3]!)
  },
  (site, n) => {
    const c = site.controllers[0]
    if (c) c.pins[`in:x${n}`] = { pin: `GPIO${n % 30}`, locked: n % 2 === 0 }
  },
]

describe('edits', () => {
  it('an edit and its inverse give the identical document back; so does redoing it', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: CHANGES.length - 1 }), fc.nat({ max: 500 })), { minLength: 1, maxLength: 15 }),
        (steps) => {
          let site: Site = cleanSite()
          const edits: { edit: Edit; before: Site; after: Site }[] = []
          for (const [which, n] of steps) {
            const edit = makeEdit(site, 'change', (draft) => CHANGES[which]!(draft as Site, n))
            const after = applyOperations(site, edit.patch)
            expect(parseSite(after).ok).toBe(true)
            edits.push({ edit, before: site, after })
            site = after
          }
          for (const { edit, before, after } of edits.reverse()) {
            site = applyOperations(site, inverseOf(before, edit).patch)
            expect(site).toEqual(before)
            expect(applyOperations(site, edit.patch)).toEqual(after)
          }
        },
      ),
      { numRuns: 150, seed: 20261125 },
    )
  })
  it('leaves the old document alone and shares what did not change', () => {
    const site = cleanSite()
    const after = applyOperations(
      site,
      makeEdit(site, 'rename', (d) => {
        d.channels[0]!.name = 'X'
      }).patch,
    )
    expect(site.channels[0]!.name).toBe('Bench lamp')
    expect(after.channels[1]).toBe(site.channels[1])
  })
  it('refuses a patch that does not fit, by operation', () => {
    expect(() => applyOperations(cleanSite(), [{ op: 'replace', path: '/channels/9/name', value: 'x' }])).toThrow(
      /^operation 1 \(replace \/channels\/9\/name\)/,
    )
  })
  it('one changed field is one operation', () => {
    const edit = makeEdit(cleanSite(), 'rename', (d) => {
      d.channels[1]!.name = 'X'
    })
    expect(edit.patch).toEqual([{ op: 'replace', path: '/channels/1/name', value: 'X' }])
  })
})

describe('names', () => {
  it.each(['a\tb', 'a\u0000b', 'a\r\nb', 'a\u2028b', 'a\u202eb'])(
    '%j: what no sheet may carry becomes a blank',
    (text) => expect(Name.parse(text)).toBe('a b'),
  )
  it.each(['Brücke', '日本', 'Lamp, 2nd floor', '🔑', 'é'])('%s stays as it was typed', (text) =>
    expect(Name.parse(text)).toBe(text),
  )
  it('a document is not refused for it', () => {
    const site = { ...cleanSite(), name: 'Hall\u001b[31m' }
    const read = parseSite(site)
    expect(read.ok && read.value.name).toBe('Hall [31m')
  })
})

describe('history', () => {
  const entry = (revision: number, kind: HistoryEntry['kind'], of: number | null = null, tab = ''): HistoryEntry => ({
    revision,
    kind,
    of,
    tab,
    label: `r${revision}`,
  })
  const revisions = (list: readonly HistoryEntry[]) => list.map((e) => e.revision)
  it('undo and redo walk back and forth', () => {
    const state = undoState([
      entry(1, 'edit'),
      entry(2, 'edit'),
      entry(3, 'undo', 2),
      entry(4, 'undo', 1),
      entry(5, 'redo', 1),
    ])
    expect([revisions(state.undo), revisions(state.redo)]).toEqual([[1], [2]])
  })
  it('a new edit ends what could be redone', () => {
    const state = undoState([entry(1, 'edit'), entry(2, 'undo', 1), entry(3, 'edit')])
    expect([revisions(state.undo), revisions(state.redo)]).toEqual([[3], []])
  })
  it('a tab undoes what it did itself, whoever was there after it, and does again what it took back', () => {
    const entries = [
      entry(1, 'edit', null, 'a'),
      entry(2, 'edit', null, 'b'),
      entry(3, 'undo', 1, 'a'),
      entry(4, 'edit', null, 'b'),
    ]
    const [a, b, any] = [undoState(entries, 'a'), undoState(entries, 'b'), undoState(entries)]
    expect([revisions(a.undo), revisions(a.redo), a.elsewhere?.revision]).toEqual([[], [1], 4])
    expect([revisions(b.undo), revisions(b.redo), b.elsewhere]).toEqual([[2, 4], [], null])
    expect([revisions(any.undo), revisions(any.redo), any.elsewhere]).toEqual([[2, 4], [], null])
    expect([lastTurn(entries, entries[0]!), lastTurn(entries, entries[1]!)]).toEqual([3, 2])
  })
})

it('an empty site is a legal site', () => expect(parseSite(emptySite('Somewhere')).ok).toBe(true))
