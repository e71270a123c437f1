import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { readSite, waysTo } from '../site'
import { doorCard } from '.'

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

describe('the card beside the door', () => {
  const text = doorCard(pottery)
  const offline = text.split('## When the Wi-Fi')[1]!.split('## When something')[0]!
  it('names every channel once, with its ways', () => {
    const table = text.split('## When the Wi-Fi')[0]!
    for (const { name } of pottery.channels) expect(table.split(`**${name}**`)).toHaveLength(2)
  })
  it('says of each what still works without the network; a phone only where a modem has a line of its own', () => {
    for (const channel of pottery.channels) {
      const hands = waysTo(pottery, channel.id).filter(({ kind }) => kind === 'wall' || kind === 'remote')
      expect(offline.includes(`**${channel.name}** still works`), channel.id).toBe(hands.length > 0)
    }
    for (const line of offline.split('\n').filter((one) => /still works:.*(phone|hub|say)/.test(one))) {
      const { controller } = pottery.channels.find(({ name }) => line.includes(`**${name}**`))!
      expect(pottery.controllers.find(({ id }) => id === controller)!.link).toBe('modem')
    }
  })
  it('lists what is worked by the network alone as gone until it is back', () => {
    const site = cleanSite()
    const alone = {
      ...site,
      ways: site.ways.filter(({ kind, channel }) => kind !== 'wall' || channel !== 'bench-lamp'),
    }
    expect(doorCard(alone)).toContain('**Not until it is back:** Bench lamp.')
  })
  it('keeps hands out of boxes', () => expect(text).toMatch(/Do not open a box: .*licensed electrician/))
  it('an empty site has a card too', () =>
    expect(doorCard({ ...cleanSite(), channels: [], ways: [] })).toContain('nothing to work yet'))
})
