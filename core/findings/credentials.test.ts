import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import type { Site } from '../site'
import { checkSite, NO_RECORD, type CredentialRecord, type RecordOfBuilds } from '.'
import { copyOf } from './changes.testkit'
import { cleanSite } from './cleanSite.testkit'

describe('credentials', () => {
  const site = cleanSite()
  const stored = (key: string, more: Partial<CredentialRecord> = {}): CredentialRecord => ({
    key,
    sameAs: key,
    newerThanFlash: false,
    usualPin: false,
    ...more,
  })
  const ids = (credentials: CredentialRecord[] | null, of = site): string[] =>
    checkSite(of, { ...NO_RECORD, credentials } satisfies RecordOfBuilds).map(
      (finding) => `${finding.id} ${finding.where.id}`,
    )
  const all = [
    'wifi/name',
    'wifi/password',
    'app/board-pattern',
    'app/board-key/corner',
    'hub/host',
    'hub/broker-user/corner',
    'hub/broker-password/corner',
    'hub/user',
    'hub/password',
  ]

  it('a file on its own says nothing of them', () => expect(ids(null)).toEqual([]))
  it('all stored: nothing', () => expect(ids(all.map((key) => stored(key)))).toEqual([]))
  it('C01 each that is missing', () => expect(ids(all.slice(1).map((key) => stored(key)))).toEqual(['C01 wifi/name']))
  it('C03 one token on two devices', () => {
    const two = produce(site, (draft) => {
      draft.controllers.push({
        ...copyOf(draft.controllers[0]!),
        id: 'other' as Site['controllers'][number]['id'],
        name: 'Other',
        pins: {},
      })
      draft.services[0]!.points.push({
        ...copyOf(draft.services[0]!.points[0]!),
        id: 'p2' as Site['services'][number]['points'][number]['id'],
        controller: 'other' as Site['controllers'][number]['id'],
      })
    })
    const keys = [...all, 'app/board-key/other']
    expect(
      ids(
        keys.map((key) => stored(key, key.includes('board-key') ? { sameAs: 'equal' } : {})),
        two,
      ),
    ).toContain('C03 app/board-key/other')
    expect(
      ids(
        keys.map((key) => stored(key)),
        two,
      ).filter((one) => one.startsWith('C03')),
    ).toEqual([])
  })
  it('C04 shown once and not kept', () => {
    const variable = produce(site, (draft) => {
      draft.services[0]!.kind = 'variable'
    })
    expect(
      ids(
        all.map((key) => stored(key)),
        variable,
      ),
    ).toContain('C04 app/once-key/corner')
    expect(
      ids(
        [...all, 'app/board-id/corner', 'app/once-key/corner'].map((key) => stored(key)),
        variable,
      ).filter((one) => one.startsWith('C')),
    ).toEqual([])
  })
  it('C06 a PIN that everybody tries', () => {
    const provisioned = produce(site, (draft) => {
      draft.services[0]!.kind = 'provisioned'
    })
    expect(ids([stored('app/pairing-pin/corner', { usualPin: true })], provisioned)).toContain(
      'C06 app/pairing-pin/corner',
    )
  })
  it('C07 newer than the flash', () =>
    expect(ids(all.map((key) => stored(key, { newerThanFlash: key === 'wifi/password' })))).toEqual([
      'C07 wifi/password',
    ]))
})
