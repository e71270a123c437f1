import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { bench, part } from '../outputs/setups.testkit'
import { lampFanStrike } from '../outputs/kinds.testkit'
import type { Site } from '../site'
import { checkSite } from '.'

const found = (site: Site, id: string) => checkSite(site).filter((finding) => finding.id === id)
const withParts = (...profiles: string[]): Site => {
  const { site, box } = bench()
  for (const profile of profiles) box.parts.push(part(profile, profile))
  return site
}

describe('what the build does not do', () => {
  it('T05 names each part that is the maker’s to drive, and no other', () => {
    expect(found(withParts('temperature-humidity', 'small-display', 'status-light'), 'T05')[0]!.what).toBe(
      'temperature-humidity: reading the sensor; small-display: writing to the display is not in the firmware.',
    )
    expect(found(withParts('status-light', 'infrared-receiver'), 'T05')).toEqual([])
  })
  it('T07 is an error where the program has no network for what is asked, and says why', () => {
    const on = (kinds: string[], change: (draft: Site) => void): Site =>
      produce(lampFanStrike(kinds), (draft) => {
        const box = draft.controllers[0]!
        box.board = 'eight-bit-5v'
        box.link = 'modem'
        box.modem = { apn: 'things.invalid', joinS: 30 }
        box.parts.push(part('gsm-modem', 'Modem'))
        change(draft)
      })
    const why = (site: Site): string[] => found(site, 'T07').map(({ severity, what }) => `${severity}: ${what}`)
    const asIs = (): void => {}
    expect(why(on(['broker'], asIs))).toEqual([])
    expect(why(on(['datapoint'], asIs))).toEqual([])
    expect(why(on(['datapoint', 'variable'], asIs))[0]).toMatch(
      /^error: 3 channels of Box have ways that need a network, and its program has none: its modem keeps one connection/,
    )
    expect(why(on(['room-store'], asIs))[0]).toMatch(/its modem carries MQTT, and .* wants requests\.$/)
    expect(why(on(['broker'], (draft) => void (draft.controllers[0]!.parts = [])))[0]).toMatch(
      /no part of it is a modem whose profile has its commands\.$/,
    )
    expect(why(on(['broker'], (draft) => void (draft.controllers[0]!.link = 'wifi')))[0]).toMatch(/has no Wi-Fi\.$/)
    expect(why(on(['broker'], (draft) => void (draft.controllers[0]!.board = 'dual-core-wifi-30')))[0]).toMatch(
      /speaks to no modem\.$/,
    )
    // nothing asks for it
    expect(why(on([], (draft) => void (draft.controllers[0]!.parts = [])))).toEqual([])
    expect(why(lampFanStrike(['broker']))).toEqual([])
  })
})
