import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import { HELP } from './help'

/** The fields of the pages, and the columns of the crossbar. */
const source = [
  ...readdirSync('web', { recursive: true, encoding: 'utf8' })
    .filter((name) => /\.tsx$/.test(name) && !name.includes('.test.'))
    .map((name) => join('web', name)),
  'core/ways/columns.ts',
]
  .map((file) => readFileSync(file, 'utf8'))
  .join('\n')
  .toLowerCase()

describe('help beside the fields', () => {
  it.each(Object.keys(HELP))('“%s” is the label of a field', (label) => {
    expect(source.includes(`'${label}'`) || source.includes(`"${label}"`)).toBe(true)
  })
  it('the terms that a newcomer cannot know have one', () => {
    for (const term of [
      'stagger',
      'store after',
      'report gap',
      'settle time',
      'kind',
      'character',
      'reservoir',
      'suppression',
    ])
      expect(HELP[term], term).toBeDefined()
  })
  it('each is one or two short sentences', () => {
    for (const [label, text] of Object.entries(HELP)) {
      expect(text.length, label).toBeLessThanOrEqual(190)
      expect(text, label).toMatch(/^[A-Za-z“].*\.$/)
    }
  })
})
