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
  it('T07 is there where a board without a network is to be reached, and is not where nothing asks for it', () => {
    const on = (kinds: string[]): Site =>
      produce(lampFanStrike(kinds), (draft) => {
        draft.controllers[0]!.board = 'eight-bit-5v'
        draft.controllers[0]!.link = 'modem'
      })
    const [finding] = found(on(['broker']), 'T07')
    expect(finding).toMatchObject({ severity: 'warning' })
    expect(finding!.what).toMatch(/has no network; 3 channels of Box have ways that need it\.$/)
    expect(found(on([]), 'T07')).toEqual([])
    expect(found(lampFanStrike(['broker']), 'T07')).toEqual([])
  })
})
