import { describe, expect, it } from 'vitest'
import { fernhollow } from '../../tools/demoSites'
import { parseSite } from '../site'
import { namesakesOf, renameAlong } from '.'

const site = fernhollow()
const channel = site.channels.find(({ id }) => id === 'wedging-lamp')!

describe('what bears a channel’s name', () => {
  const found = namesakesOf(site, channel.id)
  it('is its point, widget, entity, key and spoken name, each once', () => {
    const kinds = new Set(found.map(({ what }) => what.split(' ')[0]))
    for (const kind of ['point', 'widget', 'entity', 'spoken']) expect(kinds).toContain(kind)
    expect(new Set(found.map(({ key }) => key)).size).toBe(found.length)
    for (const { name } of found) expect(name.toLowerCase()).toContain('wedging lamp')
  })
  it('goes along where it is ticked; what is spoken stays in small letters, and the rest stays as it was', () => {
    const draft = structuredClone(site)
    const along = new Set(found.filter(({ what }) => !what.startsWith('entity')).map(({ key }) => key))
    renameAlong(draft, channel.id, 'Wheel lamp', along)
    expect(parseSite(draft).ok).toBe(true)
    const after = namesakesOf(draft, channel.id)
    expect(after.map(({ key }) => key)).toEqual(found.filter(({ key }) => along.has(key)).map(({ key }) => key))
    expect(after.find(({ what }) => what === 'spoken name')!.name).toBe('wheel lamp')
    expect(draft.hubs).toEqual(site.hubs)
  })
  it('a name within a longer one is put in its place', () => {
    const draft = structuredClone(site)
    const way = draft.ways.find((one) => one.kind === 'voice' && one.channel === channel.id)!
    if (way.kind === 'voice') way.name = 'pottery wedging lamp please'
    renameAlong(draft, channel.id, 'Wheel', new Set([`spoken ${way.id}`]))
    expect(way.kind === 'voice' && way.name).toBe('pottery wheel please')
  })
  it('is nothing where the channel is not there', () => expect(namesakesOf(site, 'nobody')).toEqual([]))
})
