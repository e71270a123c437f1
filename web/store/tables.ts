import { useEffect, useState } from 'react'
import { tablesOf } from '../../core/acceptance'
import type { Site } from '../../core/site'

/** A pause in the typing after which tables are worked out, ms: nothing on screen waits for them. */
const PAUSE_MS = 700

/** Hashes of the tables that each controller would get now, by its id; null: not worked out yet, or not asked for. */
export function useTables(site: Site | null): Readonly<Record<string, string>> | null {
  const [known, setKnown] = useState<{ readonly site: Site; readonly tables: Readonly<Record<string, string>> } | null>(
    null,
  )
  useEffect(() => {
    if (!site) return undefined
    const timer = setTimeout(() => {
      try {
        setKnown({ site, tables: tablesOf(site) })
      } catch {
        // a site that cannot be compiled has no tables; its findings say why
        setKnown({ site, tables: {} })
      }
    }, PAUSE_MS)
    return () => clearTimeout(timer)
  }, [site])
  return known?.site === site ? known.tables : null
}
