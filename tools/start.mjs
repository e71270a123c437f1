// `npm start`: set up, build, serve. Words after `--` go to `vestibule serve`.
import { ensurePackages, ensurePages, run } from './ensure.mjs'

const { compiled } = await ensurePackages()
// the pages are built while the store is compiled
ensurePages()
await compiled
process.exit(run(process.execPath, ['cli/vestibule.mjs', 'serve', ...process.argv.slice(2)]))
