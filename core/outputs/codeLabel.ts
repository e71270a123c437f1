/** Dark modules of a code, row by row. */
export interface Code {
  readonly size: number
  readonly isDark: (row: number, column: number) => boolean
}

const escape = (text: string): string =>
  text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c]!)

/** The quiet zone around a code, modules (ISO/IEC 18004, 9.1). */
const QUIET = 4
/** 70 × 40 mm, a usual label. */
const WIDE = 70
const HIGH = 40

/** What is beside the code, mm, and the letters of the usual size that find room there. */
const WORDS_WIDE = WIDE - HIGH - 3
const MOST_LETTERS = 19
const MOST_BOLD = 16

/** A line in as many as it needs; a word that is too long for one stands alone, a figure with its unit. */
export function wrapped(line: string, most: number): string[] {
  const rows: string[] = []
  for (const word of line.split(/(?<!\d) | (?![A-ZΩ]{1,2}\b)/)) {
    const last = rows.at(-1)
    if (last !== undefined && last.length + 1 + word.length <= most) rows[rows.length - 1] = `${last} ${word}`
    else rows.push(word)
  }
  return rows
}

/** A label as SVG in millimetres: the code at the left, the words beside it, the first of them bold. */
export function codeLabel(name: string, words: readonly string[], code: Code): string {
  const module = (HIGH - 4) / (code.size + 2 * QUIET)
  const darks: string[] = []
  for (let row = 0; row < code.size; row++)
    for (let column = 0; column < code.size; column++)
      if (code.isDark(row, column)) darks.push(`M${column + QUIET} ${row + QUIET}h1v1h-1z`)
  const rows = words.flatMap((line, at) => wrapped(line, MOST_LETTERS).map((text) => ({ text, bold: at === 0 })))
  const step = Math.min(4, (HIGH - 6) / rows.length)
  const lines = rows.map(
    ({ text, bold }, at) =>
      `<text x="${HIGH + 1}" y="${(6 + at * step).toFixed(2)}" font-size="2.6"${bold ? ' font-weight="700"' : ''}` +
      `${text.length > (bold ? MOST_BOLD : MOST_LETTERS) ? ` textLength="${WORDS_WIDE}" lengthAdjust="spacingAndGlyphs"` : ''}>${escape(text)}</text>`,
  )
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDE}mm" height="${HIGH}mm" viewBox="0 0 ${WIDE} ${HIGH}" ` +
    `font-family="sans-serif" role="img" aria-label="${escape(name)}">` +
    // the line to cut along
    `<rect width="${WIDE}" height="${HIGH}" fill="#fff" stroke="#000" stroke-width="0.2"/><g transform="translate(2 2) scale(${module.toFixed(5)})">` +
    `<path d="${darks.join('')}"/></g>${lines.join('')}</svg>\n`
  )
}
