import { expect, test } from './server'

test('while the server is gone edits stay on the page, and are kept in order when it is back', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/studio-corner/bench`)
  const name = page.getByRole('textbox', { name: 'Name', exact: true }).first()
  const saved = page.getByTestId('saved')
  await expect(saved).toContainText('revision 0, saved')
  await expect(name).toBeVisible()
  await page.context().setOffline(true)
  for (const text of ['Alcove', 'Alcove, by the window']) {
    await name.fill(text)
    await name.press('Enter')
  }
  await expect(saved).toContainText('2 edits not saved yet: the server cannot be reached')
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await expect(name).toHaveValue('Alcove, by the window')
  await page.context().setOffline(false)
  await expect(saved).toContainText('revision 2, saved', { timeout: 15_000 })
  await page.reload()
  await expect(name).toHaveValue('Alcove, by the window')
  await expect(page.getByRole('button', { name: /^Undo “/ })).toBeVisible()
})

test('a view that was never looked at waits for the server, and what stands on the page stays', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/studio-corner/bench`)
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await page.context().setOffline(true)
  await page.getByRole('link', { name: /Logbook/ }).click()
  await expect(page.getByText('Waiting for the server. Nothing on this page is lost.')).toBeVisible()
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await page.context().setOffline(false)
  await expect(page.getByRole('heading', { name: 'Logbook' })).toBeVisible({ timeout: 15_000 })
})
