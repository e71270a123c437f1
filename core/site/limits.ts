/** The version of the document's shape. A file with another version is refused, never guessed at. */
export const SITE_VERSION = 1

/** Longest time a deadline may lie ahead: a quarter of the 32-bit millisecond range, so that comparisons survive its wrap. */
export const LONGEST_MS = 2 ** 30
