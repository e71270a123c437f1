import { cautionsFor } from './cautions'
import type { Controller, Site } from '../site'
import type { CredentialNeed } from '../services'

/**
 * A label that is stuck to a controller: what pairs it, as words and as a code to scan. It opens the controller to
 * whoever reads it, so that it is kept with the care of the credential itself.
 */

/** What pairs a controller: its credentials that are PINs or pairing codes, with their values. */
export interface Pairing {
  readonly need: CredentialNeed
  readonly value: string
}

/**
 * What the code holds (docs/formats.md, "Pairing label"): a URI of our own scheme (RFC 3986, 3), each part
 * percent-encoded, so that any reader shows it as text.
 */
export function pairingPayload(site: Site, controller: Controller, pairings: readonly Pairing[]): string {
  const pairs = pairings.map(({ need, value }) => [need.key.split('/')[1]!, value] as const)
  const parts = [['site', site.id as string] as const, ['board', controller.id as string] as const, ...pairs]
  return `vestibule:pair?${parts.map(([name, value]) => `${name}=${encodeURIComponent(value)}`).join('&')}`
}

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

/** The label as SVG in millimetres: the code at the left, the words beside it. */
export function pairingLabel(site: Site, controller: Controller, pairings: readonly Pairing[], code: Code): string {
  const module = (HIGH - 4) / (code.size + 2 * QUIET)
  const darks: string[] = []
  for (let row = 0; row < code.size; row++)
    for (let column = 0; column < code.size; column++)
      if (code.isDark(row, column)) darks.push(`M${column + QUIET} ${row + QUIET}h1v1h-1z`)
  const words = [
    `${site.name}: ${controller.name}`,
    ...pairings.map(({ need, value }) => `${need.label.split(':')[0]!}: ${value}`),
    'Keep it as you keep keys.',
    ...(cautionsFor(site, controller.id).length ? ['Mains inside: supply off before you open.'] : []),
  ]
  const lines = words.map(
    (line, at) =>
      `<text x="42" y="${7 + at * 5}" font-size="${at === 0 ? 3.2 : 2.8}"${at === 0 ? ' font-weight="700"' : ''} ` +
      `textLength="${Math.min(WIDE - 44, line.length * 1.5).toFixed(1)}" lengthAdjust="spacingAndGlyphs">${escape(line)}</text>`,
  )
  return (
    `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDE}mm" height="${HIGH}mm" viewBox="0 0 ${WIDE} ${HIGH}" ` +
    `font-family="sans-serif" role="img" aria-label="${escape(`Pairing label of ${controller.name}`)}">` +
    `<rect width="${WIDE}" height="${HIGH}" fill="#fff"/><g transform="translate(2 2) scale(${module.toFixed(5)})">` +
    `<path d="${darks.join('')}"/></g>${lines.join('')}</svg>\n`
  )
}
