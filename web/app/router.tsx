import type { ComponentType } from 'react'
import { createBrowserRouter, Navigate } from 'react-router'
import { comes } from '../parts/comes'
import { SitesView } from '../views/sites/SitesView'
import { Failed } from './Failed'
import { NoSuchView } from './NoSuchView'
import { Shell } from './Shell'

const view = (load: () => Promise<ComponentType>) => async () => ({ Component: await comes(load) })

/** Each view is a chunk of its own: the first load carries the shell and what is asked for. */
export const router = createBrowserRouter([
  { path: '/', element: <SitesView />, errorElement: <Failed /> },
  {
    path: '/:siteId',
    element: <Shell />,
    errorElement: <Failed />,
    HydrateFallback: () => null,
    children: [
      { index: true, element: <Navigate to="bench" replace /> },
      { path: 'bench', lazy: view(async () => (await import('../views/bench/BenchView')).BenchView) },
      { path: 'ways', lazy: view(async () => (await import('../views/ways/WaysView')).WaysView) },
      { path: 'build', lazy: view(async () => (await import('../views/build/BuildView')).BuildView) },
      { path: 'trial', lazy: view(async () => (await import('../views/trial/TrialView')).TrialView) },
      {
        path: 'logbook',
        lazy: view(async () => (await import('../views/logbook/LogbookView')).LogbookView),
      },
      { path: 'paper', lazy: view(async () => (await import('../views/paper/PaperView')).PaperView) },
      { path: '*', element: <NoSuchView /> },
    ],
  },
])
