import { readFileSync } from 'node:fs'
import { provedByPlay } from '../core/broken/proof.testkit'
import { cleanSite } from '../core/findings/cleanSite.testkit'
import { readSite, type Site } from '../core/site'
import { largeSite } from './largeSite'

/**
 * Holds the model of failures against play: every single and every double failure, every question, on the pottery and
 * three other sites. `npm run prove [-- SITE [INDEX OF]]`: one site, or one share of its sets, for several cores.
 */
const demo = (name: string): Site => {
  const parsed = readSite(readFileSync(`demo/${name}.json`, 'utf8'))
  if (!parsed.ok) throw parsed.error
  return parsed.value
}
const SITES: Readonly<Record<string, () => Site>> = {
  board: () => cleanSite(),
  corner: () => demo('studio-corner'),
  hall: () => largeSite(2, 2),
  pottery: () => demo('fernhollow'),
}

const [only, index = '0', of = '1'] = process.argv.slice(2)
let wrongs = 0
for (const [name, site] of Object.entries(SITES)) {
  if (only !== undefined && only !== name) continue
  const start = performance.now()
  const { singles, doubles, answers, wrong } = provedByPlay(site(), null, [Number(index), Number(of)])
  const seconds = ((performance.now() - start) / 1_000).toFixed(0)
  console.log(
    `${name}: ${singles} single and ${doubles} double failures, ${answers} answers, ${wrong.length} not as played, ${seconds} s`,
  )
  for (const one of wrong.slice(0, 20)) console.log(`  ${one}`)
  wrongs += wrong.length
}
process.exitCode = wrongs > 0 ? 1 : 0
