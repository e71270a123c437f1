import { execFileSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { CHANNEL_KINDS, emptySite, KINDS, newController, type Channel } from '../../core/site'
import { STRICT_FLAGS } from '../host'

/** What the runtime says of each kind (kinds.cpp), by name: `lasting=1`, `0/1=off` … */
const said = new Map<string, ReadonlyMap<string, string>>()
beforeAll(() => {
  const program = join(mkdtempSync(join(tmpdir(), 'vestibule-kinds-')), 'kinds')
  execFileSync('g++', [...STRICT_FLAGS, join('firmware', 'test', 'kinds.cpp'), '-o', program])
  for (const line of execFileSync(program, { encoding: 'utf8' }).trim().split('\n')) {
    const [name, ...facts] = line.split(' ')
    said.set(name!, new Map(facts.map((fact) => fact.split('=') as [string, string])))
  }
}, 60_000)

const flag = (holds: boolean): string => (holds ? '1' : '0')

/** What a level of the record is said as, in a table whose highest level is `top`. */
function sameAs(name: Channel['kind'], usual: number, level: number, top: number): string {
  const { saidAs } = KINDS[name]
  return (level === 0 || top === usual ? saidAs[level] : null) ?? 'none'
}

describe.each(CHANNEL_KINDS.map((name) => [name]))('%s: the record and the runtime say the same', (name) => {
  const kind = KINDS[name]
  const fact = (key: string) => said.get(name)?.get(key)

  it('of power, groups and limits', () => {
    expect({
      lasting: fact('lasting'),
      numbered: fact('numbered'),
      keeps: fact('keeps'),
      contact: fact('contact'),
      feed: fact('feed'),
      groups: fact('groups'),
      report: fact('report'),
    }).toEqual({
      lasting: flag(kind.lasting),
      numbered: flag(kind.numbered),
      keeps: flag(kind.keepsLastLevel),
      contact: flag(kind.limitRunsFrom === 'contact'),
      feed: flag(name === 'feed'),
      groups: { always: '11', local: '01', never: '00' }[kind.inGroups],
      report: kind.report,
    })
  })

  it('of what means the same as a level, with as many levels as a new one has', () => {
    const site = emptySite('Bench')
    const begun = kind.begin({
      id: 'one' as Channel['id'],
      name: 'One',
      controller: newController(site, 'Corner', 'dual-core-wifi-30').id,
      room: null,
      load: null,
      active: 'low',
      essential: false,
    }) as never
    const top = kind.patterns(begun).length - 1
    for (let level = 0; level <= top; level++)
      expect([level, fact(`${level}/${top}`)]).toEqual([level, sameAs(name, kind.saidAs.length - 1, level, top)])
  })

  it('of the words in its reports', () =>
    expect(kind.states.map((_, level) => fact(`state${level}`))).toEqual(kind.states))
})
