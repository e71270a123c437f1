import { describe, expect, it } from 'vitest'
import { emptySite, ServiceProfile } from '../site'
import { addLetterbox } from '../outputs/ownKinds.testkit'
import {
  addSecret,
  keepServiceKind,
  readServiceKindFile,
  removeSecret,
  SERVICE_KINDS,
  serviceKindFile,
  serviceKindIn,
} from '.'

describe('the kinds that ship', () => {
  it.each(SERVICE_KINDS.map((kind) => [kind.id, kind] as const))(
    '%s can be copied into a site and corrected',
    (_, kind) => {
      expect(ServiceProfile.parse(kind)).toEqual(kind)
    },
  )
})

describe('a kind of the maker’s own', () => {
  it('leaves as a file and comes back the same', () => {
    const site = emptySite('House')
    const kind = serviceKindIn(site, addLetterbox(site))!
    const other = emptySite('Other')
    const read = readServiceKindFile(serviceKindFile(kind))
    if (!('kind' in read)) throw new Error(read.wrong)
    keepServiceKind(other, read.kind)
    expect(serviceKindIn(other, kind.id)).toEqual(kind)
  })
  it.each([
    ['no JSON', 'x', /not JSON/],
    ['another file', '{"vestibule-site":5}', /“vestibule-service-kind”: 1 is missing/],
    ['a kind with a bad wire', '{"vestibule-service-kind":1,"kind":{"id":"x"}}', /^kind\.name: /],
  ])('refuses %s whole, in one line', (_, text, wrong) => {
    expect(readServiceKindFile(text)).toEqual({ wrong: expect.stringMatching(wrong) as string })
  })
  it('has credentials of its own, each with an id that no other has', () => {
    const site = emptySite('House')
    const kind = addLetterbox(site)
    addSecret(site, kind, 'Seal key')
    expect(serviceKindIn(site, kind)!.secrets.map(({ id }) => id)).toEqual(['access-key', 'seal-key', 'seal-key-2'])
    removeSecret(site, kind, 'seal-key')
    expect(serviceKindIn(site, kind)!.secrets.map(({ id }) => id)).toEqual(['access-key', 'seal-key-2'])
  })
})
