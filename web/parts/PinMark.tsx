import type { Mark } from '../../core/ways'

const WORDS: Record<Mark, string> = {
  full: 'reports back',
  half: 'never reports back',
  unknown: 'unknown whether it reports back',
  empty: 'no way yet',
}

/**
 * A filled pin speaks both ways, a half pin never reports back, a dashed one is not known, an empty socket is a way not
 * yet made.
 */
export function PinMark({ mark, size = 13 }: { mark: Mark; size?: number }) {
  return (
    <svg viewBox="0 0 14 14" width={size} height={size} role="img" aria-label={WORDS[mark]} className="shrink-0">
      <circle
        cx="7"
        cy="7"
        r="5.6"
        fill={mark === 'full' ? 'var(--brass-fill)' : 'var(--wall)'}
        stroke={mark === 'empty' ? 'var(--bus)' : 'var(--brass)'}
        strokeWidth="1.4"
        strokeDasharray={mark === 'unknown' ? '2.4 2' : undefined}
      />
      {mark === 'half' && (
        <path d="M7 1.4a5.6 5.6 0 0 0 0 11.2z" fill="var(--brass-fill)" stroke="var(--brass)" strokeWidth="1.2" />
      )}
    </svg>
  )
}
