import { join, relative, sep } from 'node:path'
import { defineConfig, type Plugin } from 'vite'

const ROOT = import.meta.dirname
const OUT = join(ROOT, 'dist', 'program')

/** Sources find their files (migrations, firmware, the demo) beside themselves: the bundle, where its sources are. */
const besideItsSource: Plugin = {
  name: 'beside-its-source',
  transform(code, id) {
    if (!id.startsWith(ROOT + sep) || id.includes('node_modules') || !code.includes('import.meta.url')) return null
    const source = relative(OUT, id).split(sep).join('/')
    return { code: code.replaceAll('import.meta.url', `new URL('${source}', import.meta.url).href`), map: null }
  },
}

// The program in few files, which starts in half of the time that its sources take. `cli/vestibule.mjs` runs it
// while no source is newer.
export default defineConfig({
  plugins: [besideItsSource],
  build: {
    ssr: 'cli/main.ts',
    outDir: OUT,
    emptyOutDir: true,
    target: 'node20',
    minify: false,
    rollupOptions: { output: { entryFileNames: 'main.mjs', chunkFileNames: '[name]-[hash].mjs' } },
  },
})
