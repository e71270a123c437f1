import { expect, test } from './server'

test('two tabs: a field in the hand stays, both edits are kept, undo is one’s own', async ({
  page,
  context,
  served,
}) => {
  await page.goto(`${served.url}/fernhollow/bench`)
  const other = await context.newPage()
  await other.goto(`${served.url}/fernhollow/bench`)
  const plates = (tab: typeof page) => tab.getByRole('group', { name: 'Controllers' }).getByRole('button')
  const name = (tab: typeof page) => tab.getByRole('textbox', { name: 'Name', exact: true }).first()
  await plates(page).nth(1).click()
  await plates(other).nth(2).click()
  const before = (await plates(page).nth(2).textContent())!
  await expect(name(other)).toHaveValue(before)
  await name(page).fill('Half a na')
  await name(other).fill('Theirs')
  await name(other).press('Enter')
  await expect(page.getByText(/^Changed in another tab: /)).toBeVisible()
  await expect(plates(page).nth(2)).toHaveText('Theirs')
  await expect(name(page)).toHaveValue('Half a na')
  await name(page).press('Enter')
  await expect(plates(other).nth(1)).toHaveText('Half a na')
  // the other tab takes its own back, though ours came after it
  await other.getByRole('heading', { name: 'Bench' }).click()
  await other.keyboard.press('u')
  await expect(plates(page).nth(2)).toHaveText(before)
  await expect(plates(other).nth(1)).toHaveText('Half a na')
})
