import { Link } from 'react-router'
import type { Controller } from '../../../core/site'
import { sitePath } from '../../store/api'
import { useAppSelector } from '../../store/store'

/** The secrets file of a controller: what is in it, what is missing, and the one place where secrets leave. */
export function Secrets({ controller }: { controller: Controller }) {
  const siteId = useAppSelector((state) => state.site.site!.id)
  const rows = useAppSelector((state) => state.logbook.credentialRows)?.filter((row) => row.controllers.includes(controller.id)) ?? []
  if (rows.length === 0) return null
  const missing = rows.filter((row) => row.stored === null)
  const download = async () => {
    const response = await fetch(`${sitePath(siteId)}/controllers/${controller.id}/secrets`, { method: 'POST' })
    const link = document.createElement('a')
    link.href = URL.createObjectURL(await response.blob())
    link.download = 'secrets.h'
    link.click()
    URL.revokeObjectURL(link.href)
  }
  return (
    <section aria-label="Secrets">
      <h2 className="rule-head">Secrets</h2>
      <ul className="mt-1 text-note">
        {rows.map((row) => <li key={row.key} className={row.stored ? 'text-soft' : 'text-warning'}>{row.stored ? '●' : '○'} {row.owner}, {row.label}{row.stored ? '' : ': missing'}{row.stored?.newerThanFlash ? ', newer than the board’s' : ''}</li>)}
      </ul>
      {missing.length > 0 && <p className="mt-1 text-note"><Link className="underline" to={`/${siteId}/ways?side=credentials`}>Type the missing ones once, under Credentials</Link></p>}
      <button type="button" className="press mt-1.5" onClick={() => void download()}>secrets.h, filled in</button>
    </section>
  )
}
