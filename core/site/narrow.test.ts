import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { narrowed, parseSite, plainCopy, readSite, type Site } from '.'

const demo = (): Site => {
  const read = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
  if (!read.ok) throw read.error
  return read.value
}

describe('a site narrowed to a controller', () => {
  const site = demo()

  it.each(site.controllers.map(({ id }) => [id]))('%s: the document stays whole', (id) => {
    const parsed = parseSite(plainCopy(narrowed(site, id, () => true)))
    expect(parsed.ok ? 'whole' : parsed.error.message).toBe('whole')
  })

  it('keeps the other board of a pair, whichever of the two is asked for', () => {
    const boards = (id: string) => narrowed(site, id, () => true).controllers.map((controller) => controller.id)
    expect(boards('drying')).toEqual(['drying', 'drying-radio'])
    expect(boards('drying-radio')).toEqual(['drying', 'drying-radio'])
    expect(boards('yard')).toEqual(['yard'])
  })
})
