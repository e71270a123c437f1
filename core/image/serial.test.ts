import { produce } from 'immer'
import { expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { linkFor } from '../ways'
import { compileController } from './compile'

/** A controller with a nearby link and a wire, in either order in the document. */
const site = (order: readonly ('nearby' | 'serial')[]) =>
  produce(cleanSite(), (draft) => {
    for (const kind of order) {
      const link = linkFor(draft, draft.controllers[0]!.id, kind)
      link.baud = kind === 'serial' ? 38_400 : 9_600
      link.statusMs = kind === 'serial' ? 500 : 4_000
    }
  })

it.each([[['nearby', 'serial'] as const], [['serial', 'nearby'] as const]])(
  'links %s: the wire’s speed and period are taken, wherever it stands',
  (order) => expect(compileController(site(order), 'corner').serial).toEqual({ baud: 38_400, statusMs: 500 }),
)
it('a nearby link alone says the speed', () =>
  expect(compileController(site(['nearby']), 'corner').serial).toEqual({ baud: 9_600, statusMs: 4_000 }))
it('no link: no serial port', () => expect(compileController(site([]), 'corner').serial).toBeNull())
