import type { Page } from '@playwright/test'
import { press } from './hand'
import { expect, test } from './server'

const load = (page: Page, id: string) => page.locator(`[data-load="${id}"]`)
const lane = (page: Page, id: string) => page.locator(`[data-lane="${id}"]`)
const breaks = (page: Page, name: RegExp) =>
  page.getByRole('group', { name: 'Things to break' }).getByRole('button', { name })

test('the router breaks, a screen lies, and the run is gone back in and played without the fault', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/fernhollow/trial`)
  await expect(page.locator('[data-link="power:throwing"]')).toHaveText('online')
  await page.locator('[data-switch="s1"]').click()
  await expect(load(page, 'bench-lights')).toContainText('phone shows on')
  // the router goes, and Wi-Fi with it
  await breaks(page, /^Router/).click()
  await expect(page.locator('[data-link="wifi"]')).toHaveText('down')
  await page.locator('[data-switch="s1"]').click()
  await expect(load(page, 'bench-lights')).toHaveAttribute('data-on', 'false')
  // the path says how far it came, and the lane that two screens lie
  const path = page.getByTestId('path')
  await expect(path.locator('[data-stop="load"]')).toContainText('25 ms')
  await expect(path.locator('[data-stop="phone"]')).toContainText('still shows on')
  await expect(lane(page, 'bench-lights').locator('[data-wrong]')).toHaveCount(2)
  // without the router's fault the same hands leave nothing wrong; what differs is framed
  await page.getByRole('button', { name: /^Actions/ }).click()
  const deeds = page.getByRole('list', { name: 'Actions of this run' })
  await expect(deeds.getByRole('listitem')).toHaveCount(3)
  await deeds.getByRole('button', { name: /^Delete: Router: failed/ }).click()
  await expect(deeds.getByRole('listitem')).toHaveCount(2)
  await page.getByRole('button', { name: 'Drawn', exact: true }).click()
  await expect(lane(page, 'bench-lights').locator('[data-wrong]')).toHaveCount(0)
  await expect(load(page, 'bench-lights')).toContainText('phone shows off')
  // back to the first press: the lamp is lit again, and the run stands
  await page.getByRole('button', { name: 'Back to previous action' }).click()
  await page.getByRole('button', { name: 'Back to previous action' }).click()
  await page.getByRole('button', { name: 'Forward to next action' }).waitFor()
  await page.getByRole('button', { name: 'Play', exact: true }).click()
  await expect(load(page, 'bench-lights')).toHaveAttribute('data-on', 'false')
})

test('mains are cut and come back: boards in a second, the router in minutes, gone there in an instant', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/fernhollow/trial`)
  await expect(page.locator('[data-link="power:throwing"]')).toHaveText('online')
  await breaks(page, /^Mains/).click()
  await expect(page.locator('[data-link="router"]')).toHaveText('down')
  await breaks(page, /^Mains/).click()
  await expect(page.locator('[data-link="power:throwing"]')).not.toHaveText('')
  await expect(page.locator('[data-link="router"]')).toHaveText('down')
  await page.getByLabel('to', { exact: true }).fill('10:00')
  await page.getByLabel('to', { exact: true }).press('Enter')
  await expect(page.getByTestId('trial-now')).toHaveText('10:00.000')
  await expect(page.locator('[data-link="router"]')).toHaveText('')
  await expect(page.locator('[data-link="power:throwing"]')).toHaveText('online')
})

test('where one stands decides what can be reached, and a contact is welded by name', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/trial`)
  await expect(page.locator('[data-link="power:throwing"]')).toHaveText('online')
  await page.getByRole('group', { name: 'You are' }).getByRole('button', { name: 'away', exact: true }).click()
  await page.locator('[data-switch="s1"]').click()
  await page.getByRole('button', { name: 'As a list' }).click()
  await expect(page.getByRole('list', { name: 'Events of this trial' })).toContainText('you are away')
  await expect(load(page, 'bench-lights')).toHaveAttribute('data-on', 'false')
  await page.getByRole('group', { name: 'You are' }).getByRole('button', { name: 'at the controller' }).click()
  await page.getByRole('button', { name: 'Break another part …' }).click()
  await page.getByPlaceholder(/contact, switch, wire/).fill('Contact Bench lights stuck')
  await page.keyboard.press('Enter')
  await page.locator('[data-switch="s2"]').click()
  await expect(load(page, 'bench-lights')).toHaveAttribute('data-on', 'true')
  await expect(load(page, 'bench-lights')).toContainText('hub shows off (wrong)')
})

test('the time line is read by keyboard', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/trial`)
  await expect(page.locator('[data-link="power:throwing"]')).toHaveText('online')
  await page.locator('[data-switch="s1"]').click()
  await expect(lane(page, 'bench-lights')).toBeVisible()
  await page.keyboard.press('p')
  await page.getByTestId('drawn').focus()
  await page.keyboard.press('ArrowRight')
  await page.keyboard.press('ArrowRight')
  await expect(page.getByTestId('drawn').getByRole('status')).toContainText(/^Bench lights at .*: (on|off)/)
})

test('a scenario is written with its errors in place, kept with the site, played; the run becomes one', async ({
  page,
  served,
}) => {
  await page.goto(`${served.url}/studio-corner/trial`)
  await expect(page.locator('[data-link="power:corner"]')).toHaveText('online')
  // a push must settle: a click alone may be too short for it
  await press(page, 's1', 90)
  await expect(load(page, 'desk-lamp')).toHaveAttribute('data-on', 'true')
  await page.getByRole('button', { name: 'Scenarios', exact: true }).click()
  await page.getByRole('button', { name: 'Record from run' }).click()
  const text = page.getByRole('textbox', { name: 'Scenario (YAML)' })
  await expect(text).toContainText('load: Desk lamp')
  await page.getByRole('button', { name: 'Run scenario' }).click()
  await expect(page.getByText(/✓ passed/)).toBeVisible()
  await page.getByRole('button', { name: 'Add scenario' }).click()
  await expect(text).toContainText('A new one')
  await text.fill('scenario: Bad\nsteps:\n  - { at: 1 s, do: { rock: Nobody } }\n')
  await expect(page.getByRole('alert')).toHaveText('line 3: there is no switch "Nobody" in this site')
  await expect(page.getByRole('button', { name: 'Run scenario' })).toBeDisabled()
  const kept = async (): Promise<number | undefined> => {
    const answer = await fetch(`${served.url}/api/sites/studio-corner`)
    return ((await answer.json()) as { site: { scenarios?: unknown[] } }).site.scenarios?.length
  }
  await expect.poll(kept).toBe(2)
})

test('the acceptance run stands in the crossbar, and leads back into the house', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/trial?side=acceptance`)
  await page.getByRole('button', { name: 'Run acceptance' }).click()
  await page.getByRole('button', { name: 'Run again' }).waitFor({ timeout: 60_000 })
  await page
    .getByRole('button', { name: /^Show in run/ })
    .first()
    .click()
  await expect(page.getByTestId('trial')).toBeVisible()
  await expect(page.getByTestId('trial-now')).not.toHaveText(/^0:0/)
  await page.getByRole('link', { name: /^Ways in/ }).click()
  await expect(page.locator('[data-cell="desk-lamp/wall"] [data-tried="passed"]')).toBeVisible()
})
