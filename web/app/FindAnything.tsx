import { lazy, Suspense } from 'react'
import { comes } from '../parts/comes'

// The finder is a chunk of its own: most visits never open it.
const Finder = lazy(() => comes(() => import('./Finder')))

export function FindAnything({ onClose }: { onClose: () => void }) {
  return (
    <Suspense fallback={null}>
      <Finder onClose={onClose} />
    </Suspense>
  )
}
