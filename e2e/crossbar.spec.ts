import { carry } from './hand'
import { expect, test } from './server'

test('the crossbar is walked and worked by keyboard alone', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/ways`)
  const cell = (name: string) => page.locator(`[data-cell="${name}"]`)
  await cell('bench-lights/wall').focus()
  await page.keyboard.press('ArrowRight')
  await expect(cell('bench-lights/remote')).toBeFocused()
  await page.keyboard.press('ArrowRight')
  await expect(cell('bench-lights/app')).toBeFocused()
  await page.keyboard.press('ArrowDown')
  await expect(cell('shelf-lights/app')).toBeFocused()
  await page.keyboard.press('Enter')
  await expect(page.getByLabel('Virtual pin', { exact: true })).toBeFocused()
  await page.keyboard.press('Control+a')
  await page.keyboard.type('44')
  await page.keyboard.press('Enter')
  await expect(cell('shelf-lights/app')).toContainText('vp44')
  await page.keyboard.press('Escape')
  await expect(cell('shelf-lights/app')).toBeFocused()
  await page.keyboard.press('Delete')
  await expect(cell('shelf-lights/app')).toContainText('')
  await expect(page.getByRole('button', { name: /Undo “delete app way of Shelf lights”/ })).toBeVisible()
  await page.keyboard.press('Control+z')
  await expect(cell('shelf-lights/app')).toContainText('vp44')
  await page.keyboard.press('u')
  await expect(cell('shelf-lights/app')).toContainText('vp2')
  await page.keyboard.press('Control+Shift+z')
  await expect(cell('shelf-lights/app')).toContainText('vp44')
})

test('another tab sees an edit at once', async ({ context, served }) => {
  const one = await context.newPage()
  const two = await context.newPage()
  await one.goto(`${served.url}/studio-corner/bench`)
  await two.goto(`${served.url}/studio-corner/ways`)
  await expect(two.getByText('Easel lamp').first()).toBeVisible()
  await one
    .getByRole('region', { name: 'Roles' })
    .getByRole('button', { name: /Easel lamp/ })
    .click()
  await one.getByLabel('Name', { exact: true }).fill('Window lamp')
  await one.keyboard.press('Enter')
  await one.getByRole('button', { name: 'Rename these too' }).click()
  await expect(two.getByText('Window lamp').first()).toBeVisible()
})

test('a role is dragged to another pin, and stays locked there', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/bench`)
  const plate = page.getByRole('region', { name: /^Pins of/ }).getByRole('button', { name: 'Desk lamp' })
  const pin = page.locator('[data-pin="D4"]')
  await carry(page, plate, { x: 10, y: 8 }, pin, { x: 40, y: 8 })
  await expect(pin).toContainText('Desk lamp')
  await expect(pin.getByLabel('locked')).toBeVisible()
})

test('a fan is made, worked by a selector, and turns at its level in the trial', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/ways`)
  await page.getByLabel('New channel').fill('Fan')
  await page.getByRole('combobox', { name: /^Kind/ }).first().selectOption('fan-capacitor-2')
  await page.getByRole('button', { name: 'Add channel' }).click()
  await page.getByRole('button', { name: 'Add selector' }).click()
  await expect(page.locator('[data-cell="fan/wall"]')).toContainText('selector, 2 bits')
  await page.locator('[data-cell="fan/app"]').click()
  await page.getByRole('button', { name: 'Add point and widget' }).click()
  await expect(page.locator('[data-cell="fan/app"]')).toContainText('slider, 0–3')
  await page.getByRole('link', { name: /^Trial/ }).click()
  const knob = page.locator('[data-switch="s3"]')
  await knob.focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  const fan = page.locator('[data-load="fan"]')
  await expect(fan).toHaveAttribute('data-level', '2')
  await expect(fan).toContainText('phone shows level 2')
  await page.getByRole('slider', { name: 'Fan', exact: true }).fill('3')
  await expect(fan).toHaveAttribute('data-level', '3')
})

test('a maker’s own board profile is kept, refused with its place when bad, and offered for controllers', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/studio-corner/bench?side=profiles`)
  await page.getByRole('button', { name: 'Copy profile' }).click()
  await page.getByRole('button', { name: 'Show JSON' }).click()
  const json = page.getByLabel('The whole profile, as JSON')
  const text = await json.inputValue()
  await json.fill(text.replace('"logicVolts": 3.3', '"logicVolts": 9'))
  await page.getByRole('button', { name: 'Save profile' }).click()
  await expect(page.getByRole('alert')).toContainText('logicVolts')
  await json.fill(text)
  await page.getByRole('button', { name: 'Save profile' }).click()
  await expect(page.getByRole('list', { name: 'Profiles' })).toContainText('My Dual-core 3.3 V Wi-Fi board, 30 pins')
  await page.getByRole('button', { name: 'Add controller' }).click()
  await expect(page.getByRole('dialog').getByLabel('Board')).toContainText('My Dual-core')
})

test('a bad site file is refused with its place', async ({ page, served }) => {
  await page.goto(served.url)
  await page.getByRole('button', { name: /^From a file/ }).click()
  await page.getByLabel('Site file', { exact: true }).setInputFiles({
    name: 'broken.json',
    mimeType: 'application/json',
    buffer: Buffer.from('{"format":"vestibule-site","version":7}'),
  })
  await expect(page.getByRole('alert')).toHaveText('broken.json: version: is 7; this program reads versions 1 to 5')
})

test('a finding leads to the very thing: its service is open, and its credential in hand', async ({ page, served }) => {
  await page.goto(`${served.url}/before-review/bench`)
  const lead = (id: string) =>
    page.getByRole('complementary').locator(`[data-finding="${id}"]`).first().getByRole('button').first().click()
  await lead('C02')
  await expect(page.locator('[data-thing]:focus').getByRole('textbox', { name: 'Host', exact: true })).toBeVisible()
  await page.getByRole('button', { name: 'Credentials', exact: true }).click()
  await expect(page.getByRole('region', { name: /App service|Wi-Fi/ }).first()).toBeVisible()
})
