// `npm start`: set up, build, serve. Words after `--` go to `vestibule serve`.
import { ensurePackages, ensurePages, run } from './ensure.mjs'

ensurePackages()
ensurePages()
process.exit(run(process.execPath, ['cli/vestibule.mjs', 'serve', ...process.argv.slice(2)]))
