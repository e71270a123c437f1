/**
 * The version of the document's shape. Older ones are brought up to it (migrate.ts), newer ones are refused, never
 * guessed at.
 */
export const SITE_VERSION = 5

/**
 * Longest time a deadline may lie ahead: a quarter of the 32-bit millisecond range, so that comparisons survive its
 * wrap.
 */
export const LONGEST_MS = 2 ** 30
/** Longest name that a person gives, characters. */
export const LONGEST_NAME = 60
