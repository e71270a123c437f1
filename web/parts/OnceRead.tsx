import type { ReactNode } from 'react'
import { useAppSelector } from '../store/store'

/** What speaks of builds, flashes and tests: shown once the server has told of them, since until then none is known. */
export function OnceRead({ children }: { children: ReactNode }) {
  const isRead = useAppSelector((state) => state.logbook.isRead)
  if (isRead) return children
  return (
    <p role="status" className="py-3 text-soft">
      Waiting for the record of builds and tests.
    </p>
  )
}
