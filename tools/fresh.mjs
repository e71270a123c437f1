// Whether what was built is newer than what it was built from.
import { existsSync, readdirSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const ROOT = join(dirname(fileURLToPath(import.meta.url)), '..')

const COMPILED = join(ROOT, 'firmware', 'out')

const timeOf = (path) => (existsSync(path) ? statSync(path).mtimeMs : 0)

const newestIn = (folder) =>
  Math.max(
    0,
    ...readdirSync(folder, { recursive: true, withFileTypes: true })
      // what is compiled for the host lands in firmware/out
      .filter((entry) => entry.isFile() && !entry.parentPath.startsWith(COMPILED))
      .map((entry) => statSync(join(entry.parentPath, entry.name)).mtimeMs),
  )

const isFresh = (built, folders, files) =>
  timeOf(join(ROOT, built)) >
  Math.max(...folders.map((folder) => newestIn(join(ROOT, folder))), ...files.map((file) => timeOf(join(ROOT, file))))

export const arePagesFresh = () => isFresh('dist/web/index.html', ['web', 'core'], ['package-lock.json'])

export const isProgramFresh = () =>
  isFresh('dist/program/main.mjs', ['core', 'firmware', 'server', 'cli'], ['package-lock.json', 'program.config.ts'])
