import type { Text } from '../wires'
import { macroFor } from './macros'

/** Length of texts for the compiler, bytes: what only secrets.h knows is measured there. */
export const lengthOf = (...texts: readonly Text[]): string => {
  const parts = texts.flat()
  const known = parts.reduce(
    (sum, part) => sum + (typeof part === 'string' ? new TextEncoder().encode(part).length : 0),
    0,
  )
  const unknown = parts.flatMap((part) => (typeof part === 'string' ? [] : [`sizeof ${macroFor(part.secret)}`]))
  return [String(known), ...unknown].join(' + ')
}

/** The greatest of some lengths, by the header's own `larger`. */
export const largest = (lengths: readonly string[]): string =>
  lengths.reduce((sum, length) => (sum === length ? sum : `larger(${sum}, ${length})`), '0')

export const LARGER = 'constexpr size_t larger(size_t a, size_t b) { return a > b ? a : b; }'

/** A value as text (wires.h, LONGEST_VALUE), and a signature behind its blank. */
export const VALUE_BYTES = 24
export const SIGNATURE_BYTES = 65
