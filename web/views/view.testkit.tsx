import { soon } from '../soon.testkit'
import { cleanup, configure, render, screen } from '@testing-library/react'
import { readFileSync } from 'node:fs'
import { Suspense, type ReactNode } from 'react'
import { Provider } from 'react-redux'
import { MemoryRouter, Route, Routes } from 'react-router'
import { vi } from 'vitest'
import { readSite, type Site } from '../../core/site'
import { loadSite } from '../store/editing'
import { Keeper } from '../store/keeper.testkit'
import { store } from '../store/store'

// code of a view that comes later takes its time on a busy machine
configure({ asyncUtilTimeout: 20_000 })

export const demo = (id: string): Site => {
  const read = readSite(readFileSync(`demo/${id}.json`, 'utf8'))
  if (!read.ok) throw read.error
  return read.value
}

/** What jsdom has not, and views use. */
function fillIn(): void {
  class Nothing {
    observe(): void {}
    unobserve(): void {}
    disconnect(): void {}
  }
  vi.stubGlobal('ResizeObserver', Nothing)
  // a worker that never answers: what is computed in one is tested in core
  vi.stubGlobal(
    'Worker',
    class extends EventTarget {
      postMessage(): void {}
      terminate(): void {}
    },
  )
  Element.prototype.scrollIntoView = () => {}
  Element.prototype.hasPointerCapture = () => false
}

/** A view on a demo site, in the store and router that the app has, before a server that keeps its edits. */
export async function show(
  view: ReactNode,
  address: string,
  site: Site,
  answers: Keeper['answers'] = {},
): Promise<Keeper> {
  cleanup()
  fillIn()
  const keeper = new Keeper(site)
  Object.assign(keeper.answers, answers)
  vi.stubGlobal('fetch', keeper.fetch)
  await store.dispatch(loadSite(site.id))
  render(
    <Provider store={store}>
      <MemoryRouter initialEntries={[`/${site.id}/${address}`]}>
        <Routes>
          <Route path="/:site/*" element={<Suspense fallback={null}>{view}</Suspense>} />
        </Routes>
      </MemoryRouter>
    </Provider>,
  )
  await soon(() => {
    if (screen.queryByText('Loading …')) throw new Error('the view is still on its way')
  })
  return keeper
}

/** The document as the server has it, once all edits have arrived. */
export async function kept(keeper: Keeper): Promise<Site> {
  await soon(() => {
    if (store.getState().site.waiting.length > 0) throw new Error('an edit is on its way')
  })
  return keeper.site
}
