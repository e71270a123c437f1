/** What the JSON of a state topic says (docs/behaviour.md, Topics). */
export interface StateSaid {
  /** the level; a door that is open, a shutter that moves or a pulse that runs count as 1 or 2 */
  readonly level: number
  /** a turn-on waits */
  readonly waiting: boolean
  readonly mode: string | null
  /** where the last change came from; null: it does not say */
  readonly source: string | null
  /** changes since power-up; null: it does not say */
  readonly seq: number | null
}

const WORDS: Readonly<Record<string, number>> = { open: 1, pulsing: 1, a: 1, b: 2 }

interface Raw {
  readonly on?: unknown
  readonly level?: unknown
  readonly state?: unknown
  readonly waiting?: unknown
  readonly mode?: unknown
  readonly source?: unknown
  readonly seq?: unknown
}

function levelIn({ on, level, state }: Raw): number | undefined {
  if (typeof level === 'number') return level
  if (typeof on === 'boolean') return on ? 1 : 0
  return typeof state === 'string' ? (WORDS[state] ?? 0) : undefined
}

/** Reads a state's payload; undefined: it is none. */
export function stateSaid(payload: string): StateSaid | undefined {
  let raw: Raw
  try {
    const value: unknown = JSON.parse(payload)
    if (typeof value !== 'object' || value === null) return undefined
    raw = value
  } catch {
    return undefined
  }
  const level = levelIn(raw)
  if (level === undefined) return undefined
  return {
    level,
    waiting: raw.waiting === true,
    mode: typeof raw.mode === 'string' ? raw.mode : null,
    source: typeof raw.source === 'string' ? raw.source : null,
    seq: typeof raw.seq === 'number' ? raw.seq : null,
  }
}

/** Where a change came from, as a person says it. */
export const SOURCE_WORDS = {
  power: 'at power-up',
  wall: 'by wall switch',
  remote: 'by remote',
  app: 'by phone',
  hub: 'by hub',
  nearby: 'by nearby command',
  serial: 'by serial command',
  service: 'by the app service',
  limit: 'by time limit',
  rule: 'by rule',
  schedule: 'by schedule',
  watch: 'by hub watch',
  contact: 'by position contact',
} as const satisfies Readonly<Record<string, string>>
