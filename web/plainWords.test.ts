import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { textsOf } from './texts.testkit'

/**
 * Plain words: what a maker would say to another across the bench. One verb an action (add, edit, save, copy, delete,
 * undo, import, export, print, build, flash, run, test, accept), headings that are nouns, ordinary order.
 */

/** What no text says any more, and what it says instead. */
const FORBIDDEN: readonly (readonly [pattern: RegExp, instead: string])[] = [
  [/\bA moment …/, 'Loading …'],
  [/\banew\b/i, 'again, or Restart'],
  [/\b(take|takes|taken|taking) (it|this|the|them|all|mine|\S+|“[^”]*”)?( \S+)? ?out\b/i, 'delete'],
  [/\boff the table\b|\bon the table yet\b|\bput it on the table\b/i, 'delete, add to bench'],
  [/\bforgets?\b|\bforgotten\b(?! evening)/i, 'delete'],
  [/\bis kept\b|\bare kept\b|, kept\b|\bnot kept\b|\bkeep this run\b/i, 'saved, stored'],
  [/\b\d+ to settle|\bnothing to settle|\bto settle\b/i, '8 findings, no findings'],
  [/\bput up anew\b|\bbeing put up\b/i, 'starting the simulation'],
  [/: mend\b|\bmend it\b/i, 'restore'],
  [/\bnobody (has )?(said|looked|knows|sees|named|measured)\b/i, 'not entered, not checked, unknown'],
  [/% in hand\b|\blittle in hand\b/, 'headroom'],
  [
    /\b(messages|changes|writes|bytes|values|points|widgets|kB|MB) a (day|month|device|channel)\b/i,
    'per day, per month',
  ],
  [/\beach (\$\{[^}]*\}|\d+) ?(ms|s|min|h)\b/, 'every 2 s'],
  [/\bof the \$\{[^}]*\} (devices|points)\b/, '3 of 4 devices'],
  [/\bI fit\b|\bI mean\b|\bI have closed\b/, 'a command: Fit a snubber'],
  [/\bits twin\b|\bnext room\b/i, 'Copy controller'],
  [/\blast by \b|\bbelieves\b|\bknows nothing\b/, 'by wall switch, shows on (wrong)'],
  [/\bGive it (a|an)\b/, 'Add …'],
  [/\bwritten down\b|\bwrite something down\b/i, 'saved, New note'],
  [/\bcode that is never heard\b|\bPIN that everybody tries\b|\bshown a single time\b/, 'the problem by its name'],
  [/\bwhat it gives\b|\btaken for one another\b|\btry a line\b/i, 'Preview, Names that sound alike, Try a phrase'],
]

/** A press says a verb and its thing. */
const BARE = /^(Keep|Make it|Add it|Does|Set it|Write|Say|Leave it|Works|By|Take|Forget|out|forget)$/

const texts = textsOf(
  'web',
  'core/findings',
  'core/outputs',
  'core/services',
  'core/ways',
  'core/trial',
  'core/imports',
)
const atServer = textsOf('server', 'cli')
const place = ({ file, line, text }: { file: string; line: number; text: string }) =>
  `${file}:${line}: ${text.slice(0, 90)}`

describe('plain words', () => {
  it('there are texts to be read', () => {
    expect(texts.length).toBeGreaterThan(1500)
    expect(texts.some(({ text }) => text === 'Save profile')).toBe(true)
  })
  it.each(FORBIDDEN)('%s is said as: %s', (pattern) => {
    expect([...texts, ...atServer].filter(({ text }) => pattern.test(text)).map(place)).toEqual([])
  })
  it('no press is a bare verb', () => expect(texts.filter(({ text }) => BARE.test(text)).map(place)).toEqual([]))
  it('a heading or label does not begin with “What”', () =>
    expect(
      texts.filter(({ text }) => /^What (is|it|may|a|the|there)\b/.test(text) && !text.endsWith('.')).map(place),
    ).toEqual([]))
  it('titles of findings begin with a capital', () => {
    const files = textsOf('core/findings').map(({ file }) => file)
    const titles = [...new Set(files)].flatMap((file) =>
      [...readFileSync(file, 'utf8').matchAll(/\btitle: '([^']+)'/g)].map(([, title]) => title!),
    )
    expect(titles.length).toBeGreaterThan(80)
    expect(titles.filter((title) => !/^[A-Z0-9]/.test(title))).toEqual([])
  })
  it('the README and the docs quote no word that is gone from the screen', () => {
    const words =
      /“(Put it on the table|Begin anew|Keep the profile|Make the site|Take \w+ out|Keep|Plan, keep soldered)”/
    for (const file of ['README.md', 'docs/adding.md', 'docs/formats.md', 'docs/set-ups.md'])
      expect(words.exec(readFileSync(file, 'utf8'))?.[0] ?? null, file).toBeNull()
  })
})
