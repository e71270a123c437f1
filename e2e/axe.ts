import type { Page } from '@playwright/test'
import axe from 'axe-core'

const WCAG = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']

/** What is asked of a page: every rule of WCAG 2.2 AA, those but some, or a few. */
interface Asked {
  readonly without?: readonly string[]
  readonly only?: readonly string[]
}

/** What axe finds on a page as it stands: the rule, and where it is broken. */
export async function violations(page: Page, { without = [], only }: Asked = {}): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source)
  const options: axe.RunOptions = {
    runOnly: only ? { type: 'rule', values: [...only] } : { type: 'tag', values: WCAG },
    ...(only ? {} : { rules: Object.fromEntries(without.map((rule) => [rule, { enabled: false }])) }),
    // what it found in order is most of what it has to tell, and nobody reads it
    resultTypes: ['violations'],
    preload: false,
  }
  return page.evaluate(async (asked) => {
    const { violations: found } = await (window as unknown as { axe: typeof axe }).axe.run(document, asked)
    return found.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .flatMap(({ target }) => target.join(' '))
          .slice(0, 3)
          .join(' | ')}`,
    )
  }, options)
}
