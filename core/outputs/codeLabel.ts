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

/** A label as SVG in millimetres: the code at the left, the words beside it, the first of them bold. */
export function codeLabel(name: string, words: readonly string[], code: Code): string {
  const module = (HIGH - 4) / (code.size + 2 * QUIET)
  const darks: string[] = []
  for (let row = 0; row < code.size; row++)
    for (let column = 0; column < code.size; column++)
      if (code.isDark(row, column)) darks.push(`M${column + QUIET} ${row + QUIET}h1v1h-1z`)
  const lines = words.map(
    (line, at) =>
      `<text x="42" y="${7 + at * 5}" font-size="${at === 0 ? 3.2 : 2.8}"${at === 0 ? ' font-weight="700"' : ''} ` +
      `textLength="${Math.min(WIDE - 44, line.length * 1.5).toFixed(1)}" lengthAdjust="spacingAndGlyphs">${escape(line)}</text>`,
  )
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDE}mm" height="${HIGH}mm" viewBox="0 0 ${WIDE} ${HIGH}" ` +
    `font-family="sans-serif" role="img" aria-label="${escape(name)}">` +
    `<rect width="${WIDE}" height="${HIGH}" fill="#fff"/><g transform="translate(2 2) scale(${module.toFixed(5)})">` +
    `<path d="${darks.join('')}"/></g>${lines.join('')}</svg>\n`
  )
}
