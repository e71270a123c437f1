import type { ComponentType } from 'react'
import { createBrowserRouter, Navigate } from 'react-router'
import { comes } from '../parts/comes'
import { SitesView } from '../views/sites/SitesView'
import { Failed } from './Failed'
import { NoSuchView } from './NoSuchView'

const view = (load: () => Promise<ComponentType>) => async () => ({ Component: await comes(load) })

/** Each view is a chunk of its own: the first load carries the shell and what is asked for. */
export const router = createBrowserRouter([
  { path: '/', element: <SitesView />, errorElement: <Failed /> },
  {
    path: '/:siteId',
    // the door knows no document: the hall of a site, its checks and its store come with the first site
    lazy: view(async () => (await import('./Hall')).Hall),
    errorElement: <Failed />,
    HydrateFallback: () => null,
    children: [
      { index: true, element: <Navigate to="bench" replace /> },
      { path: 'bench', lazy: view(async () => (await import('../views/bench/BenchView')).BenchView) },
      { path: 'ways', lazy: view(async () => (await import('../views/ways/WaysView')).WaysView) },
      { path: 'build', lazy: view(async () => (await import('../views/build/BuildView')).BuildView) },
      { path: 'trial', lazy: view(async () => (await import('../views/trial/TrialView')).TrialView) },
      { path: 'whatif', lazy: view(async () => (await import('../views/whatif/WhatIfView')).WhatIfView) },
      { path: 'handover', lazy: view(async () => (await import('../views/handover/HandoverView')).HandoverView) },
      {
        path: 'logbook',
        lazy: view(async () => (await import('../views/logbook/LogbookView')).LogbookView),
      },
      { path: 'paper', lazy: view(async () => (await import('../views/paper/PaperView')).PaperView) },
      { path: '*', element: <NoSuchView /> },
    ],
  },
])
