/** One thing that was tried in the simulated house, and what became of it. */
export interface AcceptanceItem {
  /** that of the same item of the test list for the real board, where it has one (outputs/testRun.ts) */
  readonly key: string
  readonly group: 'way' | 'power' | 'outage' | 'winner' | 'group' | 'limit' | 'never'
  readonly controller: string
  readonly channel: string | null
  readonly way: string | null
  /** what was done, as a sentence */
  readonly action: string
  readonly expected: string
  readonly result: 'passed' | 'failed' | 'skipped'
  /** why it failed, or was not tried */
  readonly note: string
  /** when it was done in the run, ms; to go there */
  readonly t: number
  /** from the hand to the load, and to the last screen, ms; null: not measured */
  readonly toLoadMs: number | null
  readonly toScreensMs: number | null
}

export interface AcceptanceReport {
  readonly site: string
  /** hash of the tables of each controller that it was run with, by controller */
  readonly tables: Readonly<Record<string, string>>
  readonly seed: number
  readonly items: readonly AcceptanceItem[]
  /** how long the run is, ms of the house */
  readonly lastsMs: number
}
