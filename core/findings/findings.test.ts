import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { compileController } from '../image'
import { applyOperations } from '../site'
import { addSensorPoint } from '../ways'
import { acceptEdit, checkSite, fixEdit, isBlocking, NO_RECORD } from '.'
import { both, feed, input, module, remote, sensor, voice, widget, type Change } from './changes.testkit'
import { cleanSite } from './cleanSite.testkit'
import { changed, ofId } from './sentences.testkit'

describe('the clean sites have no finding at all', () => {
  it.each(['dual-core-wifi-30', 'single-core-wifi-16'])('%s', (board) =>
    expect(checkSite(cleanSite(board))).toEqual([]),
  )
  it('eight-bit-5v, once it has a coprocessor for the network', () => {
    const site = cleanSite('eight-bit-5v', { link: 'none' })
    const [first, ...more] = checkSite(site)
    expect(first).toMatchObject({
      id: 'M17',
      what: expect.stringContaining('Bench lamp, Shelf lamp are to be worked by app or hub') as string,
    })
    expect(more).toEqual([])
    expect(checkSite(applyOperations(site, fixEdit(site, first!, first!.fixes[0]!).patch))).toEqual([])
  })
})

describe('T04', () => {
  const site = cleanSite()
  it('a board that runs other tables', () =>
    expect(
      ofId(checkSite(site, { ...NO_RECORD, flashed: [{ controller: 'corner', hash: '0123456789ab' }] }), 'T04')[0],
    ).toMatchObject({ severity: 'note' }))
  it('a board that runs these', () =>
    expect(
      checkSite(site, {
        ...NO_RECORD,
        flashed: [{ controller: 'corner', hash: compileController(site, 'corner').hash }],
      }),
    ).toEqual([]))
})

describe('accepting', () => {
  const site = changed(widget({ kind: 'push' }))
  const finding = checkSite(site)[0]!
  const accepted = applyOperations(site, acceptEdit(site, finding, 'a doorbell lamp').patch)
  it('keeps the finding, with its reason', () =>
    expect(checkSite(accepted)[0]).toMatchObject({ id: 'M04', accepted: 'a doorbell lamp' }))
  it('lapses when the facts change', () => {
    const later = produce(accepted, (draft) => {
      draft.services[0]!.points[0]!.max = 5
    })
    expect(ofId(checkSite(later), 'M04')[0]!.accepted).toBeUndefined()
  })
  it('an accepted danger does not block', () => {
    const danger = changed(input({ volts: 5 }))
    expect(isBlocking(checkSite(danger))).toBe(true)
    expect(
      isBlocking(
        checkSite(applyOperations(danger, acceptEdit(danger, checkSite(danger)[0]!, 'a divider is fitted').patch)),
      ),
    ).toBe(false)
  })
})

describe('what is fine has no finding', () => {
  it.each<[string, Change]>([
    ['a remote with a receiver', remote()],
    ['a feed with a watch', both(feed(), module({ ways: 4 }))],
    ['a sensor point', both(sensor, (s) => void addSensorPoint(s, s.sensors[0]!))],
    ['two spoken names', voice('bench lamp', 'shelf rail')],
  ])('%s', (_, change) => {
    // the voice bridge’s kind has no wire yet, which is a note (C08)
    const found = checkSite(changed(change)).filter(({ id }) => id !== 'C08')
    expect(found.map((finding) => `${finding.id} ${finding.what}`)).toEqual([])
  })
})
