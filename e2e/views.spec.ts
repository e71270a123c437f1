import AxeBuilder from '@axe-core/playwright'
import { gzipSync } from 'node:zlib'
import { expect, test } from './server'

const VIEWS = [
  '/',
  '/fernhollow/bench',
  '/before-review/bench',
  '/fernhollow/bench?side=supply',
  '/fernhollow/bench?side=contacts',
  '/before-review/bench?side=start',
  '/studio-corner/bench?side=wiring',
  '/fernhollow/bench?side=profiles',
  '/before-review/ways',
  '/fernhollow/ways',
  '/fernhollow/ways?side=services',
  '/fernhollow/ways?side=phone',
  '/before-review/ways?side=voice',
  '/fernhollow/ways?side=remotes',
  '/fernhollow/ways?side=links',
  '/fernhollow/ways?side=rules',
  '/fernhollow/ways?side=credentials',
  '/fernhollow/ways?side=templates',
  '/fernhollow/ways?side=tables',
  '/fernhollow/build',
  '/fernhollow/trial',
  '/fernhollow/logbook',
]

// each looks at its view only: they may run side by side
test.describe.configure({ mode: 'parallel' })

// Head, rail and drawer are the same on every view: they are looked at with these.
const WHOLE = ['/', '/fernhollow/bench', '/before-review/ways', '/fernhollow/logbook']
const WCAG = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']

for (const view of VIEWS) {
  test(`asks no other host; axe finds nothing serious, light and dark: ${view}`, async ({ page, served }) => {
    const foreign: string[] = []
    page.on('request', (request) => {
      if (!request.url().startsWith(served.url) && !/^(data|blob):/.test(request.url())) foreign.push(request.url())
    })
    await page.addInitScript(() => localStorage.setItem('vestibule-theme', 'light'))
    await page.goto(served.url + view)
    await page.waitForLoadState('networkidle')
    if (view.includes('wiring')) await page.getByRole('figure', { name: 'Wiring drawing' }).waitFor()
    if (view.endsWith('/ways')) await page.locator('[data-cell$="/app"]').first().click()
    if (view.endsWith('side=remotes')) await page.getByLabel('Capture', { exact: true }).fill('9000 4500 563 563')
    // in one piece: there are no frames to gather from
    const builder = () =>
      (WHOLE.includes(view) ? new AxeBuilder({ page }) : new AxeBuilder({ page }).include('#view')).setLegacyMode()
    const serious = async (axe: AxeBuilder): Promise<string[]> =>
      (await axe.analyze()).violations
        .filter((violation) => violation.impact === 'serious' || violation.impact === 'critical')
        .map(
          (violation) =>
            `${violation.id}: ${violation.nodes
              .map((node) => node.target.join(' '))
              .slice(0, 3)
              .join(' | ')}`,
        )
    expect(await serious(builder().withTags(WCAG))).toEqual([])
    // only colours differ in the dark
    await page.evaluate(() => {
      document.documentElement.dataset['theme'] = 'dark'
    })
    expect(await serious(builder().withRules(['color-contrast']))).toEqual([])
    expect(foreign).toEqual([])
  })
}

test('the first load of JavaScript stays within each view’s budget, gzipped', async ({ browser, served }) => {
  for (const [view, budget] of [
    ['/', 225_000],
    ['/fernhollow/bench', 262_000],
    ['/fernhollow/ways', 262_000],
  ] as const) {
    const page = await browser.newPage()
    const sizes: Promise<number>[] = []
    page.on('requestfinished', (request) => {
      if (!request.url().endsWith('.js')) return
      const size = request.response().then(async (response) => gzipSync(await response!.body()).length)
      // what still comes when the page is closed is not of the first load
      size.catch(() => undefined)
      sizes.push(size)
    })
    await page.goto(served.url + view)
    await page.waitForLoadState('networkidle')
    const bytes = (await Promise.all([...sizes])).reduce((sum, size) => sum + size, 0)
    console.log(`first load of ${view}: ${(bytes / 1000).toFixed(1)} kB of JavaScript, gzipped`)
    expect.soft(bytes).toBeLessThanOrEqual(budget)
    await page.close()
  }
})
