import Papa from 'papaparse'
import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { compileController } from '../image'
import {
  BuildRefused,
  buildController,
  channelsCsv,
  cString,
  imageChanges,
  imageHeader,
  STAGES,
  testList,
  toCsv,
} from '.'

describe('build', () => {
  const runtime = [
    'runtime/vestibule.h',
    'ports/host/main.cpp',
    'ports/avr/main.cpp',
    'ports/board-core/controller.cpp',
  ].map((name) => ({ name, text: '// firmware\n' }))
  it('gives the same bytes for the same site', () =>
    expect(buildController(cleanSite(), 'corner', runtime)).toEqual(buildController(cleanSite(), 'corner', runtime)))
  it('holds tables, sheets, the runtime and the site, and no secret', () => {
    const { files } = buildController(cleanSite(), 'corner', runtime)
    expect(files.map((file) => file.name)).toEqual([
      'firmware/image.h',
      'firmware/wires_image.h',
      'firmware/secrets.example.h',
      'firmware/Makefile',
      'firmware/runtime/vestibule.h',
      'firmware/ports/host/main.cpp',
      'firmware/ports/board-core/controller.cpp',
      'sheets/service.md',
      'sheets/connections.md',
      'sheets/flash-steps.md',
      'tables/pins.csv',
      'tables/connections.csv',
      'tables/points.csv',
      'tables/hub.yaml',
      'tables/hub-secrets.example.yaml',
      'image.json',
      'site.json',
    ])
    expect(files.find((file) => file.name === 'firmware/secrets.example.h')!.text).toContain(
      'VESTIBULE_WIFI_PASSWORD ""',
    )
  })
  it('is refused while a role has no pin', () => {
    const site = produce(cleanSite(), (draft) => {
      delete draft.controllers[0]!.pins['in:s1']
    })
    expect(() => buildController(site, 'corner', runtime)).toThrow(
      new BuildRefused('Corner: s1 has no pin; plan the pins on the bench first'),
    )
  })
})

describe('image.h', () => {
  it('carries the tables and their hash', () => {
    const image = compileController(cleanSite(), 'corner')
    expect(imageHeader(image)).toMatch(
      /\{W\d+, W\d+, ChannelKind::switched, 0, 1, 0, 1, 0, false, 1, true, 0UL, 0UL, PowerUp::off, 0UL, false, true, true, false, 255, false, false\}/,
    )
    expect(imageHeader(image)).toContain(image.hash)
  })
  it('cannot be broken out of', () =>
    expect(cString('a"; int x; //\\\né?')).toBe('"a\\"; int x; //\\\\\\012\\303\\251\\077"'))
  it('the hash follows the tables, not the names', () => {
    const site = cleanSite()
    const renamed = produce(site, (draft) => {
      draft.channels[0]!.name = 'Other'
    })
    const limited = produce(site, (draft) => {
      Object.assign(draft.channels[0]!, { maxOnMs: 1000 })
    })
    expect(compileController(renamed, 'corner').hash).toBe(compileController(site, 'corner').hash)
    expect(compileController(limited, 'corner').hash).not.toBe(compileController(site, 'corner').hash)
  })
})

describe('what changed since the flash', () => {
  it('says added, removed and changed', () => {
    const before = compileController(cleanSite(), 'corner')
    const after = compileController(
      produce(cleanSite(), (draft) => {
        Object.assign(draft.channels[0]!, { maxOnMs: 1000 })
        draft.ways = draft.ways.filter((way) => way.kind !== 'app' || way.channel !== 'shelf-lamp')
        draft.controllers[0]!.outage = 'service'
      }),
      'corner',
    )
    const site = produce(cleanSite(), (draft) => {
      for (const channel of draft.channels) if (/-lamp$/.test(channel.id)) channel.name = 'Lamp'
    })
    expect(imageChanges(before, after, site)).toEqual([
      { kind: 'changed', what: 'winner after an outage: the wall → the service' },
      // two of one name are told apart
      { kind: 'changed', what: 'channel Lamp (bench-lamp), longest time on: none → 1 s' },
      { kind: 'removed', what: 'point vp2 of Lamp (shelf-lamp)' },
    ])
  })
  it('says nothing for equal tables', () =>
    expect(imageChanges(compileController(cleanSite(), 'corner'), compileController(cleanSite(), 'corner'))).toEqual(
      [],
    ))
})

describe('test list', () => {
  const items = testList(cleanSite(), 'corner')
  it('covers channels × ways, alone and with the load, and a restart of each', () => {
    const ways = new Set(items.flatMap(({ stage, way }) => (stage === 'alone' && way ? [way] : [])))
    expect([...ways].sort()).toEqual(
      cleanSite()
        .ways.map(({ id }) => id as string)
        .sort(),
    )
    for (const { id } of cleanSite().channels) {
      expect(items.some((item) => item.key.startsWith(`no-load:start:${id}`))).toBe(true)
      expect(items.filter((item) => item.stage === 'load' && item.channel === id)).toHaveLength(1)
    }
  })
  it('keeps the safe order', () => {
    const stages = items.map((item) => STAGES.indexOf(item.stage))
    expect(stages).toEqual([...stages].sort((a, b) => a - b))
  })
  it('has a key for each', () => expect(new Set(items.map((item) => item.key)).size).toBe(items.length))
})

describe('CSV (RFC 4180)', () => {
  it('reads back as written', () => {
    const { data } = Papa.parse<Record<string, string>>(channelsCsv(cleanSite()), {
      header: true,
      skipEmptyLines: true,
    })
    expect(data[0]).toMatchObject({ id: 'bench-lamp', name: 'Bench lamp', wall: 'S1', app: 'vp1', hub: 'bench-lamp' })
  })
  it.each(['=1+1', '=1\n+1', '\n=1+1', '  @x\ny', '\tx', '-1+\r\n2'])('does not let %j run as a formula', (cell) => {
    const [, row] = Papa.parse<string[]>(toCsv(['name'], [[cell]])).data
    expect(row).toEqual([`'${cell}`])
  })
  it('leaves what is no formula as it is', () =>
    expect(toCsv(['name', 'watts'], [['a=b', -5]])).toBe('name,watts\r\na=b,-5\r\n'))
})
