// `npm run kills -- [KILLS] [SEED]`: kills the server under mixed writing, and looks each time that nothing is lost.
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { killed } from '../server/writers.testkit'

const [kills = '500', seed = '1'] = process.argv.slice(2)
const data = mkdtempSync(join(tmpdir(), 'vestibule-kills-'))
const book = await killed(data, Number(kills), Number(seed), (line) => console.log(line))
console.log(`${kills} kills, nothing lost: ${JSON.stringify(book)}`)
rmSync(data, { recursive: true, force: true })
