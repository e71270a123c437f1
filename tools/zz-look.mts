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
await p.setViewportSize({width:1280,height:800})
await ask('POST','/api/sites/fernhollow/log',{kind:'note',controller:'glaze',text:'the booth extractor hums'})
const log=await ask('GET','/api/sites/fernhollow/log')
await ask('POST','/api/sites/fernhollow/log',{kind:'fault',controller:'glaze',text:'it is the sink heater’s relay that hums',corrects:log.entries[0].id,part:'contact:sink-heater.0'})
for (const [n,u] of [['k1','/fernhollow/handover?side=leaving'],['k2','/fernhollow/logbook'],['k3','/fernhollow/logbook?side=upkeep'],['k4','/fernhollow/handover?side=boards'],['k5','/fernhollow/paper?side=labels']] as const) { await p.goto(s.url+u); await p.waitForTimeout(1200); await p.screenshot({path:`/tmp/${n}.png`}) }
await b.close()
await s.close()
process.exit(0)
