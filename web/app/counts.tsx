import { useDeferredValue } from 'react'
import { SEVERITIES, type Severity } from '../../core/findings'
import { CountTag } from '../parts/FindingTag'
import { selectOpenFindings } from '../store/findings'
import { useAppSelector } from '../store/store'

/** How many are open of each severity, the gravest first. */
export function useCounts(): readonly (readonly [Severity, number])[] {
  const open = useDeferredValue(useAppSelector(selectOpenFindings))
  return SEVERITIES.map(
    (severity) => [severity, open.filter((finding) => finding.severity === severity).length] as const,
  ).filter(([, count]) => count > 0)
}

/** The same, to be heard. */
export const spokenCounts = (counts: readonly (readonly [Severity, number])[], unchecked: number): string =>
  [
    ...counts.map(([severity, count]) => `${count} ${severity}`),
    ...(unchecked > 0 ? [`${unchecked} not checked`] : []),
  ].join(', ') || 'none'

export function CountTags({
  counts,
  unchecked,
}: {
  counts: readonly (readonly [Severity, number])[]
  unchecked: number
}) {
  return (
    <>
      {counts.map(([severity, count]) => (
        <CountTag key={severity} severity={severity} count={count} />
      ))}
      {unchecked > 0 && (
        <span className="border-b-2 border-dotted border-soft font-mono text-note text-soft" title="not checked">
          ?{unchecked}
        </span>
      )}
      {counts.length === 0 && unchecked === 0 && <span className="text-rest">✓</span>}
    </>
  )
}
