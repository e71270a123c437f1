import AxeBuilder from '@axe-core/playwright'
import { gzipSync } from 'node:zlib'
import { expect, test } from './server'

const VIEWS = ['/', '/fernhollow/bench', '/before-review/bench', '/fernhollow/bench?side=supply', '/fernhollow/bench?side=contacts', '/before-review/bench?side=start', '/studio-corner/bench?side=wiring', '/fernhollow/bench?side=profiles', '/before-review/ways', '/fernhollow/ways', '/fernhollow/ways?side=services', '/fernhollow/ways?side=phone', '/before-review/ways?side=voice', '/fernhollow/ways?side=remotes', '/fernhollow/ways?side=links', '/fernhollow/ways?side=rules', '/fernhollow/ways?side=credentials', '/fernhollow/ways?side=templates', '/fernhollow/ways?side=tables', '/fernhollow/build', '/fernhollow/trial', '/fernhollow/logbook']

// each looks at its view only: they may run side by side
test.describe.configure({ mode: 'parallel' })

for (const theme of ['light', 'dark'] as const) {
  for (const view of VIEWS) {
    test(`axe finds nothing serious: ${view}, ${theme}`, async ({ page, served }) => {
      await page.addInitScript((kept) => localStorage.setItem('vestibule-theme', kept), theme)
      await page.goto(served.url + view)
      await page.waitForLoadState('networkidle')
      if (view.includes('wiring')) await page.getByRole('figure', { name: 'Wiring drawing' }).waitFor()
      if (view.endsWith('/ways')) await page.locator('[data-cell$="/app"]').first().click()
      if (view.endsWith('side=remotes')) await page.getByLabel('Capture', { exact: true }).fill('9000 4500 563 563')
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze()
      const serious = violations.filter((violation) => violation.impact === 'serious' || violation.impact === 'critical')
      expect(serious.map((violation) => `${violation.id}: ${violation.nodes.map((node) => node.target.join(' ')).slice(0, 3).join(' | ')}`)).toEqual([])
    })
  }
}

test('the first load of JavaScript stays within each view’s budget, gzipped', async ({ browser, served }) => {
  for (const [view, budget] of [['/', 200_000], ['/fernhollow/bench', 225_000], ['/fernhollow/ways', 255_000]] as const) {
    const page = await browser.newPage()
    const sizes: Promise<number>[] = []
    page.on('response', (response) => {
      if (response.url().endsWith('.js')) sizes.push(response.body().then((body) => gzipSync(body).length))
    })
    await page.goto(served.url + view)
    await page.waitForLoadState('networkidle')
    const bytes = (await Promise.all(sizes)).reduce((sum, size) => sum + size, 0)
    console.log(`first load of ${view}: ${(bytes / 1000).toFixed(1)} kB of JavaScript, gzipped`)
    expect(bytes).toBeLessThanOrEqual(budget)
    await page.close()
  }
})

test('no page asks anything of another host', async ({ page, served }) => {
  const foreign: string[] = []
  page.on('request', (request) => {
    if (!request.url().startsWith(served.url) && !/^(data|blob):/.test(request.url())) foreign.push(request.url())
  })
  for (const view of VIEWS) {
    await page.goto(served.url + view)
    await page.waitForLoadState('networkidle')
  }
  expect(foreign).toEqual([])
})
