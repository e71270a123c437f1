const LONGEST_LIST = 40

/** The last lines of what a stand-in saw, with their instants. */
export class Notes {
  private readonly lines: { at: string; text: string }[] = []

  constructor(
    private readonly now: () => Date,
    /** something is new */
    private readonly tell: () => void,
  ) {}

  add(text: string): void {
    this.lines.push({ at: this.now().toISOString(), text })
    if (this.lines.length > LONGEST_LIST) this.lines.splice(0, this.lines.length - LONGEST_LIST)
    this.tell()
  }

  all(): { at: string; text: string }[] {
    return [...this.lines]
  }
}
