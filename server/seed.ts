import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { readSite } from '../core/site'
import type { Context } from './context'
import { seedLogbook } from './seedLogbook'

/** Order in which the demo sites are shown; others follow by name. */
const FIRST = ['fernhollow.json', 'studio-corner.json', 'before-review.json']

/** Loads the demo sites into an empty store, with the logbook of the pottery. */
export function seedDemo(context: Context, folder: string): void {
  const files = readdirSync(folder)
    .filter((name) => FIRST.includes(name))
    .sort((a, b) => FIRST.indexOf(a) - FIRST.indexOf(b))
  for (const file of files) {
    const parsed = readSite(readFileSync(join(folder, file), 'utf8'))
    if (!parsed.ok) throw new Error(`demo/${file}: ${parsed.error.message}`)
    context.db.sites.create(parsed.value, context.now())
    if (file === 'fernhollow.json') seedLogbook(context, parsed.value)
  }
}
