import { mkdtempSync, readFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { chromium, type Page } from '@playwright/test'
import { BROWSER } from '../e2e/browser'
import { encodeFrame, encodeRepeat, writeRawList } from '../core/infrared'
import { startServer } from '../server'

/**
 * Takes one PNG of each main view on the demo, 1280x800, some as on a phone:
 * `npm run pictures -- [FOLDER] [name …] [--dark|--light]`.
 * Without a folder those that the README shows go to docs/screenshots.
 */
const words = process.argv.slice(2).filter((word) => !word.startsWith('--'))
const [folder = 'docs/screenshots', ...only] = words
const themeOfAll = (['dark', 'light'] as const).find((theme) => process.argv.includes(`--${theme}`))
const readme = readFileSync('README.md', 'utf8')
const wanted = (name: string): boolean =>
  words.length === 0 ? readme.includes(`screenshots/${name}.png`) : only.length === 0 || only.includes(name)
const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

/** A test run of the glaze board with its first tests answered, as it is at the box. */
async function begunRun(page: Page): Promise<void> {
  await page.getByRole('group', { name: 'Start test run' }).getByRole('button', { name: 'Glaze' }).click()
  await page.getByTestId('tested').waitFor()
  for (const key of ['y', 'y', 'n', 'y', 'y', 'y']) {
    await page.keyboard.press(key)
    await pause(250)
  }
}

/** The small site's board on the network, and the first test of its run heard; the eye is asked. */
async function heardRun(page: Page): Promise<void> {
  const sent = [
    ...['app/board-pattern', 'app/board-key/corner'].map((key) => ({
      path: 'credentials',
      body: { key, value: `${key.slice(4, 13)}-0123456789` } as object,
    })),
    { path: 'rig', body: { on: true } },
  ]
  for (const { path, body } of sent)
    await page.evaluate(
      ([to, text]) =>
        fetch(`/api/sites/studio-corner/${to}`, {
          method: 'PUT',
          headers: { 'Content-Type': 'application/json' },
          body: text!,
        }),
      [path, JSON.stringify(body)],
    )
  await page.goto(page.url().replace(/$/, '?side=boards'))
  await page.locator('[data-state="online"]').waitFor({ timeout: 60_000 })
  await page.getByRole('button', { name: 'Test runs' }).click()
  await page.getByRole('button', { name: 'Start test run of Corner' }).click()
  await page.getByRole('region', { name: 'Heard from the board' }).waitFor()
  for (let press = 0; press < 2; press++) await pressS1(page)
}

/** A finger at the switch of the small site. */
async function pressS1(page: Page): Promise<void> {
  for (const level of [0, 1]) {
    await page.evaluate(
      (at) =>
        fetch('/api/sites/studio-corner/rig/corner/events', {
          method: 'POST',
          headers: { 'Content-Type': 'application/json' },
          body: JSON.stringify({ pin: 's1', level: at }),
        }),
      level,
    )
    await pause(level === 1 ? 700 : 150)
  }
}

/** Three phones side by side: the eye is asked, the step waits for a hand, and what came had the wrong cause. */
async function threeStates(page: Page): Promise<void> {
  const states: Buffer[] = []
  const take = async () => void states.push(await page.screenshot())
  await heardRun(page)
  await page.getByRole('button', { name: 'Yes' }).waitFor()
  await take()
  await page.getByRole('button', { name: 'Yes' }).click()
  await page.getByRole('heading', { name: /on the phone/ }).waitFor()
  await pause(1000)
  await take()
  await pressS1(page)
  await page.getByText(/waits for another cause/).waitFor()
  await take()
  await page.setViewportSize({ width: 1230, height: 864 })
  const phones = states.map((png) => `<img src="data:image/png;base64,${png.toString('base64')}" width="390">`)
  await page.setContent(`<body style="margin:10px;display:flex;gap:20px;background:#8a8a86">${phones.join('')}`)
}

/** The bench lamp is dark and the wall does nothing: the search for it, a step further on. */
async function searchBegun(page: Page): Promise<void> {
  await page.getByLabel('Channel that does not work').selectOption({ label: 'Bench lights' })
  const press = page.getByRole('group', { name: /^Rock S1/ })
  await press.getByRole('button', { name: 'Nothing happens' }).click({ timeout: 60_000 })
  await page.getByRole('region', { name: 'Next step' }).getByRole('button').first().click()
  await page.getByText('Step 3').waitFor()
}

/** Breaks one of the things of the trial. */
const broken = (page: Page, name: RegExp): Promise<void> =>
  page.getByRole('group', { name: 'Things to break' }).getByRole('button', { name }).click()

interface View {
  readonly path: string
  readonly theme?: 'dark'
  /** at the box: 390 × 844 */
  readonly phone?: true
  readonly prepare?: (page: Page) => Promise<unknown>
}

const VIEWS: Record<string, View> = {
  sites: { path: '/' },
  'sites-delete': {
    path: '/',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Delete Studio corner' }).click()
      await page.getByLabel('Type its name to delete it').waitFor()
    },
  },
  bench: { path: '/fernhollow/bench' },
  'bench-role': {
    path: '/before-review/bench',
    prepare: (page) =>
      page
        .getByRole('region', { name: 'Roles' })
        .getByRole('button', { name: /Desk lamp/ })
        .click(),
  },
  'bench-plan': {
    path: '/before-review/bench',
    prepare: (page) => page.getByRole('button', { name: 'Plan pins' }).first().click(),
  },
  'bench-out': {
    path: '/fernhollow/bench',
    prepare: async (page) => {
      await page
        .getByRole('region', { name: 'Roles' })
        .getByRole('button', { name: /Bench lights/ })
        .click()
      await page.getByRole('button', { name: /^Delete Bench lights/ }).click()
    },
  },
  'bench-rename': {
    path: '/studio-corner/bench',
    prepare: async (page) => {
      await page
        .getByRole('region', { name: 'Roles' })
        .getByRole('button', { name: /Desk lamp/ })
        .click()
      const name = page.getByRole('region', { name: 'Desk lamp' }).getByLabel('Name', { exact: true })
      await name.fill('Reading light')
      await name.press('Enter')
    },
  },
  'bench-supply': { path: '/fernhollow/bench?side=supply' },
  'bench-contacts': { path: '/fernhollow/bench?side=contacts' },
  'bench-start': { path: '/before-review/bench?side=start' },
  'bench-wiring': { path: '/studio-corner/bench?side=wiring', prepare: () => pause(800) },
  'bench-profiles': { path: '/fernhollow/bench?side=profiles', theme: 'dark' },
  ways: { path: '/fernhollow/ways', prepare: (page) => page.locator('[data-cell="radio-socket/hub"]').click() },
  'ways-dark': {
    path: '/before-review/ways',
    theme: 'dark',
    prepare: (page) => page.locator('[data-cell="hall-lamp/app"]').click(),
  },
  'ways-services': { path: '/fernhollow/ways?side=services' },
  'ways-phone': {
    path: '/fernhollow/ways?side=phone',
    prepare: (page) => page.getByRole('button', { name: 'Move Clay-dust fan' }).click(),
  },
  'ways-voice': {
    path: '/before-review/ways?side=voice',
    prepare: (page) => page.getByLabel('Spoken phrase').fill('turn on relay two'),
  },
  'ways-remotes': {
    path: '/fernhollow/ways?side=remotes',
    prepare: async (page) => {
      await page
        .getByLabel('Capture', { exact: true })
        .fill(
          writeRawList([
            ...encodeFrame({ protocol: 'nec', address: 0x4d, command: 7 }).map(
              (us, i) => us + (i % 2 ? -48 : 52) + ((i * 37) % 30),
            ),
            40_000,
            ...encodeRepeat(),
          ]),
        )
      await pause(400)
    },
  },
  'ways-links': { path: '/fernhollow/ways?side=links', theme: 'dark' },
  'ways-rules': { path: '/fernhollow/ways?side=rules' },
  'ways-credentials': { path: '/fernhollow/ways?side=credentials', theme: 'dark' },
  'ways-templates': { path: '/fernhollow/ways?side=templates' },
  'ways-tables': { path: '/fernhollow/ways?side=tables' },
  build: { path: '/fernhollow/build' },
  paper: { path: '/studio-corner/paper' },
  trial: {
    path: '/fernhollow/trial',
    prepare: async (page) => {
      await page.locator('[data-link="power:throwing"]').getByText('online').waitFor()
      await page.locator('[data-switch="s1"]').click()
      await page.locator('[data-switch="s6"]').click()
      await pause(2500)
      await broken(page, /^Router/)
      await pause(1500)
      await page.locator('[data-switch="s2"]').click()
      await pause(300)
      await page.locator('[data-switch="s1"]').click()
      await pause(5000)
      await page.locator('#view').evaluate((view) => view.scrollTo(0, 0))
    },
  },
  'trial-rewind': {
    path: '/fernhollow/trial',
    theme: 'dark',
    prepare: async (page) => {
      await page.locator('[data-link="power:throwing"]').getByText('online').waitFor()
      await page.locator('[data-switch="s1"]').click()
      await pause(3000)
      await broken(page, /^Router/)
      await pause(2000)
      await page.locator('[data-switch="s2"]').click()
      await pause(1500)
      await page.locator('[data-switch="s1"]').click()
      await pause(4000)
      await page.getByRole('button', { name: /^Actions/ }).click()
      await page
        .getByRole('button', { name: /^Delete: S1 rocked/ })
        .last()
        .click()
      await page.getByRole('button', { name: 'Drawn', exact: true }).click()
      await page.getByRole('button', { name: 'Show the time line only' }).click()
      await pause(600)
    },
  },
  whatif: {
    path: '/fernhollow/whatif',
    prepare: async (page) => {
      await page.getByRole('button', { name: /^Sink heater, Router fails/ }).click()
      await page.getByRole('region', { name: 'What to change' }).getByText('Apply').first().waitFor()
    },
  },
  'whatif-fault': {
    path: '/fernhollow/whatif?side=fault',
    theme: 'dark',
    prepare: (page) => searchBegun(page),
  },
  'whatif-fault-phone': {
    path: '/fernhollow/whatif?side=fault',
    phone: true,
    prepare: async (page) => {
      await searchBegun(page)
      await page.getByRole('region', { name: 'Next step' }).scrollIntoViewIfNeeded()
    },
  },
  'whatif-rates': { path: '/fernhollow/whatif?side=rates' },
  'whatif-years': {
    path: '/fernhollow/whatif?side=years',
    prepare: async (page) => {
      await page.getByRole('button', { name: /^Play/ }).click()
      await page.getByText('different states').waitFor({ timeout: 120_000 })
    },
  },
  'trial-measures': {
    path: '/fernhollow/trial?side=measures',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Measure', exact: true }).click()
      await page.getByRole('button', { name: 'Measure again' }).waitFor({ timeout: 90_000 })
    },
  },
  'trial-scenarios': {
    path: '/fernhollow/trial?side=scenarios',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Power cut at night' }).click()
      await page.getByRole('button', { name: 'Run scenario' }).click()
      await page.getByText('✓ passed').waitFor()
    },
  },
  'trial-acceptance': {
    path: '/fernhollow/trial?side=acceptance',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Run acceptance' }).click()
      await page.getByRole('button', { name: 'Run again' }).waitFor({ timeout: 60_000 })
      await pause(6000)
    },
  },
  'trial-dark': {
    path: '/fernhollow/trial',
    theme: 'dark',
    prepare: async (page) => {
      await page.getByRole('button', { name: 'Throwing', exact: true }).click()
      await pause(1500)
      await page.locator('[data-switch="r1"]').click()
      await pause(300)
      await page.locator('[data-switch="r1"]').click()
      await pause(600)
    },
  },
  'trial-rig': {
    path: '/studio-corner/trial?side=rig',
    prepare: async (page) => {
      await page.evaluate(async () => {
        for (const key of ['app/board-pattern', 'app/board-key/corner'])
          await fetch('/api/sites/studio-corner/credentials', {
            method: 'PUT',
            headers: { 'Content-Type': 'application/json' },
            body: JSON.stringify({ key, value: `${key.slice(4, 13)}-0123456789` }),
          })
      })
      await page.getByRole('button', { name: 'Compile and run' }).click()
      await page.getByText('App service: connected').waitFor({ timeout: 60_000 })
      await page.getByRole('button', { name: 'Set Desk lamp to 1' }).click()
      await page.getByText('■ closed').waitFor()
      await pause(400)
    },
  },
  logbook: { path: '/fernhollow/logbook' },
  handover: { path: '/fernhollow/handover' },
  'test-run': {
    path: '/fernhollow/handover',
    prepare: begunRun,
  },
  'test-run-phone': { path: '/studio-corner/handover', phone: true, prepare: threeStates },
  'handover-boards': { path: '/fernhollow/handover?side=boards' },
  'handover-flash': {
    path: '/fernhollow/handover?side=flash',
    prepare: (page) => page.getByRole('button', { name: 'Throwing', exact: true }).last().click(),
  },
  'handover-leaving': {
    path: '/fernhollow/handover?side=leaving',
    prepare: (page) => page.getByRole('button', { name: 'Throwing', exact: true }).last().click(),
  },
  'build-compare': {
    path: '/fernhollow/build',
    prepare: async (page) => {
      await page.getByRole('combobox').last().selectOption({ label: 'build 1' })
      await page.getByText(/^To test again/).waitFor()
    },
  },
  'logbook-upkeep': { path: '/fernhollow/logbook?side=upkeep' },
  'trial-phone': { path: '/fernhollow/trial', phone: true, prepare: () => pause(1500) },
  'ways-cell-phone': {
    path: '/fernhollow/ways',
    phone: true,
    prepare: (page) => page.locator('[data-cell$="/app"]').first().click(),
  },
  'bench-dark': { path: '/fernhollow/bench', theme: 'dark' },
}

