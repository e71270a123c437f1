import { describe, expect, it } from 'vitest'
import { compileController } from '../image'
import type { Site } from '../site'
import { addControl } from '../ways'
import { corner, door, hold, remote } from '../findings/changes.testkit'
import { changed } from '../findings/sentences.testkit'
import { buildController } from '.'

/** What no controller may be told does not compile, and its build says why (docs/behaviour.md, Refused at compile). */

const lostRemote = changed(
  remote(undefined, (s) => {
    const [far] = s.remotes
    addControl(s, {
      kind: 'controller',
      controller: corner(s).id,
      source: { kind: 'remote', remote: far!.id, key: far!.keys[0]!.id },
      action: 'reset',
    })
  }),
)
const spike = changed(door({}, (s) => void (s.inputs.at(-1)!.settle = 'eager')))
const actions = (site: Site): string[] => {
  const { bindings, keys, chars } = compileController(site, 'corner')
  return [...bindings, ...keys, ...chars].map(({ action }) => action)
}

describe('what no controller may be told', () => {
  it('no key of a remote forgets the credentials', () => expect(actions(lostRemote)).not.toContain('reset'))
  it('no switch that counts at its first edge opens a door', () => expect(actions(spike)).not.toContain('pulse'))
  it('a hold that is long enough does, and a switch that settles', () => {
    expect(actions(changed(hold(5000)))).toContain('reset')
    expect(actions(changed(door()))).toContain('pulse')
  })
  it('a build is refused in one line', () => {
    expect(() => buildController(lostRemote, 'corner', [])).toThrow(
      /^Corner: reset is bound without a hold of 5 s at a switch: fix this first/,
    )
    expect(() => buildController(spike, 'corner', [])).toThrow(/^Corner: Gate could be opened by a spike on its switch/)
  })
})
