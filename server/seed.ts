import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { readSite, type Site } from '../core/site'
import type { Context } from './context'
import { seedLogbook } from './seedLogbook'

/** A site that ships as an example; one that cannot be read is a fault of the program. */
export function exampleSite({ examples }: Pick<Context, 'examples'>, name: string): Site {
  const parsed = readSite(readFileSync(join(examples, `${name}.json`), 'utf8'))
  if (!parsed.ok) throw new Error(`demo/${name}.json: ${parsed.error.message}`)
  return parsed.value
}

/** The demo sites, in the order in which they are shown. */
const DEMO = ['fernhollow', 'studio-corner', 'before-review']

/** Loads the demo sites into an empty store, with the logbook of the pottery. */
export function seedDemo(context: Context): void {
  for (const name of DEMO) {
    const site = exampleSite(context, name)
    context.db.sites.create(site, context.now())
    if (name === 'fernhollow') seedLogbook(context, site)
  }
}
