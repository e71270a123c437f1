import { readFileSync } from 'node:fs'
import { expect, test } from './server'

test('at the door a site is renamed, copied, saved as a file, and deleted by its name', async ({
  page,
  context,
  served,
}) => {
  await page.goto(served.url)
  await page.getByRole('button', { name: 'Copy Studio corner' }).click()
  await page.getByLabel('Name of the copy').fill('Attic')
  await page.getByRole('button', { name: 'Copy site' }).click()
  await expect(page.getByRole('link', { name: /^Attic/ })).toBeVisible()
  await page.getByRole('button', { name: 'Rename Attic' }).click()
  await page.getByLabel('New name').fill('Attic room')
  await page.getByLabel('New name').press('Enter')
  await expect(page.getByRole('listitem').filter({ hasText: 'Attic room' }).getByText('revision 1')).toBeVisible()
  const saving = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Save Attic room as a file' }).click()
  const file = await (await saving).path()
  expect(JSON.parse(readFileSync(file, 'utf8'))).toMatchObject({ format: 'vestibule-site', name: 'Attic room' })
  const other = await context.newPage()
  await other.goto(`${served.url}/attic/bench`)
  await expect(other.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await page.getByRole('button', { name: 'Delete Attic room' }).click()
  const go = page.getByRole('button', { name: 'Delete site' })
  await expect(go).toBeDisabled()
  await page.getByLabel('Type its name to delete it').fill('Attic')
  await expect(go).toBeDisabled()
  await page.getByLabel('Type its name to delete it').fill('Attic room')
  await go.click()
  await expect(page.getByRole('link', { name: /^Attic room/ })).toHaveCount(0)
  await expect(other.getByText('It was deleted, here or in another tab.')).toBeVisible()
  await expect(page.getByRole('link', { name: /^Studio corner/ })).toBeVisible()
})

test('a site begins from the pin lines of a sketch: shown first, then there with its pins locked', async ({
  page,
  served,
}) => {
  await page.goto(served.url)
  await page.getByRole('button', { name: /^From a sketch/ }).click()
  const create = page.getByRole('button', { name: 'Create site' })
  await page.getByLabel('Name of the house or room').fill('Shed')
  await page.getByLabel('Mains, as on the meter').selectOption('230')
  await page
    .getByLabel(/^Pin lines/)
    .fill('#define RelayPin1 23\nconst int fanRelay = 22;\nint switchPin1 = 13;\nint x = 4;')
  await expect(page.getByText('Choose the board: it says which numbers are pins.')).toBeVisible()
  await page.getByLabel('Board on the table').selectOption('dual-core-wifi-30')
  const preview = page.getByRole('region', { name: 'Preview' })
  await expect(preview).toContainText('2 channels and 1 switch with locked pins; 1 left out.')
  await preview.getByLabel('x becomes').selectOption('channel')
  await expect(preview).toContainText('3 channels')
  await create.click()
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  const pin = page.locator('[data-pin="D23"]')
  await expect(pin).toContainText('Relay 1')
  await expect(pin.getByLabel('locked')).toBeVisible()
  await expect(page.locator('[data-pin="D13"]')).toContainText('Switch 1')
})

test('a table of channels begins a site, refused whole where a row is wrong', async ({ page, served }) => {
  await page.goto(served.url)
  await page.getByRole('button', { name: /^From a table/ }).click()
  await page.getByLabel('Name of the house or room').fill('Barn')
  await page.getByLabel('Mains, as on the meter').selectOption('230')
  await page.getByLabel('Board on the table').selectOption('dual-core-wifi-30')
  const table = page.getByLabel('Channels table')
  await table.fill('name,kind,room\nLamp,lit,Loft')
  await expect(page.getByRole('alert')).toContainText('Row 2, kind')
  await expect(page.getByRole('button', { name: 'Create site' })).toBeDisabled()
  await table.fill('name,kind,room\nLamp,switched,Loft\nBlind,paired,Hall')
  await page.getByRole('button', { name: 'Create site' }).click()
  await expect(page.getByRole('region', { name: 'Roles' })).toContainText('Blind')
})
