import { describe, expect, it } from 'vitest'
import { emptySite, newController, newSwitched, type Site } from '../site'
import { uncheckedOf } from '.'
import { changed } from './sentences.testkit'
import { cleanSite } from './cleanSite.testkit'

const of = (site: Site, noCredentials: string | null = null): string[] =>
  uncheckedOf(site, noCredentials).map(({ what, why }) => `${what}: ${why}`)

describe('what has not been checked is said', () => {
  it('of a site with nothing in it: everything', () =>
    expect(of(emptySite('Hall', []))).toEqual(['anything: there is no controller yet: add one on the bench']))
  it('of a board alone, that it has no channel and no supply', () => {
    const site = changed(() => {}, undefined)
    const bare = structuredClone({ ...site, channels: [], inputs: [], ways: [], loads: [] }) as Site
    bare.controllers[0]!.supply = null
    expect(of(bare)).toEqual([
      'ways and loads: there is no channel yet',
      'supply and reservoir: no supply is entered for Corner',
    ])
  })
  it('of loads that nobody named, with their mains rows and their tests', () => {
    const site = changed((s) => {
      for (const channel of s.channels) channel.load = null
    })
    expect(of(site)).toContain(
      'contacts, suppression, mains rows and the tests with load: no load is entered for Bench lamp and Shelf lamp',
    )
  })
  it('of many, the first few by name', () => {
    const site = emptySite('Hall', [])
    site.controllers.push(newController(site, 'Corner', 'dual-core-wifi-30'))
    for (let i = 1; i <= 9; i++) site.channels.push(newSwitched(site, `Lamp ${i}`, site.controllers[0]!))
    expect(of(site).join('\n')).toMatch(/no load is entered for Lamp 1, Lamp 2, Lamp 3 and 6 more/)
  })
  it('of a board without a profile', () =>
    expect(of({ ...cleanSite(), controllers: [{ ...cleanSite().controllers[0]!, board: 'nobody-knows' }] })).toContain(
      'pins, start-up, supply and drive: the board of Corner has no profile',
    ))
  it('of credentials, where a file is on its own', () => {
    expect(of(cleanSite(), 'a file on its own does not hold them')).toContain(
      'credentials: a file on its own does not hold them',
    )
    expect(of(cleanSite()).join()).not.toContain('credentials')
  })
})
