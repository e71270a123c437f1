import AxeBuilder from '@axe-core/playwright'
import { gzipSync } from 'node:zlib'
import { expect, test } from './server'

const VIEWS = ['/', '/fernhollow/bench', '/before-review/bench', '/fernhollow/bench?side=supply', '/fernhollow/bench?side=contacts', '/before-review/bench?side=start', '/studio-corner/bench?side=wiring', '/fernhollow/bench?side=profiles', '/before-review/ways', '/fernhollow/ways', '/fernhollow/build', '/fernhollow/trial', '/fernhollow/logbook']

for (const theme of ['light', 'dark'] as const) {
  for (const view of VIEWS) {
    test(`axe finds nothing serious: ${view}, ${theme}`, async ({ page, served }) => {
      await page.addInitScript((kept) => localStorage.setItem('vestibule-theme', kept), theme)
      await page.goto(served.url + view)
      await page.waitForLoadState('networkidle')
      if (view.includes('wiring')) await page.getByRole('figure', { name: 'Wiring drawing' }).waitFor()
      if (view.endsWith('/ways')) await page.locator('[data-cell$="/app"]').first().click()
      const { violations } = await new AxeBuilder({ page }).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze()
      const serious = violations.filter((violation) => violation.impact === 'serious' || violation.impact === 'critical')
      expect(serious.map((violation) => `${violation.id}: ${violation.nodes.map((node) => node.target.join(' ')).slice(0, 3).join(' | ')}`)).toEqual([])
    })
  }
}

test('first load of JavaScript is at most 230 kB gzipped', async ({ browser, served }) => {
  for (const view of ['/', '/fernhollow/bench', '/fernhollow/ways']) {
    const page = await browser.newPage()
    const sizes: Promise<number>[] = []
    page.on('response', (response) => {
      if (response.url().endsWith('.js')) sizes.push(response.body().then((body) => gzipSync(body).length))
    })
    await page.goto(served.url + view)
    await page.waitForLoadState('networkidle')
    const bytes = (await Promise.all(sizes)).reduce((sum, size) => sum + size, 0)
    console.log(`first load of ${view}: ${(bytes / 1000).toFixed(1)} kB of JavaScript, gzipped`)
    expect(bytes).toBeLessThanOrEqual(230_000)
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
