import { cpuMilliseconds } from '../cpuTime.testkit'
import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { channelsCsv, pointsCsv } from '../outputs'
import { applyOperations, parseSite } from '../site'
import { importChannels, importPoints } from '.'

const site = cleanSite()
const point = (line: string): string => `service,controller,vp,name,min,max\n${line}\n`

describe('points from a table', () => {
  it('what was written comes back without a change', () => {
    const preview = importPoints(site, pointsCsv(site))
    expect(preview.ok && preview.changes.map((change) => change.kind)).toEqual(['same', 'same'])
    expect(preview.ok && preview.edit.patch).toEqual([])
  })
  it('says what changes, row by row, and does it in one edit', () => {
    const preview = importPoints(
      site,
      pointsCsv(site).replace('Bench lamp,,bench-lamp,integer,0,1', 'Bench,bench/lamp,bench-lamp,integer,0,100'),
    )
    expect(preview.ok && preview.changes[0]).toEqual({
      kind: 'changed',
      row: 2,
      name: 'vp1 Bench',
      what: 'name Bench lamp → Bench, key “” → bench/lamp, max 1 → 100',
    })
    if (preview.ok) expect(parseSite(applyOperations(site, preview.edit.patch)).ok).toBe(true)
  })
  it('says nothing of what has no column: that stays', () => {
    const only = 'service,controller,vp,name,min,max\napp,corner,1,Bench,0,1\n'
    const before = produce(site, (draft) => {
      Object.assign(draft.services[0]!.points[0]!, { unit: 'lm', access: 'read', key: 'bench/lamp' })
    })
    const preview = importPoints(before, only)
    expect(preview.ok && preview.changes[0]!.what).toBe('name Bench lamp → Bench')
    const rooms = importChannels(site, 'id,name\nbench-lamp,Bench\n')
    expect(rooms.ok && rooms.changes[0]!.what).toBe('name Bench lamp → Bench')
  })
  it('a new number is a new point', () => {
    const preview = importPoints(site, point('app,corner,vp9,Spare,0,4'))
    expect(preview.ok && preview.changes).toEqual([{ kind: 'new', row: 2, name: 'vp9 Spare', what: '0–4, read-write' }])
  })
  it.each([
    ['app,corner,999,Spare,0,4', 'row 2 vp: “999” is no whole number from 0 to 255'],
    ['nobody,corner,9,Spare,0,4', 'row 2 service: there is no service “nobody”; there are app'],
    ['app,attic,9,Spare,0,4', 'row 2 controller: there is no controller “attic”; there are corner'],
    ['app,corner,9,Spare,4,4', 'row 2 max: must be above min'],
    ['app,corner,9,,0,4', 'row 2 name: a name of 1 to 60 characters is needed'],
    ['app,corner,9,A,0,4\napp,corner,9,B,0,4', 'row 3 vp: vp9 of this device stands in row 2 already'],
  ])('%s is refused with its row', (line, expected) => {
    const preview = importPoints(site, point(line))
    expect(
      preview.ok ? [] : preview.errors.map((error) => `row ${error.row} ${error.column}: ${error.what}`),
    ).toContain(expected)
  })
  it('one bad row refuses the whole table', () =>
    expect(importPoints(site, point('app,corner,9,Good,0,4\napp,corner,x,Bad,0,4')).ok).toBe(false))
  it('an unknown column is refused by name', () =>
    expect(importPoints(site, 'service,controller,vp,name,min,max,colour\n')).toMatchObject({
      ok: false,
      errors: [{ column: 'colour' }],
    }))
  it('a missing column too', () =>
    expect(importPoints(site, 'service,controller,name,min,max\n')).toMatchObject({
      ok: false,
      errors: [{ column: 'vp', what: 'this column is needed' }],
    }))
  it('a formula guard comes off, and a byte order mark', () => {
    const preview = importPoints(site, `\ufeff${point("app,corner,9,'=Spare,0,4")}`)
    expect(preview.ok && preview.changes[0]!.name).toBe('vp9 =Spare')
  })
})

describe('channels from a table', () => {
  it('what was written comes back without a change', () => {
    const preview = importChannels(site, channelsCsv(site))
    expect(preview.ok && preview.changes.map((change) => change.kind)).toEqual(['same', 'same'])
  })
  it('a known id renames and moves, an empty one makes a channel and its room', () => {
    const preview = importChannels(
      site,
      'id,name,kind,controller,room\nbench-lamp,Long bench lamp,switched,Corner,Hall\n,Attic ' +
        'blind,paired,Corner,Attic\n',
    )
    expect(preview.ok && preview.changes).toEqual(
      [
        { kind: 'changed', row: 2, name: 'Long bench lamp', what: 'name Bench lamp → Long bench lamp' },
        { kind: 'new', row: 3, name: 'Attic blind', what: 'paired on Corner, Attic' },
      ].map((change) => expect.objectContaining(change)),
    )
    if (!preview.ok) return
    const after = applyOperations(site, preview.edit.patch)
    expect(after.channels.at(-1)).toMatchObject({ kind: 'paired', name: 'Attic blind', room: 'attic' })
    expect(parseSite(after).ok).toBe(true)
  })
  it.each([
    ['attic,X,switched,Corner,', 'row 2 id: there is no channel “attic”; leave the id empty for a new one'],
    [',X,dimmed,Corner,', 'row 2 kind: “dimmed” is none of switched, stepped, pulsed, paired, feed'],
    ['bench-lamp,X,pulsed,Corner,', 'row 2 kind: Bench lamp is switched; a table does not change a kind'],
    [',X,switched,Cellar,', 'row 2 controller: there is no controller “Cellar”; there are Corner'],
  ])('%s is refused with its row', (line, expected) => {
    const preview = importChannels(site, `id,name,kind,controller,room\n${line}\n`)
    expect(
      preview.ok ? [] : preview.errors.map((error) => `row ${error.row} ${error.column}: ${error.what}`),
    ).toContain(expected)
  })
})

describe('a table as long as they come', () => {
  const site = cleanSite()
  it('is read, checked and turned into an edit in a second, also when all have one name', () => {
    const rows = Array.from({ length: 4_000 }, () => 'Lamp,switched').join('\n')
    let preview = importChannels(site, 'name,kind\n')
    // 12.9 s when ids were looked for anew in every row
    expect(cpuMilliseconds(() => (preview = importChannels(site, `name,kind\n${rows}\n`)))).toBeLessThan(2_500)
    const after = applyOperations(site, preview.ok ? preview.edit.patch : [])
    expect(new Set(after.channels.map(({ id }) => id)).size).toBe(site.channels.length + 4_000)
    expect(after.channels.at(-1)!.id).toBe('lamp-4000')
  })
})
