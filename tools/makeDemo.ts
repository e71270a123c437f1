import { mkdirSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { demoCaptures } from './demoCaptures'
import { demoTraces } from './demoTraces'
import { beforeReview, fernhollow, studioCorner } from './demoSites'
import { siteJsonSchema, writeSite } from '../core/site'

/** Writes the demo sites and the published schema: `npm run demo`. */
const root = join(dirname(fileURLToPath(import.meta.url)), '..')
for (const site of [studioCorner(), beforeReview(), fernhollow()])
  writeFileSync(join(root, 'demo', `${site.id}.json`), writeSite(site))
writeFileSync(join(root, 'docs', 'site-5.schema.json'), `${JSON.stringify(siteJsonSchema(), null, 2)}\n`)

/**
 * A few captures of the throwing room's remote, and a rocker that bounces: made from what the site says, jittered by a
 * fixed seed.
 */
const captures = join(root, 'demo', 'captures')
mkdirSync(captures, { recursive: true })
for (const [name, text] of Object.entries(demoCaptures())) writeFileSync(join(captures, name), text)

const traces = join(root, 'demo', 'traces')
mkdirSync(traces, { recursive: true })
for (const [id, lines] of Object.entries(demoTraces()))
  writeFileSync(join(traces, `${id}.jsonl`), lines.map((line) => `${JSON.stringify(line)}\n`).join(''))
