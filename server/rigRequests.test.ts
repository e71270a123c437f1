import { afterEach, describe } from 'vitest'
import { every } from '../firmware/test/fuzz.testkit'
import { closeAll } from './house.testkit'
import { proveKind, type WiredKind } from './rigKinds.testkit'

// Kinds that boards ask, or that call boards, through the doors that the interface uses: those that ship, and those
// that are only described (core/outputs/ownKinds.testkit.ts).

afterEach(closeAll)

const KINDS: readonly WiredKind[] = [
  {
    kind: 'room-store',
    id: 'room-store',
    key: 'room-store/store-key',
    says: /wrong or missing key/,
    logs: /refused \(401\)/,
  },
  { kind: 'commissioning', id: 'hub', key: 'hub/setup-code/box', says: /wrong key/, logs: /wrong key, refused/ },
  { kind: 'ledger', id: 'ledger', key: 'ledger/access-key/box', says: /wrong or missing key/, logs: /refused \(401\)/ },
  { kind: 'bell', id: 'bell', key: 'bell/access-key/box', says: /wrong key/, logs: /wrong key, refused/ },
  { kind: 'web-hook', id: 'web-hook', key: 'web-hook/call-key/box', says: /wrong key/, logs: /wrong key, refused/ },
]

// a run of all tests plays the first; by itself this file plays all
describe.each(every(5, KINDS))('a site on the kind $kind', proveKind)
