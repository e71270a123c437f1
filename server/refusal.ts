/** A request that is refused: one clear line, with a code that programs can rely on. */
export class Refusal extends Error {
  readonly status: number
  readonly code: string
  constructor(status: number, code: string, message: string) {
    super(message)
    this.status = status
    this.code = code
  }
}

export const notFound = (what: string): Refusal => new Refusal(404, 'not-found', `${what} is not here`)

/** What the disk says to a store that cannot write (SQLite result codes), and what to do about it. */
const TROUBLES: Record<string, string> = {
  SQLITE_FULL: 'the disk is full: free some room',
  SQLITE_BUSY: 'another program holds the store: close it',
  SQLITE_LOCKED: 'another program holds the store: close it',
  SQLITE_READONLY: 'the store may not be written: give this program the right to',
  SQLITE_IOERR: 'the disk does not write: look after it, and copy the data folder elsewhere',
  SQLITE_CORRUPT: 'the store is damaged: stop, and bring a backup back',
}

/** A store that could not keep something, in one line; undefined: the error is none of its. */
export function storeTrouble(error: unknown): Refusal | undefined {
  if (!(error instanceof Error) || !('code' in error)) return undefined
  const code = String(error.code)
  const words = Object.entries(TROUBLES).find(([known]) => code.startsWith(known))?.[1]
  return words === undefined ? undefined : new Refusal(503, 'not-kept', `not saved: ${words}, then do it again`)
}
