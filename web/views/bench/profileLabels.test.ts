import { describe, expect, it } from 'vitest'
import { boardsIn, modulesIn } from '../../../core/boards'
import { emptySite } from '../../../core/site'
import { groupsFor } from './profileLabels'
import { plainFields } from './profiles'

const site = emptySite('Hall')
/** What a profile is known by, and what only the JSON shows. */
const APART = new Set(['id', 'kind', 'pairs'])

describe('the form of a profile', () => {
  it.each([...boardsIn(site), ...modulesIn(site)].map((profile) => [profile.id, profile] as const))(
    '%s: every plain value has a label of its own',
    (_, profile) => {
      const groups = groupsFor('kind' in profile ? profile.kind : undefined)
      const labelled = groups.flatMap(([, fields]) => Object.keys(fields))
      const paths = plainFields(profile).map(([path]) => path)
      expect(paths.filter((path) => !APART.has(path) && !labelled.includes(path))).toEqual([])
    },
  )
  it('no label is the name of a field in code', () => {
    for (const kind of [undefined, 'relay-module', 'part', 'supply', 'fan-regulator', 'strike', 'contactor'])
      for (const [, fields] of groupsFor(kind))
        for (const { label } of Object.values(fields)) expect(label).toMatch(/^[A-Z3][^A-Z]*( [A-Z]|,|$)?/)
  })
  it('a choice offers every value that a shipped profile has', () => {
    for (const profile of [...boardsIn(site), ...modulesIn(site)]) {
      const fields = Object.assign({}, ...groupsFor('kind' in profile ? profile.kind : undefined).map(([, one]) => one))
      for (const [path, value] of plainFields(profile))
        if (fields[path]?.choices)
          expect(Object.keys(fields[path].choices), `${profile.id} ${path}`).toContain(String(value))
    }
  })
})
