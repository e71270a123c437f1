import { readFileSync } from 'node:fs'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import { readSite } from '../site'
import { isDue, monthsLater, upkeepCalendar, upkeepOf, type UpkeepFacts } from '.'

// Sources: RFC 5545 by a reader that is not ours (ical.js); life of contacts as core/upkeep/items.ts names it.

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const site = parsed.value
const FACTS: UpkeepFacts = {
  now: '2026-11-27T12:00:00.000Z',
  changes: [
    { channel: 'bench-lights', changes: 80, since: '2026-11-07T12:00:00.000Z' },
    { channel: 'clay-dust-fan', changes: 39_000, since: '2026-08-29T12:00:00.000Z' },
    { channel: 'shelf-lights', changes: 10, since: '2026-11-25T12:00:00.000Z' },
  ],
  credentials: [
    { key: 'app/board-key/throwing', name: 'App service, board key', updatedAt: '2024-10-01T00:00:00.000Z' },
  ],
  done: { 'battery:throwing-remote': '2026-06-30T08:00:00.000Z' },
  since: '2026-09-24T00:00:00.000Z',
}
const items = upkeepOf(site, FACTS)
const item = (id: string) => items.find((one) => one.id === id)!

describe('upkeep', () => {
  it('counts a contact by its reports: two changes are one operation, against 80 % of its life', () => {
    expect(item('contact:bench-lights').detail).toMatch(/^40 operations since 2026-11-07, of about 50000, 2.0 a day/)
    // (0.8 × 50 000 − 40) / 2 = 19 980 days, which no plan of a house lasts
    expect(item('contact:bench-lights').due).toBeNull()
    // (0.8 × 50 000 − 19 500) / (19 500 / 90) = 94.6 days
    expect(item('contact:clay-dust-fan').due!.slice(0, 10)).toBe('2027-03-02')
  })
  it('counts a store by the changes that go to it: a write each at most, against its board’s endurance', () => {
    // bench and shelf lights come up as they were, and a fan keeps its last level: 80 + 10 + 39 000 in 90 days
    expect(item('store:throwing').detail).toMatch(/^39090 writes since 2026-08-29, of about \d+, 434\.3 a day/)
    expect(item('store:drying').detail).toMatch(/not counted yet/)
    expect(items.some(({ id }) => id === 'store:window')).toBe(false)
  })
  it('asks of no radio what its main board is asked', () =>
    expect(items.some(({ id }) => id === 'test:drying-radio')).toBe(false))
  it('says what it does not know, and why', () => {
    expect(item('contact:shelf-lights').detail).toMatch(/a rate needs 7 days/)
    expect(item('contact:wedging-lamp').detail).toMatch(/not counted yet: its board has not been heard/)
  })
  it('counts months from when it was done last, or from when the site began', () => {
    expect(item('battery:throwing-remote').due!.slice(0, 10)).toBe('2027-06-30')
    expect(item('protection:rcd').due!.slice(0, 10)).toBe('2027-03-24')
    expect(item('credential:app/board-key/throwing').due!.slice(0, 10)).toBe('2026-10-01')
    expect(items.filter((one) => isDue(one, FACTS.now)).map(({ id }) => id)).toEqual([
      'credential:app/board-key/throwing',
      'backup',
    ])
  })
  it('keeps the last day of a month that is shorter', () => {
    expect(monthsLater('2026-08-31T10:00:00.000Z', 6).slice(0, 10)).toBe('2027-02-28')
    expect(monthsLater('2027-11-30T10:00:00.000Z', 3).slice(0, 10)).toBe('2028-02-29')
  })
})

describe('the calendar', () => {
  const text = upkeepCalendar(site, items, FACTS.now)
  const events = new ICAL.Component(ICAL.parse(text) as unknown[])
    .getAllSubcomponents('vevent')
    .map((one) => new ICAL.Event(one))
  it('holds all that is due, as whole days, each by a name of its own', () => {
    expect(events).toHaveLength(items.filter(({ due }) => due !== null).length)
    expect(new Set(events.map(({ uid }) => uid)).size).toBe(events.length)
    for (const event of events) {
      expect(event.startDate.isDate).toBe(true)
      expect(event.endDate.subtractDate(event.startDate).toSeconds()).toBe(86_400)
    }
  })
  it('says what and when as the list does, and what is past its day today', () => {
    const of = (id: string) => events.find(({ uid }) => uid.startsWith(`${id}@`))!
    expect(of('protection:rcd').summary).toBe('Press the test button of the residual-current device')
    expect(of('protection:rcd').startDate.toString()).toBe('2027-03-24')
    expect(of('backup').startDate.toString()).toBe('2026-11-27')
  })
  it('has lines of 75 octets at most, ended by CR and LF (RFC 5545, 3.1)', () => {
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
    expect(text.replaceAll('\r\n', '')).not.toContain('\n')
  })
  it('is the same file for the same facts', () => expect(upkeepCalendar(site, items, FACTS.now)).toBe(text))
})
