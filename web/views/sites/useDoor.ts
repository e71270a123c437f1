import { useCallback, useEffect, useState } from 'react'
import { useNavigate } from 'react-router'
import type { BodySent, DoorRow } from '../../../core/api'
import { call } from '../../store/api'
import { firstTheme } from '../../parts/theme'

/** What is done to a site at the door; false: it was refused, and why is said. */
type Deed = (site: DoorRow, name: string) => Promise<boolean>

/** The sites there are, what went wrong at the door, and the ways through it. */
export interface Door {
  readonly sites: readonly DoorRow[] | null
  /** ids of the sites that are there */
  readonly taken: readonly string[]
  readonly error: string | null
  readonly create: (body: BodySent<'newSite'>) => Promise<void>
  readonly open: (text: string, file: string) => Promise<void>
  readonly rename: Deed
  readonly copy: Deed
  readonly delete: Deed
}

/** What each way to begin a site is given. */
export interface BeginningProps {
  readonly door: Door
}

export function useDoor(): Door {
  const navigate = useNavigate()
  const [sites, setSites] = useState<readonly DoorRow[] | null>(null)
  const [error, setError] = useState<string | null>(null)
  const refuse = (reason: Error) => setError(reason.message)
  const look = useCallback(() => call('door', {}).then((answer) => setSites(answer.sites), refuse), [])
  useEffect(() => {
    document.documentElement.dataset['theme'] ??= firstTheme()
    void look()
  }, [look])
  const create = (body: BodySent<'newSite'>) =>
    call('newSite', { body }).then((answer) => void navigate(`/${answer.id}/bench`), refuse)
  const open = async (text: string, file: string) => {
    const { readSite } = await import('./readSiteFile')
    const parsed = readSite(text)
    if (parsed.ok) await create({ site: parsed.value })
    else setError(`${file}: ${parsed.error.message}`)
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
  return { sites, taken: (sites ?? []).map(({ id }) => id), error, create, open, ...deeds(done) }
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
