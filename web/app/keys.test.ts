import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { KEYS } from './keyList'

/** Keys that mean what they mean in every browser: a press is pressed by Enter or Space, a dialog closed by Escape. */
const OF_BROWSERS = new Set(['Enter', ' ', 'Escape'])

/** How a key's name of the browser stands on the list. */
const SPOKEN: Readonly<Record<string, string>> = {
  ArrowUp: '↑',
  ArrowDown: '↓',
  ArrowLeft: '←',
  ArrowRight: '→',
  PageUp: 'Page Up',
  PageDown: 'Page Down',
  '-': '−',
}

const listed = KEYS.flatMap(([, keys]) => keys.map(([key]) => key)).join(' ')

/** The keys that a source file compares an event with, or has in a table of actions. */
function keysIn(source: string): string[] {
  if (!/KeyboardEvent/.test(source)) return []
  const compared = [...source.matchAll(/\bkey(?:\.toLowerCase\(\))? [!=]==? '([^']+)'/g)].map(([, key]) => key!)
  const named = [...source.matchAll(/\b(Arrow(?:Up|Down|Left|Right)|PageUp|PageDown|Home|End|Delete|Backspace|F1)\b/g)]
  return [...compared, ...named.map(([, key]) => key!)]
}

describe('the list of keys', () => {
  const files = readdirSync('web', { recursive: true, encoding: 'utf8' })
    .map((name) => join('web', name))
    .filter((name) => /\.tsx?$/.test(name) && !/\.(test|testkit)\./.test(name))
  const used = files.flatMap((file) => keysIn(readFileSync(file, 'utf8')).map((key) => [file, key] as const))
  it('is found in the sources', () => expect(new Set(used.map(([, key]) => key)).size).toBeGreaterThan(12))
  it('names every key that does something', () => {
    const missing = used.filter(([, key]) => {
      const spoken = SPOKEN[key] ?? key
      return !OF_BROWSERS.has(key) && !listed.toLowerCase().includes(spoken.toLowerCase())
    })
    expect(missing).toEqual([])
  })
  it('does not name one twice in a place', () => {
    for (const [place, keys] of KEYS) expect(new Set(keys.map(([key]) => key)).size, place).toBe(keys.length)
  })
})
