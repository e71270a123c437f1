import { expect, type Locator, type Page } from '@playwright/test'

/**
 * What a hand does that one call cannot: a press that lasts, a thing carried across. It takes hold of what stands
 * still.
 */

export async function press(page: Page, input: string, ms = 80): Promise<void> {
  await page.locator(`[data-switch="${input}"]`).hover()
  await page.mouse.down()
  await page.waitForTimeout(ms)
  await page.mouse.up()
}

interface Spot {
  readonly x: number
  readonly y: number
}

/**
 * Carries one thing to another, and lets go of it when the place below lights up; the spots are counted from the left
 * top of each.
 */
export async function carry(page: Page, what: Locator, at: Spot, to: Locator, onto: Spot): Promise<void> {
  // what comes late moves what is there already
  await page.waitForLoadState('networkidle')
  await what.hover({ position: at })
  const box = (await to.boundingBox())!
  await page.mouse.down()
  const [x, y] = [box.x + onto.x, box.y + onto.y]
  await page.mouse.move(x, y, { steps: 8 })
  await expect
    .poll(async () => {
      const lit = await page
        .locator('[data-over]')
        .first()
        .boundingBox({ timeout: 1000 })
        .catch(() => null)
      return lit && lit.x <= x && x <= lit.x + lit.width && lit.y <= y && y <= lit.y + lit.height
    })
    .toBe(true)
  await page.mouse.up()
}
