import { lazy, Suspense } from 'react'

// The finder is a chunk of its own: most visits never open it.
const Finder = lazy(() => import('./Finder'))

export function FindAnything({ onClose }: { onClose: () => void }) {
  return (
    <Suspense fallback={null}>
      <Finder onClose={onClose} />
    </Suspense>
  )
}
