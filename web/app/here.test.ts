import { describe, expect, it } from 'vitest'
import { checkSite } from '../../core/findings'
import { selectShown, selectShownController } from '../store/selection'
import { demo } from '../views/view.testkit'
import { concerns } from './here'

const review = demo('before-review')
const open = checkSite(review)

describe('what a side is about', () => {
  it('every finding of a step is about its first side, or about the side that it names', () => {
    for (const finding of open) {
      const { step, side = null } = finding.where
      expect(concerns({ step, side: step === 'ways' ? side : null }, finding), finding.id).toBe(true)
    }
  })
  it('supply, contacts and start-up have their own', () => {
    const of = (side: string) => [
      ...new Set(open.filter((one) => concerns({ step: 'bench', side }, one)).map(({ id }) => id[0])),
    ]
    expect(of('start')).toEqual(['P'])
    expect(of('supply').every((family) => 'SD'.includes(family!))).toBe(true)
    expect(of('profiles')).toEqual([])
  })
  it('on Build it is what keeps it from being made', () => {
    const grave = open.filter(({ severity }) => severity === 'danger' || severity === 'error')
    expect(open.filter((one) => concerns({ step: 'build', side: null }, one))).toEqual(grave)
  })
})

describe('the controller that is shown', () => {
  const site = demo('fernhollow')
  const state = (controller: string | null, step: string | null) => ({ site: { site }, screen: { controller, step } })
  it('is the picked one everywhere', () => {
    for (const step of ['bench', 'ways', 'build', 'trial', 'logbook'])
      expect(selectShown(state('glaze', step))).toBe('glaze')
  })
  it('is all of them where nothing is picked, but the first where a view shows one', () => {
    expect(['bench', 'ways', 'build', 'trial', 'logbook'].map((step) => selectShown(state(null, step)))).toEqual([
      'throwing',
      null,
      'throwing',
      null,
      null,
    ])
  })
  it('one that was deleted is picked no more', () => {
    expect(selectShown(state('gone', 'ways'))).toBeNull()
    expect(selectShownController(state('gone', 'bench'))!.id).toBe('throwing')
  })
})
