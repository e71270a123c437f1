import { current, isDraft } from 'immer'

/**
 * A copy of a part of the document that shares nothing with it. Works on a draft too, which `structuredClone` refuses:
 * what
 * stands in a site is JSON.
 */
export const plainCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

/** A draft as plain data, as it stands now; what is no draft is given back as it is. */
export const asItStands = <T>(value: T): T => (isDraft(value) ? (current(value as object) as T) : value)
