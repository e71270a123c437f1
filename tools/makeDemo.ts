import { writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { beforeReview, fernhollow, studioCorner } from './demoSites'
import { siteJsonSchema, writeSite } from '../core/site'

/** Writes the demo sites and the published schema: `npm run demo`. */
const root = join(dirname(fileURLToPath(import.meta.url)), '..')
for (const site of [studioCorner(), beforeReview(), fernhollow()]) writeFileSync(join(root, 'demo', `${site.id}.json`), writeSite(site))
writeFileSync(join(root, 'docs', 'site-2.schema.json'), `${JSON.stringify(siteJsonSchema(), null, 2)}\n`)
