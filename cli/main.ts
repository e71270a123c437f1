import { readFileSync } from 'node:fs'
import { answerTo } from './answer'

const { exit, out, err } = await answerTo(process.argv.slice(2), () => readFileSync(0, 'utf8'))
process.exitCode = exit
process.stdout.write(out)
process.stderr.write(err)
