import type { Page } from '@playwright/test'
import { largeSite } from '../tools/largeSite'

/** Puts the large site into a server; gives its address. */
export async function putLarge(url: string): Promise<string> {
  const site = largeSite()
  const made = await fetch(`${url}/api/sites`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ site }),
  })
  if (made.status !== 201) throw new Error(await made.text())
  return `${url}/${site.id}`
}

/** Notes every block of the page of 50 ms and more (Long Tasks, W3C), from now on. */
export const watchBlocks = (page: Page): Promise<void> =>
  page.evaluate(() => {
    const blocks: number[] = []
    Object.assign(window, { blocks })
    new PerformanceObserver((list) => blocks.push(...list.getEntries().map(({ duration }) => duration))).observe({
      entryTypes: ['longtask'],
    })
  })

/** The longest block since the last look, ms; 0: none reached 50. */
export const longestBlock = (page: Page): Promise<number> =>
  page.evaluate(() => {
    const { blocks } = window as unknown as { blocks: number[] }
    return Math.max(0, ...blocks.splice(0))
  })
