import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react'
import { toast } from 'sonner'
import { Help } from './Help'

interface Labelled {
  readonly label: string
  readonly unit?: string
  readonly hint?: string
}

function Frame({
  id,
  label,
  unit,
  hint,
  error,
  children,
}: Labelled & { id: string; error?: string | null | undefined; children: ReactNode }) {
  return (
    <div>
      <Help of={label}>
        <label htmlFor={id} className="field-label">
          {label}
          {unit ? ` (${unit})` : ''}
        </label>
      </Help>
      {children}
      {hint && !error && <p className="mt-0.5 text-small text-soft">{hint}</p>}
      {error && (
        <p className="mt-0.5 text-small text-error" role="alert">
          {error}
        </p>
      )}
    </div>
  )
}

interface Kept {
  readonly label: string
  readonly value: string
  /** false: what the field belongs to is not there any more */
  readonly onKeep: (text: string) => unknown
  readonly check?: (text: string) => string | null
}

/** A text on its way, and what stood there when the hand came to it. */
interface Draft {
  readonly text: string
  readonly over: string
}

/** What was typed cannot be kept where it was meant to be; it is not lost without a word. */
const notKept = (label: string, text: string, why: string) =>
  toast.error(`${label}: not saved, ${why}. You typed “${text}”.`, { duration: Infinity, closeButton: true })

/**
 * A text on its way: nothing of it is kept while it has an error, and nobody pulls it out of the hand. A field that
 * goes away keeps what is in it, or says what it was.
 */
function useKept({ label, value, onKeep, check }: Kept) {
  const [draft, setDraft] = useState<Draft | null>(null)
  const error = draft !== null && check ? check(draft.text) : null
  const keep = () => {
    if (draft === null || error) return
    const text = draft.text.trim()
    if (text !== value && onKeep(text) === false) notKept(label, text, 'what it belonged to was deleted')
    setDraft(null)
  }
  const leave = () => {
    if (draft !== null && error) notKept(label, draft.text, error)
    else keep()
  }
  const latest = useRef(leave)
  useEffect(() => {
    latest.current = leave
  })
  useEffect(() => () => latest.current(), [])
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.key === 'Enter') keep()
    if (event.key === 'Escape' && draft !== null) {
      setDraft(null)
      event.stopPropagation()
    }
  }
  const type = (text: string) => setDraft((before) => ({ text, over: before?.over ?? value }))
  const meanwhile =
    draft !== null && draft.over !== value && draft.text !== value
      ? `changed meanwhile to “${value}”: Enter saves yours, Escape discards it`
      : null
  return { text: draft?.text ?? value, error, meanwhile, type, keep, onKeyDown }
}

/** A text that is kept when the field is left or Enter is pressed; Escape brings the old text back. */
export function TextField({
  label,
  unit,
  hint,
  mono,
  numeric,
  ...kept
}: Labelled & Kept & { mono?: boolean; numeric?: boolean }) {
  const id = useId()
  const { text, error, meanwhile, type, keep, onKeyDown } = useKept({ label, ...kept })
  return (
    <Frame id={id} label={label} {...(unit ? { unit } : {})} {...(hint ? { hint } : {})} error={error ?? meanwhile}>
      <input
        id={id}
        className={`field ${mono ? 'font-mono' : ''}`}
        inputMode={numeric ? 'numeric' : undefined}
        value={text}
        aria-invalid={error ? true : undefined}
        onChange={(event) => type(event.target.value)}
        onBlur={keep}
        onKeyDown={onKeyDown}
      />
    </Frame>
  )
}

/** A whole number within bounds, kept like a text. */
export function NumberField({
  value,
  onKeep,
  least,
  most,
  ...labelled
}: Labelled & { value: number; onKeep: (value: number) => unknown; least: number; most: number }) {
  return (
    <TextField
      {...labelled}
      mono
      numeric
      value={String(value)}
      check={(text) =>
        /^-?\d+$/.test(text.trim()) && Number(text) >= least && Number(text) <= most
          ? null
          : `a whole number from ${least} to ${most}`
      }
      onKeep={(text) => onKeep(Number(text))}
    />
  )
}

export function ChoiceField<T extends string>({
  label,
  unit,
  hint,
  value,
  choices,
  onKeep,
}: Labelled & { value: T; choices: readonly (readonly [T, string])[]; onKeep: (value: T) => void }) {
  const id = useId()
  return (
    <Frame id={id} label={label} {...(unit ? { unit } : {})} {...(hint ? { hint } : {})}>
      <select id={id} className="field" value={value} onChange={(event) => onKeep(event.target.value as T)}>
        {choices.map(([choice, name]) => (
          <option key={choice} value={choice}>
            {name}
          </option>
        ))}
      </select>
    </Frame>
  )
}

export function TickField({
  label,
  value,
  onKeep,
}: {
  label: string
  value: boolean
  onKeep: (value: boolean) => void
}) {
  return (
    <Help of={label}>
      <label className="flex min-h-6 items-center gap-2">
        <input
          type="checkbox"
          className="size-4 shrink-0 accent-(--ink)"
          checked={value}
          onChange={(event) => onKeep(event.target.checked)}
        />
        {label}
      </label>
    </Help>
  )
}
