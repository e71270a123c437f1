import { useSyncExternalStore } from 'react'

/** From this width on the steps and the findings stand beside the view; below it they lie over it. */
const WIDE = '(min-width: 1024px)'

const query = (): MediaQueryList | null => (typeof matchMedia === 'undefined' ? null : matchMedia(WIDE))

function listen(listener: () => void): () => void {
  const list = query()
  list?.addEventListener('change', listener)
  return () => list?.removeEventListener('change', listener)
}

/** The same, asked once. */
export const isWide = (): boolean => query()?.matches ?? true

/** Is there room beside the view? A page without a screen (a test) is wide. */
export const useWide = (): boolean => useSyncExternalStore(listen, isWide)
