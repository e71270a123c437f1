import { expect, test } from './server'

// The firmware itself, from the page: compiled, connected with the stored credentials, worked from the phone and from
// the switch; a service that is stopped is seen to be gone, and the switch works all the same.
test('the live rig runs the firmware with the stored credentials, and says what is refused', async ({
  page,
  served,
}) => {
  test.setTimeout(120_000)
  await page.goto(`${served.url}/studio-corner/trial?side=rig`)
  await page.getByRole('button', { name: 'Compile and run' }).click()
  const board = page.getByRole('article', { name: 'Corner' })
  // no credential is stored: the service turns the board away, and both say so
  await expect(board.getByText('App service: refused: wrong user or password')).toBeVisible({ timeout: 90_000 })
  await expect(page.getByText(/wrong or missing key|id that is not known/).first()).toBeVisible()
  await page.getByRole('button', { name: 'Stop rig' }).click()
  await page.evaluate(async () => {
    for (const key of ['app/board-pattern', 'app/board-key/corner'])
      await fetch('/api/sites/studio-corner/credentials', {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ key, value: `${key.slice(4, 13)}-0123456789` }),
      })
  })
  await page.getByRole('button', { name: 'Compile and run' }).click()
  await expect(board.getByText('App service: connected')).toBeVisible({ timeout: 90_000 })
  await page.getByRole('button', { name: 'Set Desk lamp to 1' }).click()
  const relay = board.getByRole('row', { name: /Desk lamp/ })
  await expect(relay).toContainText('closed')
  // the hub opens the broker with the login of its own file, and works the same lamp
  await page.getByRole('button', { name: 'Desk lamp off by the hub' }).click()
  await expect(relay).toContainText('open')
  await page.getByRole('button', { name: 'Desk lamp on by the hub' }).click()
  await expect(relay).toContainText('closed')
  await page.getByRole('article', { name: 'App service' }).getByLabel('Stopped').click()
  await expect(board.getByText('App service: connected')).toBeHidden()
  const press = board.getByRole('button', { name: /^Press / }).first()
  await press.hover()
  await page.mouse.down()
  await expect(relay).toContainText('open')
  await page.mouse.up()
})
