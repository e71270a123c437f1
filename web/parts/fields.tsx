import { useId, useState, type ReactNode } from 'react'

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
      <label htmlFor={id} className="field-label">
        {label}
        {unit ? ` (${unit})` : ''}
      </label>
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

/** A text that is kept when the field is left or Enter is pressed; Escape brings the old text back. */
export function TextField({
  label,
  unit,
  hint,
  value,
  onKeep,
  check,
  mono,
}: Labelled & {
  value: string
  onKeep: (text: string) => void
  check?: (text: string) => string | null
  mono?: boolean
}) {
  const id = useId()
  const [draft, setDraft] = useState<string | null>(null)
  const text = draft ?? value
  const error = draft !== null && check ? check(draft) : null
  const keep = () => {
    if (draft === null || error) return
    if (draft.trim() !== value) onKeep(draft.trim())
    setDraft(null)
  }
  return (
    <Frame id={id} label={label} {...(unit ? { unit } : {})} {...(hint ? { hint } : {})} error={error}>
      <input
        id={id}
        className={`field ${mono ? 'font-mono' : ''}`}
        value={text}
        aria-invalid={error ? true : undefined}
        onChange={(event) => setDraft(event.target.value)}
        onBlur={keep}
        onKeyDown={(event) => {
          if (event.key === 'Enter') keep()
          if (event.key === 'Escape' && draft !== null) {
            setDraft(null)
            event.stopPropagation()
          }
        }}
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
}: Labelled & { value: number; onKeep: (value: number) => void; least: number; most: number }) {
  return (
    <TextField
      {...labelled}
      mono
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
    <label className="flex min-h-6 items-center gap-2">
      <input
        type="checkbox"
        className="size-4 accent-(--ink)"
        checked={value}
        onChange={(event) => onKeep(event.target.checked)}
      />
      {label}
    </label>
  )
}
