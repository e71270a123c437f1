import { describe, expect, it } from 'vitest'
import { STEPS } from './steps'
import { WALK } from './walkSteps'

describe('the walk', () => {
  it('leads through every step of the job, in its order', () => {
    const steps = [...new Set(WALK.map(({ path }) => path.split('?')[0]))]
    expect(steps).toEqual(STEPS.map(({ id }) => id))
  })
  it('says no more than can be read on the way', () => {
    for (const { text } of WALK) expect(text.split(' ').length).toBeLessThanOrEqual(40)
  })
})
