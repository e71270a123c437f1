import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { compileController } from '../../core/image'
import { readSite } from '../../core/site'
import { runsWhich, tablesSaid } from './recognise'

const parsed = readSite(readFileSync('demo/studio-corner.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const site = parsed.value
const now = compileController(site, 'corner').hash
const build = (number: number, hash: string, controller = 'corner') => ({ controller, number, hash })

describe('which build a board runs', () => {
  it('is said by the hash of its tables', () => {
    expect(tablesSaid(`tables ${now}`)).toBe(now)
    for (const other of ['tables', 'tables xyz', `tables ${now} `, 'lamp: locked out'])
      expect(tablesSaid(other)).toBeUndefined()
  })
  it('the one that the site gives now', () =>
    expect(runsWhich(site, [build(7, 'aaaaaaaaaaaa'), build(9, now)], 'corner', now)).toBe(
      'Corner runs build 9, as the site is now',
    ))
  it('an older one', () =>
    expect(runsWhich(site, [build(9, now), build(7, 'aaaaaaaaaaaa')], 'corner', 'aaaaaaaaaaaa')).toBe(
      'Corner runs build 7; the newest is 9',
    ))
  it('the newest, but the site has changed', () =>
    expect(runsWhich(site, [build(7, 'aaaaaaaaaaaa')], 'corner', 'aaaaaaaaaaaa')).toBe(
      'Corner runs build 7; the site has changed since',
    ))
  it('one that was not built here, or of another controller', () =>
    expect(runsWhich(site, [build(7, now, 'other')], 'corner', now)).toBe(
      `Corner runs tables ${now}, which no build here has`,
    ))
  it('a controller that the site does not have says nothing', () =>
    expect(runsWhich(site, [], 'nobody', now)).toBeUndefined())
})
