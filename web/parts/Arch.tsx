/** The arch: an entrance with somebody in it. */
export const Arch = ({ size = 28 }: { size?: number }) => (
  <svg viewBox="0 0 26 30" width={(size * 24) / 28} height={size} className="shrink-0" aria-hidden="true">
    <path d="M2.5 29V12.5a10.5 10.5 0 0 1 21 0V29" fill="none" stroke="currentColor" strokeWidth="2.4" />
    <circle cx="13" cy="20" r="2.6" fill="var(--brass-fill)" />
  </svg>
)
