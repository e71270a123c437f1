import { z } from 'zod'
import { LONGEST_NAME } from './limits'

/** Control characters, line ends, and what turns the direction of writing. */
const NO_WRITING = /[\p{Cc}\u2028\u2029\u202a-\u202e\u2066-\u2069]+/gu

/**
 * A name that a person reads. It stands on drawings, in sheets and in terminals: what is no writing becomes a blank, as
 * blanks around it are taken off, so that no document is refused for it.
 */
export const name = z
  .string()
  .overwrite((text) => text.replace(NO_WRITING, ' '))
  .trim()
  .min(1, 'a name is needed')
  .max(LONGEST_NAME, `at most ${LONGEST_NAME} characters`)
export const milliseconds = (least: number, most: number) => z.int().min(least).max(most)
