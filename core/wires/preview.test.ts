import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { lampFanStrike } from '../outputs/kinds.testkit'
import { DATAPOINT_WIRE, setWire } from '../services'
import { previewWire } from '.'

const rows = (kind: string) => {
  const preview = previewWire(lampFanStrike([kind]), kind)
  if (preview.kind !== 'rows') throw new Error(preview.why)
  return preview.rows
}

describe('what a wire would send and understand', () => {
  it.each([
    ['datapoint', 'point/1/is  1', 'point/1/ask  1 1'],
    ['variable', 'boards/‹board-id›/said  {"lamp":1}', 'boards/‹board-id›/wish  {"lamp":1,"count":1}'],
    ['provisioned', 'settings/lamp/is  {"value":1}', 'settings/lamp/want  {"value":1,"count":1}'],
    ['voice-bridge', 'lamps/id-lamp/is  1 ‹signature›', 'lamps/id-lamp/do  1 1 ‹signature›'],
    ['device-file', 'box/lamp/state  1', 'box/lamp/command  1 1'],
    ['commissioning', 'POST /controllers/box/endpoints/1  1', 'POST /endpoints/1/1  X-Key: ‹setup-code›'],
    ['web-hook', 'POST /told/box/lamp  {"value":1}', 'POST /‹call-key›/do/lamp/1'],
    ['room-store', 'PUT /rooms/box/lamp  1', 'GET /rooms/box  {"lamp":1,"fan":0,"strike":0}'],
  ])('of the kind %s is played by its engine', (kind, sends, said) => {
    const [lamp] = rows(kind)
    expect(lamp).toMatchObject({ point: 'vp1', value: 1, sends, hears: { said, means: 'set to 1' } })
  })

  it('says of a strike that is only read that it cannot be set', () => {
    expect(rows('room-store')[2]!.hears).toBeNull()
    expect(rows('datapoint')[2]!.hears?.means).toBe('set to 1')
  })

  it('says what is wrong with a wire, and where nothing is there to try', () => {
    const site = lampFanStrike(['datapoint'])
    const wrong = produce(site, (draft) => setWire(draft, 'datapoint', { ...DATAPOINT_WIRE, user: '{nobody}' }))
    expect(previewWire(wrong, 'datapoint')).toMatchObject({ kind: 'refused' })
    expect(previewWire(site, 'variable')).toMatchObject({ kind: 'nothing' })
  })
})
