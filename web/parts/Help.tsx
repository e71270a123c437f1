import { useId, useState, type ReactNode } from 'react'
import { helpFor } from './help'

/**
 * A label, with a press beside it where its term has a line of help; the line opens below it, in place, so that it can
 * be read while the field is filled in.
 */
export function Help({ of, children }: { of: string; children: ReactNode }) {
  const help = helpFor(of)
  const [open, setOpen] = useState(false)
  const id = useId()
  if (help === undefined) return children
  return (
    <>
      <span className="flex items-center gap-1">
        {children}
        <button
          type="button"
          // the keyboard opens it by F1 in the field, so that it costs no stop on the way through a form
          tabIndex={-1}
          data-help
          title="Help (F1 in the field)"
          className="-my-1 flex size-6 shrink-0 items-center justify-center text-small text-soft hover:text-ink"
          aria-expanded={open}
          aria-controls={id}
          aria-label={`Help: ${of}`}
          onClick={() => setOpen(!open)}
        >
          <span aria-hidden="true" className="flex size-4 items-center justify-center rounded-full border border-bus">
            ?
          </span>
        </button>
      </span>
      {open && (
        <span id={id} role="note" className="mb-1 block border-l-2 border-brass-fill pl-2 text-small text-ink">
          {help}
        </span>
      )}
    </>
  )
}
