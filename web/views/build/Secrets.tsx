import { Link } from 'react-router'
import type { CredentialRow } from '../../../core/api'
import type { Controller } from '../../../core/site'
import { save } from '../../parts/save'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { useAppSelector } from '../../store/store'

/** What holds secrets, as files: a refusal is said, and never saved as if it were the file. */
function useSecretFiles({ id: controller }: Controller) {
  const site = useAppSelector((state) => state.site.site!.id)
  const download = async () => {
    const text = await attempt(call('secrets', { site, controller }))
    if (text !== undefined) save('secrets.h', text, 'text/plain')
  }
  const label = async () => {
    const svg = await attempt(call('pairingLabel', { site, controller }))
    if (svg !== undefined) save(`${controller}-pairing.svg`, svg, 'image/svg+xml')
  }
  return { download, label }
}

/** The secrets file of a controller: what is in it, what is missing, and the one place where secrets leave. */
export function Secrets({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site!.id)
  const all = useAppSelector((state) => state.logbook.credentialRows) ?? []
  const rows = all.filter((row) => row.controllers.includes(controller.id))
  const { download, label } = useSecretFiles(controller)
  if (rows.length === 0) return null
  const missing = rows.filter((row) => row.stored === null).length
  return (
    <section aria-label="Credentials">
      <h2 className="rule-head">
        Credentials: {rows.length - missing} of {rows.length} stored
      </h2>
      <ul className="mt-1 text-note">
        {rows.map((row) => (
          <SecretLine key={row.key} row={row} />
        ))}
      </ul>
      {missing > 0 && (
        <p className="mt-1 text-note">
          <Link className="inline-flex min-h-6 items-center underline" to={`/${site}/ways?side=credentials`}>
            Enter missing credentials
          </Link>
        </p>
      )}
      {rows.some(({ pairs, stored }) => pairs && stored) && (
        <button type="button" className="press mt-1.5 mr-1.5" onClick={() => void label()}>
          Download pairing label (SVG)
        </button>
      )}
      <button type="button" className="press mt-1.5" onClick={() => void download()}>
        Download secrets.h
      </button>
    </section>
  )
}

function SecretLine({ row: { stored, owner, label } }: { row: CredentialRow }) {
  const more = !stored ? ': missing' : stored.newerThanFlash ? ', newer than the board’s' : ''
  return <li className={stored ? 'text-soft' : 'text-warning'}>{`${stored ? '●' : '○'} ${owner}, ${label}${more}`}</li>
}
