/**
 * Slows whoever guesses: after a few wrong passphrases or passwords an address has to wait, twice as long each time.
 * The same for requests and for the broker, so that neither is the faster door.
 */

/** Mistakes that cost nothing: people mistype. */
const FREE = 5
const FIRST_MS = 1_000
const LONGEST_MS = 60_000
/** An address that was quiet for so long begins anew, ms. */
const FORGOTTEN_MS = 600_000
/** More addresses than these are not remembered: the oldest goes. */
const MOST = 10_000

interface Row {
  readonly failures: number
  readonly at: number
}

export class Slowed {
  private readonly rows = new Map<string, Row>()

  /** `now` in ms, of a clock that is never set back. */
  constructor(private readonly now: () => number = () => performance.now()) {}

  /** How long an address must still wait, ms; 0: it may try. */
  waitMs(address: string): number {
    const row = this.rows.get(address)
    if (!row || row.failures < FREE) return 0
    const wait = Math.min(LONGEST_MS, FIRST_MS * 2 ** Math.min(row.failures - FREE, 16))
    return Math.max(0, row.at + wait - this.now())
  }

  failed(address: string): void {
    const at = this.now()
    const row = this.rows.get(address)
    const failures = row && at - row.at < FORGOTTEN_MS ? row.failures + 1 : 1
    this.rows.delete(address)
    this.rows.set(address, { failures, at })
    if (this.rows.size > MOST) this.rows.delete(this.rows.keys().next().value!)
  }

  succeeded(address: string): void {
    this.rows.delete(address)
  }
}
