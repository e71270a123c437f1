// `npm run format`: writes the layout that lint checks (.prettierrc.json, .clang-format).
import { ensurePackages, run } from './ensure.mjs'
import { sourcesInC } from './sources.mjs'

const { compiled } = await ensurePackages()
await compiled
const typescript = run('npx', [
  '--no-install',
  'prettier',
  '--write',
  '--log-level',
  'warn',
  '**/*.{ts,tsx,mjs,js,cjs,css}',
])
const cpp = run('npx', ['--no-install', 'clang-format', '-i', ...sourcesInC()])
process.exit(typescript || cpp)
