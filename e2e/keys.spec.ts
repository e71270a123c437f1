import { expect, test } from './server'

/** The keyboard alone: where the focus is after a view is opened, a fix made, a row deleted; what `u` does where. */

test('focus goes into a view that is opened by key, and stays near what goes away', async ({ page, served }) => {
  await page.goto(`${served.url}/before-review/bench`)
  await expect(page.locator('[data-finding]').first()).toBeVisible()
  const inView = () => page.evaluate(() => document.getElementById('view')!.contains(document.activeElement))
  for (const letter of ['w', 'u', 't', 'l', 'b']) {
    await page.keyboard.type(`g${letter}`)
    await expect.poll(inView, { message: `g ${letter}` }).toBe(true)
  }
  // a fix goes away with its finding: the next one is in hand
  const fix = page.getByRole('complementary').locator('[data-finding] .press').first()
  // the view that was opened last has taken the focus by now, and gives it up
  await page.waitForTimeout(500)
  await fix.focus()
  await page.keyboard.press('Enter')
  await expect.poll(() => page.evaluate(() => document.activeElement?.closest('aside') !== null)).toBe(true)
})

test('u undoes in a list and in a field of figures, and is a letter in a text', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/bench`)
  const stagger = page.getByLabel('Stagger (ms)', { exact: true })
  await stagger.fill('175')
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^Undo “/ })).toBeVisible()
  await stagger.press('u')
  await expect(stagger).toHaveValue('150')
  await page.getByLabel('Link', { exact: true }).focus()
  await page.keyboard.press('Shift+U')
  await expect(stagger).toHaveValue('175')
  await expect(page.getByLabel('Link', { exact: true })).toHaveValue('wifi')
  const name = page.getByRole('textbox', { name: 'Name', exact: true }).first()
  await name.fill('')
  await name.press('u')
  await expect(name).toHaveValue('u')
  await page.keyboard.press('Escape')
  await expect(stagger).toHaveValue('175')
})

test('F1 opens the help of a field, and the list of keys says so', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/bench`)
  await page.getByLabel('Stagger (ms)', { exact: true }).focus()
  await page.keyboard.press('F1')
  await expect(page.getByRole('note')).toContainText('do not start together')
  await page.keyboard.press('F1')
  await expect(page.getByRole('note')).toHaveCount(0)
  await page.locator('#view').focus()
  await page.keyboard.press('?')
  await expect(page.getByRole('dialog', { name: 'Keys' })).toContainText('help on the field')
})

test('the walk leads through the example, and is left at any time', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/bench`)
  const walk = page.getByRole('region', { name: 'Walk' })
  await walk.getByRole('button', { name: 'Start walk' }).click()
  await expect(walk).toContainText('1 of 9')
  await walk.getByRole('button', { name: 'Next step' }).click()
  await walk.getByRole('button', { name: 'Next step' }).click()
  await expect(page.getByRole('heading', { name: 'Ways in' })).toBeVisible()
  await walk.getByRole('button', { name: 'Leave walk' }).click()
  await expect(walk).toHaveCount(0)
  await page.reload()
  await expect(page.getByRole('heading', { name: 'Ways in' })).toBeVisible()
  await expect(walk).toHaveCount(0)
})

test('an address that leads to no view says so', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/nosuch`)
  await expect(page.getByText('This site has no view “nosuch”.')).toBeVisible()
  await page.getByRole('link', { name: 'Trial', exact: true }).click()
  await expect(page.getByTestId('trial')).toBeVisible()
})

test('the drawer folds to an edge, opens where there is something, and the head says what is shown', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/before-review/bench`)
  const drawer = page.getByRole('complementary', { name: 'Findings' })
  await expect(drawer.locator('[data-finding]').first()).toBeVisible()
  await page.locator('#view').focus()
  await page.keyboard.press('d')
  await expect(drawer.getByRole('button', { name: /^Open the findings: \d+ danger/ })).toBeVisible()
  await page.keyboard.press('d')
  await expect(drawer.locator('[data-finding]').first()).toBeVisible()
  await page.getByRole('button', { name: 'Profiles', exact: true }).click()
  await expect(drawer.getByRole('button', { name: /^Open the findings/ })).toBeVisible()
  await page.goto(`${served.url}/fernhollow/build`)
  const tabs = page.getByRole('group', { name: 'Controllers' })
  await expect(tabs.getByRole('button', { pressed: true })).toHaveText('Throwing')
  await tabs.getByRole('button', { name: 'Glaze' }).click()
  await expect(page.getByRole('button', { name: 'Build Glaze', exact: true })).toBeVisible()
  await page.keyboard.type('gh')
  await expect(tabs.getByRole('button', { pressed: true })).toHaveText('Glaze')
  await expect(page.getByRole('button', { name: 'Start test run of Glaze' })).toBeVisible()
})
