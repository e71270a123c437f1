import { readdirSync } from 'node:fs'
import { join } from 'node:path'

/** The firmware's sources and those of its tests, from the root of the repository. */
export const sourcesInC = () =>
  readdirSync('firmware', { recursive: true })
    .filter((name) => /\.(cpp|h)$/.test(name) && !name.startsWith('out'))
    .map((name) => join('firmware', name))
