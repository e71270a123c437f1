// @vitest-environment jsdom
import { soon } from '../soon.testkit'
import { screen, within } from '@testing-library/react'
import { produce } from 'immer'
import { afterEach, describe, expect, it, vi } from 'vitest'
import { demo, show } from '../views/view.testkit'
import { emptySite } from '../../core/site'
import { FindingsDrawer } from './FindingsDrawer'

/** What the drawer says of a site on which no check has found anything. */

afterEach(() => vi.unstubAllGlobals())

const said = () => within(screen.getByRole('region', { name: 'Not checked yet' })).getAllByRole('listitem')

describe('the drawer', () => {
  it('a site with nothing in it is not settled', async () => {
    await show(<FindingsDrawer />, 'bench', emptySite('Hall', []))
    await soon(() => expect(screen.getByRole('heading', { name: 'Nothing found yet' })).toBeDefined())
    expect(said().map((row) => row.textContent)).toEqual(['anything: there is no controller yet: add one on the bench'])
  })
  it('loads that nobody named are said, with the tests that they take away', async () => {
    const dark = produce(demo('studio-corner'), (draft) => {
      for (const channel of draft.channels) channel.load = null
    })
    await show(<FindingsDrawer />, 'bench', dark)
    expect(said().map((row) => row.textContent)).toContain(
      'contacts, suppression, mains rows and the tests with load: no load is entered for Desk lamp and Easel lamp',
    )
  })
})
