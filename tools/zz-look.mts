import { chromium } from '@playwright/test'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { startServer } from '../server'
const s = await startServer({
  dataFolder: mkdtempSync(join(tmpdir(), 'vest-')),
  port: 0,
  host: '127.0.0.1',
  brokerPort: 0,
  doorPort: 0,
  brokerHost: null,
  tls: null,
  names: [],
  brokerUrl: null,
  passphrase: null,
  seed: true,
  quiet: true,
})
const b = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
const theme = process.argv[2] ?? 'light'
const p = await b.newPage({ viewport: { width: 390, height: 844 } })
await p.addInitScript((t) => {
  localStorage.setItem('vestibule-theme', t as string)
  localStorage.setItem('vestibule-walk', 'seen')
}, theme)
const ask = async (m: string, path: string, body?: unknown) =>
  (
    await fetch(s.url + path, {
      method: m,
      headers: { 'Content-Type': 'application/json' },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
  ).json() as any
for (const key of ['app/board-pattern', 'app/board-key/corner'])
  await ask('PUT', '/api/sites/studio-corner/credentials', { key, value: `${key.slice(4, 13)}-0123456789` })
await ask('PUT', '/api/sites/studio-corner/rig', { on: true })
const { id } = await ask('POST', '/api/sites/studio-corner/test-runs', { controller: 'corner' })
for (let i = 0; i < 200; i++) {
  const r = await ask('GET', '/api/sites/studio-corner/boards')
  if (r.boards[0].state === 'online') break
  await new Promise((r) => setTimeout(r, 200))
}
await new Promise((r) => setTimeout(r, 800))
await p.goto(`${s.url}/studio-corner/handover?run=${id}`)
await p.getByTestId('tested').waitFor()
await p.waitForTimeout(800)
await p.screenshot({ path: '/tmp/h1.png' })
const pin = async (level: number) => {
  await ask('POST', '/api/sites/studio-corner/rig/corner/events', { pin: 's1', level })
  await new Promise((r) => setTimeout(r, 120))
}
await pin(0)
await pin(1)
await p.waitForTimeout(600)
await p.screenshot({ path: '/tmp/h2.png' })
await p.waitForTimeout(400)
await pin(0)
await pin(1)
await p.waitForTimeout(700)
await p.screenshot({ path: '/tmp/h3.png' })
await p.setViewportSize({ width: 1280, height: 800 })
await p.waitForTimeout(300)
await p.screenshot({ path: '/tmp/h4.png' })
await p.goto(`${s.url}/studio-corner/handover?side=boards`)
await p.waitForTimeout(900)
await p.screenshot({ path: '/tmp/h5.png' })
await p.goto(`${s.url}/fernhollow/handover`)
await p.waitForTimeout(900)
await p.screenshot({ path: '/tmp/h6.png' })
await b.close()
await s.close()
process.exit(0)
