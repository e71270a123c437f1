import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { lampFanStrike } from '../outputs/kinds.testkit'
import { addServiceOfKind, DATAPOINT_WIRE, keepServiceKind, serviceKindIn, setWire } from '../services'
import { applyOperations, plainCopy, type Site } from '../site'
import { addAppWay } from '../ways'
import { checkSite, fixEdit } from '.'

const found = (site: Site, id: string) => checkSite(site).filter((finding) => finding.id === id)
const withKind = (kind: string): Site => lampFanStrike([kind])

describe('how builds reach their services', () => {
  it('C08 is there when no program reads a credential, and is not when a wire does', () => {
    const store = produce(withKind('room-store'), (draft) => {
      const { wire: _, ...bare } = serviceKindIn(draft, 'room-store')!
      keepServiceKind(draft, bare)
    })
    expect(found(withKind('room-store'), 'C08')).toEqual([])
    expect(found(store, 'C08').map(({ what }) => what)).toEqual([
      'Room store: Store address; Store key are in secrets.h, and no program reads them.',
    ])
    expect(found(withKind('datapoint'), 'C08')).toEqual([])
    expect(found(withKind('variable'), 'C08')).toEqual([])
    const wired = produce(store, (draft) =>
      setWire(draft, 'room-store', {
        ...DATAPOINT_WIRE,
        host: '{credential:host}',
        user: '',
        password: '{credential:store-key}',
      }),
    )
    expect(found(wired, 'C08')).toEqual([])
  })
  it('C09 is there when a key leaves the house unencrypted, and its fix turns TLS on', () => {
    const at = (host: string): Site =>
      produce(withKind('datapoint'), (draft) => {
        draft.services[0]!.host = host
      })
    for (const host of ['', '192.168.1.9', 'broker.local', 'server']) expect(found(at(host), 'C09'), host).toEqual([])
    const outside = at('things.example.org')
    const [finding] = found(outside, 'C09')
    expect(finding!.what).toBe('Datapoint app service at things.example.org is reached without TLS.')
    const mended = applyOperations(outside, fixEdit(outside, finding!, finding!.fixes[0]!).patch)
    expect(found(mended, 'C09')).toEqual([])
    expect(serviceKindIn(mended, 'datapoint')!.wire).toMatchObject({ tls: true })
  })
  it('C09 is there for an address that was typed as a credential and leads out of the house', () => {
    const store = withKind('room-store')
    const typed = (outside: boolean) => ({
      flashed: [],
      credentials: [
        {
          ...{ key: 'room-store/host', sameAs: 'a', newerThanFlash: false, usualPin: false },
          ...(outside ? { outside } : {}),
        },
      ],
    })
    const on = (outside: boolean) => checkSite(store, typed(outside)).filter(({ id }) => id === 'C09')
    expect(on(true).map(({ what }) => what)).toEqual(['Room store is reached without TLS.'])
    expect(on(false)).toEqual([])
    const mended = applyOperations(store, fixEdit(store, on(true)[0]!, on(true)[0]!.fixes[0]!).patch)
    expect(checkSite(mended, typed(true)).filter(({ id }) => id === 'C09')).toEqual([])
  })
  it('C12 is there for a pulse that is only read, and is not where a wish is sent', () => {
    expect(found(withKind('room-store'), 'C12').map(({ what }) => what)).toEqual([
      'Room store is read every 2 s: Strike reports to it, and is never set by it.',
    ])
    expect(found(withKind('datapoint'), 'C12')).toEqual([])
    expect(found(withKind('web-hook'), 'C12')).toEqual([])
  })
  it('M14 is not there where the bridge speaks to the controller itself, and is where it cannot', () => {
    const direct = withKind('voice-bridge')
    expect(found(direct, 'M14')).toEqual([])
    const linked = produce(direct, (draft) => {
      draft.services[0]!.linkedThrough = draft.services[0]!.id
    })
    expect(found(linked, 'M14')).toHaveLength(3)
  })
  it('C10 is there when a wire has a place that is not known, and names it', () => {
    const wrong = produce(withKind('datapoint'), (draft) =>
      setWire(draft, 'datapoint', { ...DATAPOINT_WIRE, password: '{credential:no-such}' }),
    )
    expect(found(wrong, 'C10')[0]!.what).toContain('{credential:no-such}, which is not known')
    expect(found(withKind('datapoint'), 'C10')).toEqual([])
  })
  it('C11 is there when a controller would need a fourth connection, and is not at three', () => {
    const three = lampFanStrike(['broker', 'datapoint', 'variable'])
    expect(found(three, 'C11')).toEqual([])
    const four = produce(three, (draft) => {
      keepServiceKind(draft as Site, { ...plainCopy(serviceKindIn(three, 'datapoint')!), id: 'another' })
      addServiceOfKind(draft as Site, 'another')
      addAppWay(draft as Site, draft.channels[0]! as Site['channels'][number], draft.services[2]!.id, 9)
    })
    expect(found(four, 'C11')[0]!.what).toMatch(/^Box would need 4 connections: the broker of the house, /)
  })
})
