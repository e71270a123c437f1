import { afterEach, describe, expect, it } from 'vitest'
import { every } from '../firmware/test/fuzz.testkit'
import { closeAll, House } from './house.testkit'
import { proveKind, type WiredKind } from './rigKinds.testkit'
import { until } from './server.testkit'

// Kinds that boards reach over MQTT, through the doors that the interface uses: those that ship, and those
// that are only described (core/outputs/ownKinds.testkit.ts).

afterEach(closeAll)

const KINDS: readonly WiredKind[] = [
  {
    kind: 'provisioned',
    id: 'provisioned',
    key: 'provisioned/pairing-pin/box',
    says: /wrong or missing key/,
    logs: /refused: wrong user or password/,
  },
  {
    kind: 'voice-bridge',
    id: 'voice-bridge',
    key: 'voice-bridge/account-key',
    says: /wrong or missing key/,
    logs: /refused: wrong user or password/,
  },
  {
    kind: 'device-file',
    id: 'hub',
    key: 'hub/hub-key/box',
    says: /wrong or missing key/,
    logs: /refused: wrong user or password/,
  },
  {
    kind: 'letterbox',
    id: 'letterbox',
    key: 'letterbox/access-key/box',
    says: /wrong or missing key/,
    logs: /refused: wrong user or password/,
  },
]

// a run of all tests plays the first; by itself this file plays all
describe.each(every(5, KINDS))('a site on the kind $kind', proveKind)

describe('a voice bridge with another signing key', () => {
  it('is not obeyed, and does not believe', async () => {
    const house = await House.of(['voice-bridge'])
    await house.rig(true)
    await house.ups('voice-bridge')
    const [lamp] = await house.points('voice-bridge')
    await house.type('voice-bridge/signing-key', 'another-key-0123456789')
    await house.touch('voice-bridge', lamp!, true)
    await house.said(/a message with a wrong signature, refused/)
    expect((await house.outputs())['lamp']).toBe(0)
    await house.press('lamp-button')
    await until(async () =>
      (await house.page('voice-bridge')).refused.some(({ text }) => /has a wrong signature/.test(text)),
    )
  }, 120_000)
})
