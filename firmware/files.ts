import { readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { BuildFile } from '../core/outputs'

const HERE = dirname(fileURLToPath(import.meta.url))
const FOLDERS = ['runtime', 'wires', 'ports/host', 'ports/avr', 'ports/board-core']

/** The fixed firmware that goes into builds, by its path under `firmware/`: the runtime and its ports. */
export const firmwareFiles = (): BuildFile[] =>
  FOLDERS.flatMap((folder) =>
    readdirSync(join(HERE, folder))
      .filter((name) => /\.(cpp|h|md|sh)$|^Makefile$/.test(name))
      .sort()
      .map((name) => ({ name: `${folder}/${name}`, text: readFileSync(join(HERE, folder, name), 'utf8') })),
  )
