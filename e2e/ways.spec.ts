import { encodeFrame } from '../core/infrared'
import { carry } from './hand'
import { expect, test } from './server'

test('several channels are filled and emptied in one edit', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/ways`)
  const cell = (name: string) => page.locator(`[data-cell="${name}"]`)
  await cell('bench-lights/nearby').focus()
  await page.keyboard.press('Shift+ArrowDown')
  await page.keyboard.press('Shift+ArrowDown')
  await expect(page.locator('[data-cell$="/nearby"][aria-selected="true"]')).toHaveCount(3)
  const before = await Promise.all(
    ['bench-lights', 'shelf-lights', 'wedging-lamp'].map((id) => cell(`${id}/nearby`).innerText()),
  )
  await page.keyboard.press('Delete')
  for (const id of ['bench-lights', 'shelf-lights', 'wedging-lamp']) await expect(cell(`${id}/nearby`)).toHaveText('')
  await page.keyboard.press('Enter')
  for (const id of ['bench-lights', 'shelf-lights', 'wedging-lamp'])
    await expect(cell(`${id}/nearby`)).not.toHaveText('')
  await page.locator('#view').focus()
  const now = () =>
    Promise.all(['bench-lights', 'shelf-lights', 'wedging-lamp'].map((id) => cell(`${id}/nearby`).innerText()))
  await page.keyboard.press('u')
  await expect.poll(now).toEqual(['', '', ''])
  await page.keyboard.press('u')
  await expect.poll(now).toEqual(before)
})

test('a capture is read and taught to a key, and the key says so', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/ways?side=remotes`)
  const remote = page.getByRole('region', { name: 'Throwing remote' })
  await remote.getByRole('button', { name: 'Add key' }).click()
  await remote.getByRole('button', { name: /^Key 8/ }).click()
  const noisy = encodeFrame({ protocol: 'rc5', address: 5, command: 35 }, 1).map((us, i) => us + (i % 2 ? -60 : 60))
  await page.getByLabel('Capture', { exact: true }).fill(noisy.join(' '))
  const teach = page.getByRole('region', { name: 'Teach' })
  await expect(teach).toContainText('marks stretched by 30 µs')
  await expect(teach).toContainText('toggle 1')
  await teach.getByRole('button', { name: 'Teach “Key 8”' }).click()
  await expect(remote.getByRole('button', { name: /^Key 8/ })).toContainText('RC-5 05·23')
  await page.getByLabel('Capture', { exact: true }).fill('9000 4500 oh no')
  await expect(teach.getByRole('alert')).toBeVisible()
})

test('a credential is cleaned before one’s eyes, kept, and never shown again', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/ways?side=credentials`)
  const secret = page.getByLabel(/board key/i).first()
  await secret.fill('  “correct-horse-battery-0123456789ab” ')
  await expect(page.getByText(/^Cleaned: /)).toBeVisible()
  await page.getByRole('button', { name: 'Store' }).and(page.locator(':enabled')).click()
  await expect(secret).toHaveAttribute('placeholder', '••••••••')
  await expect(secret).toHaveValue('')
  await page.reload()
  await expect(page.getByLabel(/board key/i).first()).toHaveAttribute('placeholder', '••••••••')
  expect(await page.content()).not.toContain('correct-horse')
})

test('a table that comes back is shown as what it changes, refused whole when bad, and undone in one step', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/fernhollow/ways?side=tables`)
  const table = await (await fetch(`${served.url}/api/sites/fernhollow/export/points-csv`)).text()
  const box = page.getByRole('textbox', { name: 'Points table' })
  await box.fill(table)
  await expect(page.getByRole('button', { name: 'No changes' })).toBeDisabled()
  await box.fill(table.replace('Shelf lights,,shelf-lights,integer,0,1', 'Shelf lights,,shelf-lights,integer,9,1'))
  await expect(page.getByRole('region', { name: 'Import' }).getByRole('alert')).toContainText('Row 3')
  await box.fill(table.replace(',2,Shelf lights,', ',52,Shelves,'))
  await expect(page.getByRole('list', { name: 'Preview of the points table' })).toContainText('Shelves')
  await page.getByRole('button', { name: 'Import 1 change' }).click()
  const saved = async () =>
    (await (await fetch(`${served.url}/api/sites/fernhollow/export/points-csv`)).text()).includes(',52,Shelves,')
  await expect.poll(saved).toBe(true)
  await page.locator('#view').focus()
  await page.keyboard.press('u')
  await expect.poll(saved).toBe(false)
})

