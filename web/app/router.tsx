import { createBrowserRouter, Navigate } from 'react-router'
import { SitesView } from '../views/sites/SitesView'
import { Failed } from './Failed'
import { Shell } from './Shell'

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
      { path: 'bench', lazy: async () => ({ Component: (await import('../views/bench/BenchView')).BenchView }) },
      { path: 'ways', lazy: async () => ({ Component: (await import('../views/ways/WaysView')).WaysView }) },
      { path: 'build', lazy: async () => ({ Component: (await import('../views/build/BuildView')).BuildView }) },
      { path: 'trial', lazy: async () => ({ Component: (await import('../views/trial/TrialView')).TrialView }) },
      {
        path: 'logbook',
        lazy: async () => ({ Component: (await import('../views/logbook/LogbookView')).LogbookView }),
      },
    ],
  },
])
