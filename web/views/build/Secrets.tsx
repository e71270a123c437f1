import { Link } from 'react-router'
import type { CredentialRow } from '../../../core/api'
import type { Controller } from '../../../core/site'
import { save } from '../../parts/save'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { useAppSelector } from '../../store/store'

/** The secrets file of a controller: what is in it, what is missing, and the one place where secrets leave. */
export function Secrets({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site!.id)
  const all = useAppSelector((state) => state.logbook.credentialRows) ?? []
  const rows = all.filter((row) => row.controllers.includes(controller.id))
  if (rows.length === 0) return null
  const missing = rows.some((row) => row.stored === null)
  /** a refusal is said, and never saved as if it were the file */
  const download = async () => {
    const text = await attempt(call('secrets', { site, controller: controller.id }))
    if (text !== undefined) save('secrets.h', text, 'text/plain')
  }
  const label = async () => {
    const svg = await attempt(call('pairingLabel', { site, controller: controller.id }))
    if (svg !== undefined) save(`${controller.id}-pairing.svg`, svg, 'image/svg+xml')
  }
  return (
    <section aria-label="Secrets">
      <h2 className="rule-head">Secrets</h2>
      <ul className="mt-1 text-note">
        {rows.map((row) => (
          <SecretLine key={row.key} row={row} />
        ))}
      </ul>
      {missing && (
        <p className="mt-1 text-note">
          <Link className="underline" to={`/${site}/ways?side=credentials`}>
            Type the missing ones once, under Credentials
          </Link>
        </p>
      )}
      {rows.some(({ pairs, stored }) => pairs && stored) && (
        <button type="button" className="press mt-1.5 mr-1.5" onClick={() => void label()}>
          Pairing label
        </button>
      )}
      <button type="button" className="press mt-1.5" onClick={() => void download()}>
        secrets.h, filled in
      </button>
    </section>
  )
}

function SecretLine({ row: { stored, owner, label } }: { row: CredentialRow }) {
  const more = !stored ? ': missing' : stored.newerThanFlash ? ', newer than the board’s' : ''
  return <li className={stored ? 'text-soft' : 'text-warning'}>{`${stored ? '●' : '○'} ${owner}, ${label}${more}`}</li>
}