const server = await startServer({
  dataFolder: mkdtempSync(join(tmpdir(), 'vestibule-pictures-')),
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
const browser = await chromium.launch(BROWSER)
try {
  for (const [name, { path, theme, phone, prepare }] of Object.entries(VIEWS)) {
    if (!wanted(name)) continue
    const viewport = phone ? { width: 390, height: 844 } : { width: 1280, height: 800 }
    const page = await browser.newPage({ viewport })
    page.on('pageerror', (error) => console.error(`${name}: ${error.message}`))
    page.on('console', (message) => message.type() === 'error' && console.error(`${name}: ${message.text()}`))
    await page.addInitScript((kept) => localStorage.setItem('vestibule-theme', kept), themeOfAll ?? theme ?? 'light')
    // the walk is offered once; the pictures show the views
    if (name !== 'walk') await page.addInitScript(() => localStorage.setItem('vestibule-walk', 'seen'))
    await page.goto(server.url + path)
    await page.waitForLoadState('networkidle')
    await prepare?.(page)
    // what is still on its way says so
    await page.getByText('Loading …').waitFor({ state: 'hidden' })
    await pause(250)
    await page.screenshot({ path: join(folder, `${name}.png`) })
    await page.close()
  }
} finally {
  await browser.close()
  await server.close()
}
