import type { Locator, Page } from '@playwright/test'
import { expect, test } from './server'

// Both stories with the keyboard alone: who is left when the router fails, and what to change; and a lamp that is dark,
// from what is seen to the sentence in the logbook. And on a phone.

/** Goes on with Tab until something is in the hand. */
async function tabTo(page: Page, to: Locator, most = 120): Promise<void> {
  for (let i = 0; i < most; i++) {
    if (await to.evaluate((element) => element === document.activeElement)) return
    await page.keyboard.press('Tab')
  }
  throw new Error('Tab does not lead there')
}

test('with the keyboard: what is left when the router fails, and a change that is made and undone', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/fernhollow/bench`)
  await page.locator('#view').focus()
  await page.keyboard.press('g')
  await page.keyboard.press('i')
  await expect(page.getByRole('heading', { name: 'What if', level: 1 })).toBeVisible()
  // one stop in the table, and the arrows from there
  const first = page.getByRole('button', { name: 'Bench lights', exact: true })
  await first.waitFor()
  await tabTo(page, first)
  for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowDown')
  await expect(page.getByRole('button', { name: 'Sink heater', exact: true })).toBeFocused()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('button', { name: /^Sink heater, Router fails: 1 of 2 ways left/ })).toBeFocused()
  await page.keyboard.press('Enter')
  const aside = page.getByRole('complementary', { name: 'Sink heater' })
  await expect(aside).toContainText('when Router fails')
  await expect(aside).toContainText('Somebody can turn it on: switch S8. Lost: app.')
  await expect(aside.getByRole('figure')).toContainText('Router (failed)')

  // away from home the same failure leaves nobody
  await tabTo(page, page.getByRole('button', { name: 'away', exact: true }))
  await page.keyboard.press('Enter')
  await expect(page.getByRole('button', { name: /^Sink heater, Router fails: nobody/ })).toBeVisible()
  await expect(aside).toContainText('Nobody can turn it on')

  // a change, worked through, made and undone
  const spare = page.getByRole('button', { name: 'Apply: Keep a spare supply' })
  await spare.waitFor()
  const before = await aside.getByRole('region', { name: 'Hours by cause' }).innerText()
  await tabTo(page, spare)
  await page.keyboard.press('Enter')
  await expect(page.getByTestId('saved')).toHaveText(/revision 1, saved/)
  await expect(aside.getByRole('region', { name: 'Hours by cause' })).not.toHaveText(before)
  await expect(spare).toBeHidden()
  await page.keyboard.press('u')
  await expect(page.getByTestId('saved')).toHaveText(/revision 2, saved/)
  await expect(spare).toBeVisible()
})

test('with the keyboard: the bench lamp is dark, the switch is found, and the logbook has it', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/studio-corner/logbook`)
  await tabTo(page, page.getByRole('link', { name: 'Find the fault' }))
  await page.keyboard.press('Enter')
  const pick = page.getByLabel('Channel that does not work')
  await pick.waitFor()
  await tabTo(page, pick)
  await page.keyboard.type('Desk')
  const nothing = page
    .getByRole('region', { name: 'Symptoms' })
    .getByRole('group', { name: /^Press S1|^Rock S1/ })
    .getByRole('button', { name: 'Nothing happens' })
  await nothing.waitFor()
  await tabTo(page, nothing)
  await page.keyboard.press('Enter')

  // whoever answers has a switch that is dead: all else is as it should be
  const next = page.getByRole('region', { name: 'Next step' })
  const found = page.getByRole('region', { name: 'Found' })
  const asked: string[] = []
  for (let i = 0; i < 20 && !(await found.isVisible()); i++) {
    const question = await next.getByRole('heading').innerText()
    asked.push(question)
    if (/^(Wire to S1|Switch S1): /.test(question)) await expect(next).toContainText('Switch the breaker off, lock it')
    await page.keyboard.press(/S1/.test(question) && !/^Wire to S1/.test(question) ? '2' : '1')
    await expect(next.getByRole('heading').or(found).first()).not.toHaveText(question)
  }
  await expect(found.getByRole('heading', { level: 2 })).toHaveText(/^Switch S1: /)
  // nothing is opened before what can be done outside is used up
  const opened = asked.findIndex((question) => /^(Wire to|Switch) /.test(question))
  expect(asked.slice(opened).some((question) => /phone|hub|house/.test(question))).toBe(false)
  const changed = page.getByLabel('What was changed')
  await tabTo(page, changed)
  await page.keyboard.type('new switch, same type')
  await expect(found).toContainText('Changed: new switch, same type.')
  await expect(found).toContainText('Test again (1)')
  await tabTo(page, page.getByRole('button', { name: 'Write to the logbook' }))
  await page.keyboard.press('Enter')
  await expect(page.getByText('Written to the logbook')).toBeVisible()
  await page.keyboard.press('g')
  await page.keyboard.press('l')
  await expect(
    page.getByText(/Found: Switch S1 .* Changed: new switch, same type\. To test again: Desk lamp/),
  ).toBeVisible()
})

test('at phone width a hidden fault is found by thumb, and a reload loses nothing', async ({ page, served }) => {
  await page.setViewportSize({ width: 390, height: 844 })
  await page.goto(`${served.url}/studio-corner/whatif?side=fault`)
  await page.getByLabel('Channel that does not work').selectOption({ label: 'Desk lamp' })
  await page.getByRole('button', { name: 'Practise: hide a fault' }).click({ timeout: 30_000 })
  const answer = page.getByRole('button', { name: 'Let the simulated house answer' })
  const found = page.getByRole('region', { name: 'Found' })
  await answer.or(found).first().waitFor()
  if (await answer.isVisible()) {
    const box = (await page.getByRole('region', { name: 'Next step' }).locator('button.flex-1').first().boundingBox())!
    expect(Math.min(box.width, box.height)).toBeGreaterThanOrEqual(44)
    await page.reload()
    await answer.or(found).first().waitFor({ timeout: 30_000 })
  }
  for (let i = 0; i < 25 && !(await found.isVisible()); i++) {
    const seen = await page.getByRole('region', { name: 'Seen so far' }).getByRole('listitem').count()
    await answer.click()
    await expect
      .poll(
        async () =>
          (await found.isVisible()) ||
          (await page.getByRole('region', { name: 'Seen so far' }).getByRole('listitem').count()) > seen,
      )
      .toBe(true)
  }
  const words = await found.innerText()
  const hidden = /Hidden was: (.*), [^,]*\.\n/.exec(words)![1]!
  expect(words.split('\n')[0]).toContain(hidden)
  const over = await page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth)
  expect(over).toBeLessThanOrEqual(0)
})
