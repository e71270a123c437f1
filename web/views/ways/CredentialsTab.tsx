import { useState } from 'react'
import { cleanPasted, isDefaultPin, shapeTrouble } from '../../../core/ways'
import { ask, sitePath } from '../../store/api'
import { attempt, loadCredentials } from '../../store/editing'
import type { CredentialRow } from '../../store/logbookSlice'
import { useAppDispatch, useAppSelector } from '../../store/store'

/**
 * Every credential once: typed or pasted here, cleaned before one's eyes, encrypted at the server, shown never again.
 */
export function CredentialsTab() {
  const site = useAppSelector((state) => state.site.site)!
  const rows = useAppSelector((state) => state.logbook.credentialRows)
  if (rows === null)
    return (
      <p className="text-soft" role="status">
        A moment …
      </p>
    )
  const owners = [...new Set(rows.map((row) => row.owner))]
  return (
    <div className="space-y-5">
      <p className="max-w-prose text-note text-soft">
        They are kept encrypted on this machine and leave it only in the secrets file of a controller, which you ask for
        under Build. They stand in no site file, export, build or log.
      </p>
      {owners.map((owner) => (
        <section key={owner} aria-label={owner}>
          <h2 className="rule-head">{owner}</h2>
          {rows
            .filter((row) => row.owner === owner)
            .map((row) => (
              <CredentialLine key={row.key} row={row} siteId={site.id} />
            ))}
        </section>
      ))}
    </div>
  )
}

function CredentialLine({ row, siteId }: { row: CredentialRow; siteId: string }) {
  const dispatch = useAppDispatch()
  const [text, setText] = useState('')
  const { value, changes } = cleanPasted(row.shape, text)
  const trouble = text === '' ? null : shapeTrouble(row.shape, value)
  const made = row.stored !== null && row.stored.updatedAt === ''
  const keep = async () => {
    const answer = await attempt(
      ask<{ changes: string[] }>('PUT', `${sitePath(siteId)}/credentials`, { key: row.key, value: text }),
      `${row.label} is kept, encrypted`,
    )
    if (!answer) return
    setText('')
    void dispatch(loadCredentials(siteId))
  }
  const forget = async () => {
    await attempt(ask('DELETE', `${sitePath(siteId)}/credentials`, { key: row.key }), `${row.label} is forgotten`)
    void dispatch(loadCredentials(siteId))
  }
  const state = made
    ? 'made here for each controller'
    : row.stored
      ? `kept${row.stored.newerThanFlash ? ', newer than the last flash' : ''}${row.stored.usualPin ? ', a PIN that everybody tries' : ''}`
      : row.shownOnce
        ? 'shown a single time: keep it at once'
        : 'missing'
  return (
    <form
      className="grid grid-cols-[14rem_1fr_auto] items-start gap-3 border-b border-hair py-1.5"
      onSubmit={(event) => {
        event.preventDefault()
        if (text && !trouble) void keep()
      }}
    >
      <div>
        <p className="font-semibold">{row.label}</p>
        <p
          className={`text-small ${row.stored && !row.stored.newerThanFlash && !row.stored.usualPin ? 'text-rest' : 'text-warning'}`}
        >
          {row.stored ? '●' : '○'} {state}
        </p>
        <p className="text-small text-soft">goes into the {row.usedIn}</p>
      </div>
      {made ? (
        <span />
      ) : (
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
          {text !== '' && changes.length > 0 && (
            <p className="mt-0.5 text-small text-brass">
              Cleaned: {changes.join(', ')}
              {row.secret ? (
                ''
              ) : (
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
          {!trouble && text !== '' && row.shape === 'pin' && isDefaultPin(value) && (
            <p className="mt-0.5 text-small text-warning">Everybody tries this one first.</p>
          )}
        </div>
      )}
      {!made && (
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
      )}
    </form>
  )
}
