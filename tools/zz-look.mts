import { chromium } from '../node_modules/playwright-core/index.mjs'
import { startServer } from '../server/index.ts'
import { TEST_OPTIONS } from '../server/server.testkit.ts'
import { mkdtempSync } from 'node:fs'
const server = await startServer({ ...TEST_OPTIONS, dataFolder: mkdtempSync('/tmp/look-'), seed: true } as never)
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const [out, path, theme, ...steps] = process.argv.slice(2)
const p = await b.newPage({ viewport: { width: 1280, height: 800 }, colorScheme: theme as 'dark' })
await p.goto(server.url + path)
await p.waitForLoadState('networkidle')
for (const step of steps) {
  if (step.startsWith('scroll:')) { await p.locator(step.slice(7)).first().scrollIntoViewIfNeeded(); continue }
  if (step.startsWith('select:')) { const [l, v] = step.slice(7).split('='); await p.getByLabel(l!, { exact: true }).first().selectOption({ label: v! }); continue }
  await p.getByRole('button', { name: new RegExp(step) }).first().click()
}
await p.waitForTimeout(700)
await p.screenshot({ path: out! })
await b.close()
await server.close()
process.exit(0)
