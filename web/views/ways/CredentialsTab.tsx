import { useState, type FormEvent } from 'react'
import type { CredentialRow } from '../../../core/api'
import { cleanPasted, isDefaultPin, serviceKindIn, shapeTrouble } from '../../../core/services'
import { save } from '../../parts/save'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { loadCredentials } from '../../store/logbook'
import { useAppDispatch, useAppSelector } from '../../store/store'

/**
 * Every credential once: typed or pasted here, cleaned before one's eyes, encrypted at the server, shown never again.
 */
export function CredentialsTab() {
  const rows = useAppSelector((state) => state.logbook.credentialRows)
  if (rows === null)
    return (
      <p className="text-soft" role="status">
        Loading …
      </p>
    )
  // what is made here nobody types
  const typed = rows.filter((row) => !row.made)
  const owners = [...new Set(typed.map((row) => row.owner))]
  return (
    <div className="space-y-5">
      <p className="max-w-prose text-note text-soft">
        <span className="font-semibold text-ink" data-testid="credentials-stored">
          {typed.filter(({ stored }) => stored).length} of {typed.length} stored.
        </span>{' '}
        Stored encrypted on this machine. They leave it only in a controller’s secrets.h, which you download on Build,
        and in the hub’s file below; no site file, export, build or log contains them.
      </p>
      {owners.length === 0 && (
        <p className="text-soft">
          None needed yet: they appear here when a controller has a network or a service is added.
        </p>
      )}
      {owners.map((owner) => (
        <OwnerRows key={owner} owner={owner} rows={typed.filter((row) => row.owner === owner)} />
      ))}
      <HubFiles />
    </div>
  )
}

const OwnerRows = ({ owner, rows }: { owner: string; rows: readonly CredentialRow[] }) => (
  <section aria-label={owner}>
    <h2 className="rule-head flex">
      {owner}
      <span className="ml-auto font-normal text-soft">{storedWords(rows)}</span>
    </h2>
    {rows.map((row) => (
      <TypedLine key={row.key} row={row} />
    ))}
  </section>
)

/** What a hub itself must know: its login at the broker, which is made here, or the keys of its controllers. */
function HubFiles() {
  const site = useAppSelector((state) => state.site.site!)
  const hubs = site.hubs.filter((hub) => (serviceKindIn(site, hub.kind)?.secrets.length ?? 0) > 0)
  const download = async (hub: string) => {
    const text = await attempt(call('hubSecrets', { site: site.id, hub }))
    if (text !== undefined) save(`${hub}-secrets.yaml`, text, 'application/yaml')
  }
  if (hubs.length === 0) return null
  return (
    <section aria-label="Secrets files of hubs">
      <h2 className="rule-head">Secrets files of hubs</h2>
      <p className="mt-1 max-w-prose text-small text-soft">
        For the hub’s own machine. A hub on the broker logs in with a user and a password that are made here; other hubs
        get the keys of their controllers.
      </p>
      {hubs.map(({ id, name }) => (
        <button key={id} type="button" className="press mt-1.5 mr-1.5" onClick={() => void download(id)}>
          Download secrets file of {name}
        </button>
      ))}
    </section>
  )
}

const storedWords = (rows: readonly CredentialRow[]): string =>
  `${rows.filter(({ stored }) => stored).length} of ${rows.length} stored`

/** What is known of a credential, and whether all is well with it. */
function stateOf({ stored, shownOnce }: CredentialRow): { readonly words: string; readonly well: boolean } {
  if (!stored) return { words: shownOnce ? 'missing: shown one time only, store it at once' : 'missing', well: false }
  const troubles = [
    ...(stored.newerThanFlash ? ['newer than the last flash'] : []),
    ...(stored.usualPin ? ['default PIN'] : []),
  ]
  return { words: ['stored', ...troubles].join(', '), well: troubles.length === 0 }
}

const LINE = 'grid @3xl:grid-cols-[14rem_1fr_auto] items-start gap-3 border-b border-hair py-1.5'

function Known({ row }: { row: CredentialRow }) {
  const { words, well } = stateOf(row)
  return (
    <div>
      <p className="font-semibold">{row.label}</p>
      <p className={`text-small ${well ? 'text-rest' : 'text-warning'}`}>
        {row.stored ? '●' : '○'} {words}
      </p>
      <p className="text-small text-soft">Used in the {row.usedIn}</p>
    </div>
  )
}

/** Stores a value at the server, or deletes it. */
function useCredential(row: CredentialRow) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site!.id)
  const { key, label } = row
  const keep = async (value: string): Promise<boolean> => {
    const answer = await attempt(call('putCredential', { site, body: { key, value } }), `${label} stored`)
    if (answer) void dispatch(loadCredentials(site))
    return answer !== undefined
  }
  const remove = async () => {
    await attempt(call('deleteCredential', { site, body: { key } }), `${label} deleted`)
    void dispatch(loadCredentials(site))
  }
  return { keep, remove }
}

function TypedLine({ row }: { row: CredentialRow }) {
  const { keep, remove } = useCredential(row)
  const [text, setText] = useState('')
  const trouble = text === '' ? null : shapeTrouble(row, cleanPasted(row.shape, text).value)
  const submit = async (event: FormEvent) => {
    event.preventDefault()
    if (text && !trouble && (await keep(text))) setText('')
  }
  return (
    <form className={LINE} data-thing={row.key} onSubmit={(event) => void submit(event)}>
      <Known row={row} />
      <div>
        <input
          className="field font-mono"
          type={row.secret ? 'password' : 'text'}
          autoComplete="off"
          spellCheck={false}
          aria-label={`${row.owner}: ${row.label}`}
          aria-invalid={trouble ? true : undefined}
          placeholder={row.stored ? '••••••••' : `paste or type the ${row.shape}`}
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        <Cleaned row={row} text={text} trouble={trouble} />
      </div>
      <span className="flex gap-1.5">
        <button type="submit" className="press" disabled={!text || trouble !== null}>
          Store
        </button>
        {row.stored && (
          <button type="button" className="press-quiet" onClick={() => void remove()}>
            Delete
          </button>
        )}
      </span>
    </form>
  )
}

/** What was taken off a pasted value, and what is wrong with it, before it is kept. */
function Cleaned({ row, text, trouble }: { row: CredentialRow; text: string; trouble: string | null }) {
  if (text === '') return null
  const { value, changes } = cleanPasted(row.shape, text)
  const usual = !trouble && row.shape === 'pin' && isDefaultPin(value)
  return (
    <>
      {changes.length > 0 && (
        <p className="mt-0.5 text-small text-brass">
          Cleaned: {changes.join(', ')}
          {!row.secret && (
            <>
              {' '}
              → <span className="font-mono">{value}</span>
            </>
          )}
        </p>
      )}
      {trouble && (
        <p role="alert" className="mt-0.5 text-small text-error">
          {trouble}
        </p>
      )}
      {usual && <p className="mt-0.5 text-small text-warning">A default PIN: choose another.</p>}
    </>
  )
}
