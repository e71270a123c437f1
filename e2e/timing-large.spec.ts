import type { BrowserContext } from '@playwright/test'
import { longestBlock, putLarge, watchBlocks } from './large'
import { expect, test } from './server'

/** 20 controllers and 200 channels: what a hand waits for. Bounds leave room for a busy machine; targets are said. */

const MOST_MS = 1_500
const VIEWS = ['Bench', 'Ways in', 'Build', 'Trial', 'Logbook'] as const

/** Clicks a view and waits until it is whole; in a page of its own, from another view of the site: cold. ms */
async function opens(context: BrowserContext, site: string, view: (typeof VIEWS)[number]): Promise<number> {
  const own = await context.newPage()
  await own.goto(`${site}/${view === 'Logbook' ? 'build' : 'logbook'}`)
  await own.waitForLoadState('networkidle')
  await watchBlocks(own)
  const opened = await own.evaluate(
    (name) =>
      new Promise<number>((resolve) => {
        const begun = performance.now()
        const link = [...document.querySelectorAll<HTMLElement>('nav a')].find((a) => a.textContent!.startsWith(name))!
        const look = () => {
          const there = document.querySelector('#view h1')?.textContent === name
          const whole = name !== 'Trial' || document.querySelector('[data-load]') !== null
          if (there && whole) requestAnimationFrame(() => resolve(performance.now() - begun))
          else requestAnimationFrame(look)
        }
        link.click()
        look()
      }),
    view,
  )
  await own.waitForTimeout(400)
  const block = await longestBlock(own)
  console.log(`large site, ${view}: open in ${opened.toFixed(0)} ms, longest block ${block.toFixed(0)} ms`)
  await own.close()
  return opened
}

test('20 controllers, 200 channels: each view opens within a second', async ({ page, served }) => {
  const site = await putLarge(served.url)
  for (const view of VIEWS) {
    const first = await opens(page.context(), site, view)
    // others share the machine: what is slow once is opened once more, and the program is what is slow twice
    const best = first < MOST_MS ? first : Math.min(first, await opens(page.context(), site, view))
    expect.soft(best, view).toBeLessThan(MOST_MS)
  }
})

test('200 channels: filling a column, and scrolling the crossbar', async ({ page, served }) => {
  await page.goto(`${await putLarge(served.url)}/ways`)
  await page.locator('[data-cell$="/remote"]').first().waitFor()
  await page.waitForLoadState('networkidle')
  await watchBlocks(page)
  await page.getByRole('button', { name: 'Fill the Rules column' }).click()
  await expect(page.getByRole('button', { name: /^Undo “fill Rules column/ })).toBeVisible()
  await page.waitForTimeout(1500)
  const fill = await longestBlock(page)
  await page.mouse.move(700, 500)
  const frames = page.evaluate(
    () =>
      new Promise<number[]>((resolve) => {
        const gaps: number[] = []
        let last = performance.now()
        const look = (now: number) => {
          gaps.push(now - last)
          last = now
          if (gaps.length < 90) requestAnimationFrame(look)
          else resolve(gaps.slice(1))
        }
        requestAnimationFrame(look)
      }),
  )
  for (let i = 0; i < 45; i++) {
    await page.mouse.wheel(0, 120)
    await page.waitForTimeout(16)
  }
  const late = (await frames).filter((gap) => gap > 25).length
  console.log(`200 channels: fill blocks for ${fill.toFixed(0)} ms; ${late} of 89 frames of scrolling take over 25 ms`)
  expect.soft(fill).toBeLessThan(400)
  expect.soft(late).toBeLessThan(45)
})

test('200 channels: a cell is picked, and nothing blocks the hand', async ({ page, served }) => {
  await page.goto(`${await putLarge(served.url)}/whatif`)
  const cells = page.locator('.left-table button')
  await cells.nth(40).waitFor({ timeout: 30_000 })
  await page.waitForLoadState('networkidle')
  const moved: number[] = []
  for (const index of [40, 300, 700, 41, 301]) {
    // from the press to the frame that shows it
    moved.push(
      await cells.nth(index).evaluate(
        (cell) =>
          new Promise<number>((resolve) => {
            const begun = performance.now()
            ;(cell as HTMLElement).click()
            requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - begun)))
          }),
      ),
    )
    await expect(cells.nth(index)).toHaveAttribute('aria-pressed', 'true')
    await page.waitForTimeout(600)
  }
  const median = moved.sort((a, b) => a - b)[2]!
  console.log(`200 channels, what if: a picked cell is shown after ${moved.map((ms) => ms.toFixed(0)).join(', ')} ms`)
  expect(median).toBeLessThan(150)
})
