import { writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { beforeReview, fernhollow, studioCorner } from './demoSites'
import { writeSite } from '../core/site'

/** Writes the demo sites: `npx tsx tools/makeDemo.ts`. */
const folder = join(dirname(fileURLToPath(import.meta.url)), '..', 'demo')
for (const site of [studioCorner(), beforeReview(), fernhollow()]) writeFileSync(join(folder, `${site.id}.json`), writeSite(site))
