import type { Finding, Severity } from '../../core/findings'

/**
 * Severity by shape as well as by colour: underline = note, rounded outline = warning, square outline = error, filled =
 * danger.
 */
const SHAPES: Record<Severity, string> = {
  note: 'border-b-2 border-soft text-soft',
  warning: 'rounded-full border-[1.5px] border-warning text-warning px-1.5',
  error: 'border-[1.5px] border-error text-error px-1',
  danger: 'border-[1.5px] border-error bg-error text-panel px-1',
}

export function FindingTag({ id, severity }: { id: string; severity: Severity }) {
  return (
    <span className={`inline-block font-mono text-[0.6875rem] leading-4 font-semibold ${SHAPES[severity]}`}>
      <span className="sr-only">{severity} </span>
      {id}
    </span>
  )
}

/** How many findings there are of a severity, in the same shape as their tags. */
export function CountTag({ severity, count }: { severity: Severity; count: number }) {
  return (
    <span
      className={`inline-block min-w-6 text-center font-mono text-note leading-5 font-semibold ${SHAPES[severity]}`}
    >
      {count}
    </span>
  )
}

/** The tags of several findings; nothing where there are none. */
export function FindingTags({ findings }: { findings: readonly Finding[] }) {
  if (findings.length === 0) return null
  return (
    <span className="mt-0.5 flex flex-wrap gap-1">
      {findings.map((finding) => (
        <FindingTag key={finding.id + finding.what} id={finding.id} severity={finding.severity} />
      ))}
    </span>
  )
}