test('a widget is dragged on the phone', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/ways?side=phone`)
  const handles = page.getByRole('button', { name: /^Move / })
  await expect(handles.nth(2)).toBeVisible()
  const names = await handles.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')))
  await carry(page, handles.nth(0), { x: 8, y: 8 }, handles.nth(2), { x: -20, y: 12 })
  await expect
    .poll(() => handles.evaluateAll((all) => all.map((one) => one.getAttribute('aria-label'))))
    .not.toEqual(names)
  await expect(page.getByRole('button', { name: /Undo “move .* on the phone”/ })).toBeVisible()
})

test('in the trial a key, a spoken line and a sensor work their channels, and a hub that is gone is marked', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/fernhollow/trial`)
  await expect(page.locator('[data-link="power:throwing"]')).toHaveText('online')
  const load = (id: string) => page.locator(`[data-load="${id}"]`)
  await page.getByRole('button', { name: 'As a list' }).click()
  const events = page.getByRole('list', { name: 'Events of this trial' })
  await page.locator('[data-key="bench-lights"]').click()
  await expect(load('bench-lights')).toHaveAttribute('data-on', 'true')
  await expect(load('bench-lights')).toContainText('by remote')
  await page.getByLabel('Spoken phrase').fill('turn on the wedging lamp')
  await page.getByRole('button', { name: 'Say phrase' }).click()
  await expect(load('wedging-lamp')).toHaveAttribute('data-on', 'true')
  await page.getByRole('group', { name: 'Things to break' }).getByRole('button', { name: /^Hub/ }).click()
  await expect(page.locator('[data-link="hub"]')).toHaveText('down, restore')
  await page.getByLabel('Spoken phrase').fill('turn off the wedging lamp')
  await page.getByRole('button', { name: 'Say phrase' }).click()
  await expect(events.locator('[data-kind="refused"]').filter({ hasText: 'the hub is down' })).toBeVisible()
  await expect(load('wedging-lamp')).toHaveAttribute('data-on', 'true')
  await page.locator('[data-sensor="throwing-air"]').fill('30')
  await expect(page.getByRole('region', { name: 'Simulated conditions' })).toContainText('reported: 30')
})

test('a modem is set on the bench, and a pair says who stands for whom', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/bench`)
  await page.getByRole('button', { name: 'Glaze', exact: true }).click()
  const fields = page.getByRole('group', { name: 'Network and reports' })
  await expect(fields.getByLabel('Modem APN', { exact: true })).toHaveCount(0)
  await fields.getByLabel('Link', { exact: true }).selectOption('modem')
  await fields.getByLabel('Modem APN', { exact: true }).fill('things.invalid')
  await fields.getByLabel('Connects within (s)', { exact: true }).fill('45')
  await fields.getByLabel('Connects within (s)', { exact: true }).press('Enter')
  await fields.getByLabel('Full report (s)', { exact: true }).fill('600')
  await fields.getByLabel('Full report (s)', { exact: true }).press('Enter')
  const kept = async () =>
    (
      (await (await fetch(`${served.url}/api/sites/fernhollow`)).json()) as {
        site: { controllers: { id: string; link: string; modem: object | null; heartbeatS: number }[] }
      }
    ).site.controllers.find((one) => one.id === 'glaze')!
  await expect.poll(kept).toMatchObject({ link: 'modem', modem: { apn: 'things.invalid', joinS: 45 }, heartbeatS: 600 })
  await fields.getByLabel('Link', { exact: true }).selectOption('wifi')
  await expect.poll(kept).toMatchObject({ link: 'wifi', modem: null })
  await page.getByRole('button', { name: 'Drying', exact: true }).click()
  await expect(page.getByText('Drying radio connects it to the network')).toBeVisible()
  await page.getByRole('button', { name: 'Drying radio', exact: true }).click()
  await expect(page.getByText(/^It connects Drying to the network, and/)).toBeVisible()
})
