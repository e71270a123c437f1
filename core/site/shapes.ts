import { z } from 'zod'

/** A name that a person reads. */
export const name = z.string().trim().min(1, 'a name is needed').max(60, 'at most 60 characters')
export const milliseconds = (least: number, most: number) => z.int().min(least).max(most)
