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
