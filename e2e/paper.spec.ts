import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Page } from '@playwright/test'
import { expect, test } from './server'

/** What comes out of the printer: the PDF that the browser makes, read by an independent tool (poppler). */

interface Printed {
  readonly pages: number
  /** size of the pages, points: A4 is 595 by 842 (ISO 216) */
  readonly sizes: readonly string[]
  readonly text: string
  /** how far from grey the reddest, greenest and bluest dot of a page is, 0 to 255 */
  readonly colour: number
}

async function printed(page: Page): Promise<Printed> {
  const folder = mkdtempSync(join(tmpdir(), 'vestibule-pdf-'))
  const file = join(folder, 'sheet.pdf')
  await page.pdf({ path: file, preferCSSPageSize: true })
  const info = execFileSync('pdfinfo', ['-l', '99', file], { encoding: 'utf8' })
  const text = execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' })
  const dots = execFileSync('pdftoppm', ['-r', '20', file], { maxBuffer: 1e9 })
  rmSync(folder, { recursive: true })
  return {
    pages: Number(/Pages:\s+(\d+)/.exec(info)![1]),
    sizes: [...info.matchAll(/Page\s+\d+ size:\s+(\d+)\.?\d* x (\d+)/g)].map(([, w, h]) => `${w} x ${h}`),
    text,
    colour: farFromGrey(dots),
  }
}

/** The pages as PPM (P6), one after the other. */
function farFromGrey(ppm: Buffer): number {
  let most = 0
  let at = 0
  while (at < ppm.length) {
    const head = /^P6\s(\d+) (\d+)\s255\s/.exec(ppm.toString('latin1', at, at + 40))!
    const [all, width, height] = head
    const from = at + all.length
    const to = from + Number(width) * Number(height) * 3
    for (let dot = from; dot < to; dot += 3) {
      const [r, g, b] = [ppm[dot]!, ppm[dot + 1]!, ppm[dot + 2]!]
      most = Math.max(most, Math.max(r, g, b) - Math.min(r, g, b))
    }
    at = to
  }
  return most
}

const UPRIGHT = '594 x 841'
const ACROSS = '841 x 594'

/** Sheet, the pages it may take, their sizes, and words that must stand on it. */
const SHEETS: readonly (readonly [
  sheet: string,
  least: number,
  most: number,
  sizes: readonly string[],
  words: RegExp[],
])[] = [
  ['connections', 3, 7, [UPRIGHT], [/Throwing: connections/, /prove it dead/, /U1 D23/, /Mains, supply off/]],
  ['wiring', 2, 4, [ACROSS, UPRIGHT], [/page 1 of 2/, /page 2 of 2/, /8-way relay module/, /10\s*kΩ/]],
  [
    'labels',
    1,
    2,
    [UPRIGHT],
    [/Mains 230 V,/, /breaker 16 A/, /Build 2,/, /K1\s/, /Bench lights/, /prove that with a meter/],
  ],
  ['service', 2, 5, [UPRIGHT], [/Throwing: service sheet/, /vp6/, /Clay-dust fan/]],
  ['flash', 1, 2, [UPRIGHT], [/Throwing: flash steps/, /secrets\.h/]],
  [
    'test',
    2,
    6,
    [UPRIGHT],
    [
      /1\. Controller alone/,
      /3\. With the load/,
      /tested by/,
      /handed over to/,
      /57 passed, 1 failed/,
      /by hand: 58/,
      /indicator of relay/,
    ],
  ],
  ['card', 1, 2, [UPRIGHT], [/how things are worked/, /When the Wi-Fi or the internet is down/, /Do not open a box/]],
]

test.describe('on paper', () => {
  test.use({ colorScheme: 'dark' })
  test('each sheet is A4, black on white, and says what it is for', async ({ page, served }) => {
    for (const [sheet, least, most, sizes, words] of SHEETS) {
      await page.goto(`${served.url}/fernhollow/paper?side=${sheet}`)
      await expect(page.locator(`[data-sheet="${sheet}"] .paper`).first()).toBeVisible()
      const paper = await printed(page)
      expect(paper.pages, sheet).toBeGreaterThanOrEqual(least)
      expect(paper.pages, sheet).toBeLessThanOrEqual(most)
      expect(
        paper.sizes.filter((size) => !sizes.includes(size)),
        sheet,
      ).toEqual([])
      for (const word of words) expect(paper.text, sheet).toMatch(word)
      // the frame of the page is not printed
      expect(paper.text, sheet).not.toMatch(/Nothing to undo|then a letter|Steps of the job/)
      expect(paper.colour, sheet).toBeLessThan(12)
    }
  })
  test('any view prints its content, and not one empty page', async ({ page, served }) => {
    for (const [view, word] of [
      ['bench', /Bench lights/],
      ['ways?side=services', /App service/],
      ['logbook', /modem ordered/],
    ] as const) {
      await page.goto(`${served.url}/fernhollow/${view}`)
      await page.waitForLoadState('networkidle')
      const { text } = await printed(page)
      expect(text, view).toMatch(word)
    }
  })
})
