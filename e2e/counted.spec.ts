import type { Page } from '@playwright/test'
import { expect, test } from './server'

/** The whole job as a new user does it, from no site to a marked test run, and what it costs in clicks and keys. */

const MOST_CLICKS = 30
const MOST_KEYS = 120

/** Counts what hands do on the page, over all its views; a reload would begin at nothing, which is noticed. */
async function count(page: Page): Promise<() => Promise<{ clicks: number; keys: number; loads: number }>> {
  let loads = 0
  page.on('load', () => loads++)
  await page.addInitScript(() => {
    const counts = { clicks: 0, keys: 0 }
    Object.assign(window, { counts })
    // a choice from a list is two clicks: it is opened, and one of it is picked
    addEventListener('pointerdown', () => counts.clicks++, true)
    addEventListener('change', ({ target }) => target instanceof HTMLSelectElement && (counts.clicks += 2), true)
    addEventListener('keydown', () => counts.keys++, true)
  })
  return async () => {
    const counts = await page.evaluate(() => (window as unknown as { counts: { clicks: number; keys: number } }).counts)
    return { ...counts, loads }
  }
}

const saved = (page: Page) => expect(page.getByTestId('saved')).toHaveText(/revision \d+, saved/)
const tested = (page: Page) => expect(page.getByTestId('tested')).toHaveText(/^1 of \d+$/)

test('by mouse: under 30 clicks, no reload', async ({ page, served }) => {
  const counted = await count(page)
  await page.goto(served.url)
  await page.getByLabel('Name of the house or room').click()
  await page.keyboard.type('Nook')
  await page.getByLabel('Mains, as on the meter').selectOption('230')
  await page.getByLabel('Board on the table').selectOption('dual-core-wifi-30')
  await page.getByLabel(/^Channels/).click()
  await page.keyboard.type('Desk lamp, Shelf lamp')
  await page.getByRole('button', { name: 'Create site' }).click()
  await page.getByRole('link', { name: /^Ways in/ }).click()
  await page.getByRole('button', { name: 'Fill the Wall column' }).click()
  await page.getByRole('button', { name: 'Fill the App column' }).click()
  await page.getByRole('link', { name: /^Build/ }).click()
  await page.getByRole('complementary').getByRole('button', { name: 'Plan pins' }).click()
  await saved(page)
  await page.getByRole('button', { name: 'Build Controller 1', exact: true }).click()
  await page.getByRole('button', { name: 'Record flash' }).click()
  await page.getByRole('link', { name: /^Trial/ }).click()
  await page
    .getByRole('button', { name: /^Rock|^Press/ })
    .first()
    .click()
  await page.getByRole('button', { name: 'Save run' }).click()
  await page.getByRole('link', { name: /^Handover/ }).click()
  await page.getByRole('button', { name: 'Start test run of Controller 1' }).click()
  await page.getByRole('button', { name: /^Passed/ }).click()
  await tested(page)
  const { clicks, loads } = await counted()
  console.log(`from no site to a marked test run: ${clicks} clicks`)
  expect(clicks).toBeLessThan(MOST_CLICKS)
  expect(loads).toBe(1)
})

test('by keys alone: under 120 keys, typing included, no reload', async ({ page, served }) => {
  const counted = await count(page)
  const { keyboard } = page
  /** Tab until a thing is in hand; each one counts. */
  const tabTo = async (name: RegExp, most = 12) => {
    const thing = page.getByRole('button', { name })
    for (let at = 0; at < most; at++) {
      if (await thing.evaluateAll((all) => all.some((one) => one === document.activeElement))) return
      await keyboard.press('Tab')
    }
    throw new Error(`${String(name)} is not within ${most} tabs`)
  }
  await page.goto(served.url)
  await expect(page.getByRole('link', { name: /^Studio corner/ })).toBeVisible()
  await keyboard.press('n')
  await expect(page.getByLabel('Name of the house or room')).toBeFocused()
  await keyboard.type('Nook')
  await keyboard.press('Tab')
  await keyboard.type('2')
  await keyboard.press('Tab')
  await keyboard.type('Dual')
  await keyboard.press('Tab')
  await keyboard.type('Desk lamp, Shelf lamp')
  await keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await keyboard.type('gw')
  await expect(page.locator('[data-cell="desk-lamp/wall"]')).toBeFocused()
  await keyboard.type('f')
  await expect(page.locator('[data-cell="shelf-lamp/wall"]')).toContainText('S2')
  await keyboard.press('ArrowRight')
  await keyboard.press('ArrowRight')
  await keyboard.type('f')
  await expect(page.locator('[data-cell="shelf-lamp/app"]')).toContainText('vp2')
  await keyboard.type('gb')
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await keyboard.type('p')
  await expect(page.getByRole('button', { name: /^Undo “plan pins/ })).toBeVisible()
  await saved(page)
  await keyboard.type('gu')
  await expect(page.getByRole('heading', { name: 'Build', exact: true })).toBeVisible()
  await tabTo(/^Build Controller 1$/)
  await keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: /^Build 1, from/ })).toBeVisible()
  await keyboard.type('gh')
  await expect(page.getByRole('heading', { name: 'Handover' })).toBeVisible()
  await expect(page.getByRole('button', { name: 'Start test run of Controller 1' })).toBeVisible()
  await tabTo(/^Start test run of Controller 1$/)
  await keyboard.press('Enter')
  await expect(page.getByTestId('tested')).toBeVisible()
  await keyboard.type('y')
  await tested(page)
  const { keys, loads } = await counted()
  console.log(`from no site to a marked test run: ${keys} keys`)
  expect(keys).toBeLessThan(MOST_KEYS)
  expect(loads).toBe(1)
})
