import { describe, expect, it } from 'vitest'
import { fernhollow } from '../../tools/demoSites'
import { goneWith, type Site } from '../site'
import { removeChannel, removeController, removeService, removeWay } from '.'

const site = fernhollow()
const after = (change: (draft: Site) => void): Site => {
  const draft = structuredClone(site)
  change(draft)
  return draft
}

describe('what went with what was taken out', () => {
  it('a channel: its ways by their number, its points, widgets and entities by name, and the switch left idle', () => {
    const channel = site.channels.find(({ id }) => id === 'bench-lights')!
    const ways = site.ways.filter((way) => way.channel === channel.id).length
    const { along, idle } = goneWith(
      site,
      after((draft) => removeChannel(draft, channel.id)),
      channel.name,
    )
    expect(along).toMatch(new RegExp(`^${ways} ways, `))
    expect(along).not.toContain(`channel ${channel.name}`)
    expect(idle).toEqual(['S1'])
  })
  it('a way that was meant to go is not said to have gone along', () => {
    const way = site.ways.find(({ kind }) => kind === 'wall')!
    const gone = goneWith(
      site,
      after((draft) => removeWay(draft, way.id)),
      'The wall way',
      1,
    )
    expect(gone.along).toBe('')
    expect(gone.idle).toHaveLength(1)
  })
  it('a controller: the gravest are named, the rest are counted', () => {
    const { along } = goneWith(
      site,
      after((draft) => removeController(draft, 'throwing')),
      'Throwing',
    )
    expect(along).toMatch(/^\d+ ways, channel .* and \d+ more$/)
  })
  it('a service: what hung on it', () => {
    const [service] = site.services
    const { along } = goneWith(
      site,
      after((draft) => removeService(draft, service!.id)),
      service!.name,
    )
    expect(along).toContain(`point of ${service!.name}:`)
  })
  it('nothing, where nothing went', () => expect(goneWith(site, site, 'x')).toEqual({ along: '', idle: [] }))
})
