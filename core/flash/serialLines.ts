/** Characters of a serial port as lines; what has no end yet waits, and control characters are left out. */
export class SerialLines {
  private rest = ''

  /** Lines that are whole now. */
  take(text: string): string[] {
    const parts = (this.rest + text).split(/\r?\n/)
    // a port at another speed sends no ends of lines: what is too long is a line of its own
    this.rest = parts.pop()!.slice(-400)
    return parts
      .map((line) => line.replace(/[\u0000-\u0008\u000b-\u001f\u007f]/g, ''))
      .filter((line) => line.trim() !== '')
  }
}

/** The hash of the tables that a board says it runs, in a line of its log; null: the line says something else. */
export const tablesIn = (line: string): string | null => /\btables ([0-9a-f]{12})\b/.exec(line)?.[1] ?? null
