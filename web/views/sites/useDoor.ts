import { useCallback, useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import type { BodySent, SiteRow } from '../../../core/api'
import { call } from '../../store/api'
import { keptTheme } from '../../store/screenSlice'

/** What is done to a site at the door; false: it was refused, and why is said. */
type Deed = (site: SiteRow, name: string) => Promise<boolean>

/** The sites there are, what went wrong at the door, and the ways through it. */
export interface Door {
  readonly sites: readonly SiteRow[] | null
  readonly error: string | null
  readonly create: (body: BodySent<'newSite'>) => Promise<void>
  readonly open: (picked: File | undefined) => Promise<void>
  readonly rename: Deed
  readonly copy: Deed
  readonly delete: Deed
}

export function useDoor(): Door {
  const navigate = useNavigate()
  const [sites, setSites] = useState<readonly SiteRow[] | null>(null)
  const [error, setError] = useState<string | null>(null)
  const refuse = (reason: Error) => setError(reason.message)
  const look = useCallback(() => call('sites', {}).then((answer) => setSites(answer.sites), refuse), [])
  useEffect(() => {
    document.documentElement.dataset['theme'] ??= keptTheme() ?? 'light'
    void look()
  }, [look])
  const create = (body: BodySent<'newSite'>) =>
    call('newSite', { body }).then((answer) => void navigate(`/${answer.id}/bench`), refuse)
  const open = async (picked: File | undefined) => {
    if (!picked) return
    const { readSite } = await import('./readSiteFile')
    const parsed = readSite(await picked.text())
    if (parsed.ok) await create({ site: parsed.value })
    else setError(`${picked.name}: ${parsed.error.message}`)
  }
  /** Does it, and looks again at what is there. */
  const done = async (deed: Promise<unknown>): Promise<boolean> => {
    try {
      await deed
      setError(null)
      return true
    } catch (reason) {
      refuse(reason as Error)
      return false
    } finally {
      await look()
    }
  }
  return { sites, error, create, open, ...deeds(done) }
}

/** What can be done to a site that is there. */
const deeds = (done: (deed: Promise<unknown>) => Promise<boolean>): Record<'rename' | 'copy' | 'delete', Deed> => ({
  rename: ({ id, revision }, name) => {
    const body = { label: 'site: name', patch: [{ op: 'replace' as const, path: '/name', value: name }] }
    return done(call('keepEdit', { site: id, revision, body }))
  },
  copy: ({ id }, name) => done(call('newSite', { body: { name, copyOf: id } })),
  delete: ({ id }, name) => done(call('deleteSite', { site: id, body: { name } })),
})
