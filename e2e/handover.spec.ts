import type { Page } from '@playwright/test'
import { expect, test } from './server'

// A board on the network, and a run that two people share: what the board says ticks the step for both; what only an
// eye can see is asked of either.

const ask = (page: Page, method: string, path: string, body?: object) =>
  page.evaluate(
    async ([verb, to, sent]) => {
      const answer = await fetch(to as string, {
        method: verb as string,
        headers: { 'Content-Type': 'application/json' },
        ...(sent ? { body: JSON.stringify(sent) } : {}),
      })
      return (await answer.json()) as unknown
    },
    [method, path, body] as const,
  )

async function rigUp(page: Page): Promise<void> {
  for (const key of ['app/board-pattern', 'app/board-key/corner'])
    await ask(page, 'PUT', '/api/sites/studio-corner/credentials', { key, value: `${key.slice(4, 13)}-0123456789` })
  await ask(page, 'PUT', '/api/sites/studio-corner/rig', { on: true })
}

async function presses(page: Page, input: string): Promise<void> {
  for (const level of [0, 1]) {
    await ask(page, 'POST', '/api/sites/studio-corner/rig/corner/events', { pin: input, level })
    await page.waitForTimeout(120)
  }
}

test('two browsers share a run that ticks itself', async ({ page, served, browser }) => {
  test.setTimeout(180_000)
  await page.goto(`${served.url}/studio-corner/handover?side=boards`)
  const board = page.locator('[data-board="corner"]')
  await expect(board).toHaveAttribute('data-state', 'never')
  await rigUp(page)
  await expect(board).toHaveAttribute('data-state', 'online', { timeout: 90_000 })
  await page.getByRole('button', { name: 'Test runs' }).click()
  await page.getByRole('button', { name: 'Start test run of Corner' }).click()
  await expect(page.getByRole('heading', { name: /^Press S1 twice/ })).toBeVisible()

  const phone = await browser.newContext({ viewport: { width: 390, height: 844 } })
  const other = await phone.newPage()
  await other.goto(page.url())
  await expect(other.getByRole('heading', { name: /^Press S1 twice/ })).toBeVisible()
  const heard = (one: Page) => one.getByRole('region', { name: 'Heard from the board' })
  await expect(heard(page)).toContainText('Desk lamp turned over, by wall switch')

  // the same switch, heard on both
  await presses(page, 's1')
  for (const one of [page, other]) await expect(heard(one)).toContainText('Desk lamp on, by wall switch')
  await page.waitForTimeout(600)
  await presses(page, 's1')
  for (const one of [page, other]) await expect(heard(one)).toContainText('Desk lamp off, by wall switch')
  // a reload loses nothing of what was heard
  await page.reload()
  await expect(heard(page)).toContainText('Desk lamp off, by wall switch')
  // the eye is beside the phone; the other page goes on with it
  await other.getByRole('button', { name: 'Yes' }).click()
  for (const one of [page, other]) {
    await expect(one.locator('li[data-outcome="passed"]')).toHaveCount(1)
    await expect(one.getByRole('heading', { name: /^Turn Desk lamp on, then off, on the phone/ })).toBeVisible()
  }
  await expect(page.locator('li[data-outcome="passed"]')).toContainText('Heard: Desk lamp on, by wall switch (seq 1)')

  // a wrong cause says so, and ticks nothing
  await presses(page, 's1')
  await expect(heard(other)).toContainText('by wall switch. This step waits for another cause.')
  await ask(page, 'POST', '/api/sites/studio-corner/stand-ins/app/widgets/desk-lamp', { on: false })
  await expect(other.getByText('waiting for: Desk lamp on, by phone')).toBeVisible()

  // what is skipped by one is skipped for both; the record says who told what
  await other.getByRole('button', { name: /^Skip/ }).click()
  await expect(page.locator('li[data-outcome="skipped"]')).toHaveCount(1)
  await phone.close()
})

test('a board that was never here gets in only while its door is open', async ({ page, served }) => {
  await page.goto(`${served.url}/fernhollow/handover?side=boards`)
  const window = page.locator('[data-board="window"]')
  await expect(window).toContainText('never seen')
  await page.getByRole('button', { name: 'Let Window join' }).click()
  await expect(window).toContainText('waited for')
  await window.getByRole('button', { name: /^Close/ }).click()
  await expect(window).toContainText('never seen')
})
