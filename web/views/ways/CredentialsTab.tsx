import { useState, type FormEvent } from 'react'
import type { CredentialRow } from '../../../core/api'
import { cleanPasted, isDefaultPin, shapeTrouble } from '../../../core/services'
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
        A moment …
      </p>
    )
  // what is made here nobody types
  const typed = rows.filter((row) => !row.made)
  const owners = [...new Set(typed.map((row) => row.owner))]
  return (
    <div className="space-y-5">
      <p className="max-w-prose text-note text-soft">
        They are kept encrypted on this machine and leave it only in the secrets file of a controller, which you ask for
        under Build. They stand in no site file, export, build or log.
      </p>
      {owners.length === 0 && (
        <p className="text-soft">This site needs none yet: they appear here as soon as a service or a network does.</p>
      )}
      {owners.map((owner) => (
        <section key={owner} aria-label={owner}>
          <h2 className="rule-head">{owner}</h2>
          {typed
            .filter((row) => row.owner === owner)
            .map((row) => (
              <TypedLine key={row.key} row={row} />
            ))}
        </section>
      ))}
    </div>
  )
}

/** What is known of a credential, and whether all is well with it. */
function stateOf({ stored, shownOnce }: CredentialRow): { readonly words: string; readonly well: boolean } {
  if (!stored) return { words: shownOnce ? 'shown a single time: keep it at once' : 'missing', well: false }
  const troubles = [
    ...(stored.newerThanFlash ? ['newer than the last flash'] : []),
    ...(stored.usualPin ? ['a PIN that everybody tries'] : []),
  ]
  return { words: ['kept', ...troubles].join(', '), well: troubles.length === 0 }
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
      <p className="text-small text-soft">goes into the {row.usedIn}</p>
    </div>
  )
}

/** Keeps a value at the server, or forgets it. */
function useCredential(row: CredentialRow) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site!.id)
  const { key, label } = row
  const keep = async (value: string): Promise<boolean> => {
    const answer = await attempt(call('putCredential', { site, body: { key, value } }), `${label} is kept, encrypted`)
    if (answer) void dispatch(loadCredentials(site))
    return answer !== undefined
  }
  const forget = async () => {
    await attempt(call('deleteCredential', { site, body: { key } }), `${label} is forgotten`)
    void dispatch(loadCredentials(site))
  }
  return { keep, forget }
}

function TypedLine({ row }: { row: CredentialRow }) {
  const { keep, forget } = useCredential(row)
  const [text, setText] = useState('')
  const trouble = text === '' ? null : shapeTrouble(row.shape, cleanPasted(row.shape, text).value)
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
          Keep
        </button>
        {row.stored && (
          <button type="button" className="press-quiet" onClick={() => void forget()}>
            forget
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
      {usual && <p className="mt-0.5 text-small text-warning">Everybody tries this one first.</p>}
    </>
  )
}
