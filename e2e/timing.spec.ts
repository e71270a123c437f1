import { press } from './hand'
import { expect, test } from './server'

/** What is timed runs alone, after everything else: see playwright.config.ts. */

test('from press to lamp drawn', async ({ page, served }) => {
  await page.goto(`${served.url}/studio-corner/trial`)
  await expect(page.locator('[data-link="power:corner"]')).toHaveText('online')
  const times: number[] = []
  for (let i = 0; i < 12; i++) {
    const before = await page.locator('[data-load="desk-lamp"]').getAttribute('data-on')
    const measured = page.evaluate(
      (was) =>
        new Promise<number>((resolve) => {
          let start = 0
          const lamp = document.querySelector('[data-load="desk-lamp"]')!
          document
            .querySelector('[data-switch="s1"]')!
            .addEventListener('pointerdown', () => (start = performance.now()), { once: true, capture: true })
          const observer = new MutationObserver(() => {
            if (lamp.getAttribute('data-on') === was) return
            observer.disconnect()
            // the frame after the change has been painted when the next one begins
            requestAnimationFrame(() => resolve(performance.now() - start))
          })
          observer.observe(lamp, { attributes: true, attributeFilter: ['data-on'] })
        }),
      before,
    )
    await press(page, 's1', 90)
    times.push(await measured)
    await page.waitForTimeout(60)
  }
  times.sort((a, b) => a - b)
  console.log(
    `press to lamp drawn: median ${times[6]!.toFixed(1)} ms, worst ${times[11]!.toFixed(1)} ms of ` +
      `${times.length} (25 ms of it is the settle time)`,
  )
  expect(times).toHaveLength(12)
  expect(times[6]).toBeLessThan(150)
})

test('200 channels: from keystroke to the next frame', async ({ page, served }) => {
  const site = {
    ...(
      (await (await fetch(`${served.url}/api/sites/studio-corner`)).json()) as {
        site: { channels: { id: string; name: string }[]; ways: unknown[] }
      }
    ).site,
    id: 'large',
    name: 'Large',
  }
  const base = site.channels[0]!
  site.channels = [
    ...site.channels,
    ...Array.from({ length: 198 }, (_, i) => ({ ...base, id: `lamp-${i}`, name: `Lamp ${i}`, load: null })),
  ]
  const made = await fetch(`${served.url}/api/sites`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ site }),
  })
  expect(made.status).toBe(201)
  await page.goto(`${served.url}/large/ways`)
  await page.locator('[data-cell="lamp-3/wall"]').focus()
  await page.evaluate(() => {
    const measured: number[] = []
    Object.assign(window, { measured })
    // from the key's own event to the end of the frame that it made
    window.addEventListener(
      'keydown',
      (event) => requestAnimationFrame(() => setTimeout(() => measured.push(performance.now() - event.timeStamp))),
      { capture: true },
    )
  })
  for (let i = 0; i < 30; i++) {
    await page.keyboard.press(i % 10 === 4 ? 'Enter' : i % 10 === 5 ? 'Escape' : i % 10 === 9 ? 'Delete' : 'ArrowDown')
    await page.waitForTimeout(60)
  }
  const times = await page.evaluate(() => (window as unknown as { measured: number[] }).measured)
  times.sort((a, b) => a - b)
  console.log(`200 channels, keystroke to paint: median ${times[15]!.toFixed(1)} ms, p95 ${times[28]!.toFixed(1)} ms`)
  expect(times).toHaveLength(30)
  // the target is 50 ms; the bound leaves room for a machine that is busy with something else, and is still below what
  // a whole redraw takes
  expect(times[15]).toBeLessThan(90)
})
