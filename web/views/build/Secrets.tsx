import { useCallback, useEffect, useState } from 'react'
import type { Controller } from '../../../core/site'
import { ask, sitePath } from '../../store/api'
import { attempt } from '../../store/editing'
import { useAppSelector } from '../../store/store'

interface Known {
  readonly owner: string
  readonly name: string
}

const TYPED = ['Wi-Fi name', 'Wi-Fi password'] as const

/** Typed once for the site, encrypted at the server, and never shown again; they leave only in the secrets file. */
export function Secrets({ controller }: { controller: Controller }) {
  const siteId = useAppSelector((state) => state.site.site!.id)
  const [known, setKnown] = useState<readonly Known[]>([])
  const load = useCallback(() => void attempt(ask<{ credentials: Known[] }>('GET', `${sitePath(siteId)}/credentials`)).then((answer) => answer && setKnown(answer.credentials)), [siteId])
  useEffect(load, [load])
  if (controller.link === 'none') return null
  const keep = async (name: string, secret: string) => {
    await attempt(ask('PUT', `${sitePath(siteId)}/credentials`, { owner: 'site', name, secret }), `${name} is kept, encrypted`)
    load()
  }
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
      {TYPED.map((name) => <SecretField key={name} name={name} stored={known.some((row) => row.owner === 'site' && row.name === name)} onKeep={(secret) => void keep(name, secret)} />)}
      <p className="mt-1.5 text-small text-soft">The broker’s password for {controller.name} has been made here.</p>
      <button type="button" className="press mt-1.5" onClick={() => void download()}>secrets.h, filled in</button>
    </section>
  )
}

function SecretField({ name, stored, onKeep }: { name: string; stored: boolean; onKeep: (secret: string) => void }) {
  const [text, setText] = useState('')
  return (
    <form
      className="mt-1.5 flex items-end gap-1.5"
      onSubmit={(event) => {
        event.preventDefault()
        if (text) onKeep(text)
        setText('')
      }}
    >
      <label className="min-w-0 flex-1">
        <span className="field-label">{name}{stored ? ', kept' : ''}</span>
        <input className="field" type="password" autoComplete="off" value={text} placeholder={stored ? '••••••' : ''} onChange={(event) => setText(event.target.value)} />
      </label>
      <button type="submit" className="press" disabled={!text}>Keep</button>
    </form>
  )
}
