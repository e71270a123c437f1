import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { checkSite } from '../findings'
import { cleanSite } from '../findings/cleanSite.testkit'
import { compileController } from '../image'
import { planAndWrite } from '../pins'
import { newInput, newPaired, newPulsed, newStepped, parseSite, type Input, type Sensor, type Site } from '../site'
import {
  addKey,
  addLinkWays,
  addModePoint,
  addRemoteWay,
  addRule,
  addSensorPoint,
  addVoiceWay,
  addWallWay,
  charsUsed,
  duplicateController,
  fillColumn,
  linkTable,
  moveWidget,
  removeChannel,
  removeController,
  removeInput,
  removeSensor,
  renumberPoints,
  rulePath,
  swapPoints,
} from '.'
import {
  cleanPasted,
  credentialsNeeded,
  isDefaultPin,
  keepServiceKind,
  messageBytes,
  modemQuota,
  quotasOf,
  SERVICE_KINDS,
  serviceKindIn,
  shapeTrouble,
} from '../services'

const changed = (change: (site: Site) => void): Site => {
  const site = JSON.parse(JSON.stringify(cleanSite())) as Site
  change(site)
  const parsed = parseSite(site)
  if (!parsed.ok) throw parsed.error
  return site
}

describe('kinds of service', () => {
  it('ten of them, each with steps and what it wants', () => {
    expect(SERVICE_KINDS).toHaveLength(10)
    for (const kind of SERVICE_KINDS) {
      expect(kind.steps.length).toBeGreaterThan(3)
      expect(kind.secrets.length).toBeGreaterThan(0)
      expect(kind.holds.length).toBeGreaterThan(0)
    }
  })
  it('a corrected copy goes before the one that ships, and more can be added', () => {
    const site = changed((s) => {
      keepServiceKind(s, { ...SERVICE_KINDS[0]!, name: 'mine' })
      keepServiceKind(s, { ...SERVICE_KINDS[0]!, id: 'own-kind', name: 'own' })
    })
    expect(serviceKindIn(site, 'datapoint')!.name).toBe('mine')
    expect(serviceKindIn(site, 'own-kind')!.name).toBe('own')
  })
})

describe('quota', () => {
  // two points, each: 20 reports, 20/3 commands (three ways), 288 heartbeats of 300 s
  it('messages a day are those of the mapping', () =>
    expect(quotasOf(cleanSite())[0]).toMatchObject({
      service: 'app',
      perDay: Math.round(2 * (20 + 20 / 3 + 288)),
      fastestMs: 200,
    }))
  it('a month has thirty days', () => {
    const [app] = quotasOf(cleanSite())
    expect(app!.perMonth).toBe(Math.round(2 * (20 + 20 / 3 + 288) * 30))
  })
  it('shares make a whole', () => {
    for (const quota of quotasOf(cleanSite()))
      expect(quota.rows.reduce((sum, row) => sum + row.share, 0)).toBeCloseTo(1, 9)
  })
  it('an update policy caps what goes up', () => {
    const slow = changed((s) => {
      for (const point of s.services[0]!.points) point.update = { policy: 'every', everyMs: 86_400_000 }
    })
    expect(
      quotasOf(slow)[0]!
        .rows.filter((row) => row.reason !== 'commands')
        .every((row) => row.perDay <= 1),
    ).toBe(true)
  })
  // MQTT 3.1.1: 2 fixed + 2 + 10 topic + 2 id + 3 payload, PUBACK 4, two segments of 40
  it('bytes of one message', () => expect(messageBytes('abcdefghij', 3)).toBe(40 + 2 + 2 + 10 + 2 + 3 + 40 + 4))
  it('a modem also pays for staying connected', () => {
    const site = changed((s) => {
      s.controllers[0]!.link = 'modem'
      s.controllers[0]!.modem = { apn: 'things', joinS: 30 }
    })
    expect(modemQuota(site, site.controllers[0]!)!.rows.find((row) => row.reason === 'keep-alive')).toMatchObject({
      perDay: 720,
      bytesPerMonth: 720 * 30 * 84,
    })
    expect(modemQuota(cleanSite(), cleanSite().controllers[0]!)).toBeNull()
  })
})

describe('points', () => {
  it('are numbered anew, and swapped', () => {
    const site = changed((s) => {
      renumberPoints(s, 'app', 'corner', 10)
      swapPoints(s, 'app', s.services[0]!.points[0]!.id, s.services[0]!.points[1]!.id)
    })
    expect(site.services[0]!.points.map((point) => point.vp)).toEqual([11, 10])
  })
  it('a sensor and a mode have points of their own, and the image carries them', () => {
    const site = changed((s) => {
      s.sensors.push({
        id: 'air' as Sensor['id'],
        name: 'Air',
        controller: s.controllers[0]!.id,
        part: null,
        quantity: 'humidity',
        unit: '%',
        everyMs: 5000,
        deadBand: 1.5,
        staleMs: null,
      })
      addSensorPoint(s, s.sensors[0]!)
      addModePoint(s, s.controllers[0]!)
      addRule(s, s.channels[0]!)
    })
    const image = compileController(site, 'corner')
    expect(image.points.map((point) => point.carries)).toEqual(['channel', 'channel', 'sensor', 'mode'])
    expect(image.sensors).toEqual([{ id: 'air', deadBand: 1500, staleMs: 15_000 }])
    expect(image.rules).toEqual([
      { sensor: 0, above: true, on: 70_000, off: 62_000, dwellMs: 120_000, staleOff: true, channel: 0, level: 0 },
    ])
    expect(rulePath(site, site.rules[0]!, () => 'D5').map((one) => one.text)).toContain(
      'on at ≥ 70 %, off at ≤ 62 %, unchanged between',
    )
  })
  it('a widget moves before another', () => {
    const site = changed((s) => moveWidget(s, 'app', 'shelf-lamp', 'bench-lamp'))
    expect(site.services[0]!.widgets.map((widget) => widget.id)).toEqual(['shelf-lamp', 'bench-lamp'])
  })
})

describe('links', () => {
  const site = changed((s) => {
    const corner = s.controllers[0]!
    s.channels.push(
      newStepped(s, 'Fan', corner, { contacts: 2, patterns: [[], [0], [1]], never: [], gapMs: 30 }),
      newPulsed(s, 'Gate', corner),
      newPaired(s, 'Blind', corner),
    )
    fillColumn(s, 'serial')
    fillColumn(s, 'nearby')
  })
  it('no character twice on one controller, over both links', () => {
    const all = site.ways.flatMap((way) => (way.kind === 'link' ? [way.char] : []))
    expect(new Set(all).size).toBe(all.length)
    expect(charsUsed(site, 'corner').size).toBe(all.length)
  })
  it('capital is on, small is off; a fan up and down, a gate one, a blind three', () =>
    expect(linkTable(site, site.links[0]!).map((row) => `${row.char} ${row.target} ${row.action}`)).toEqual([
      'A bench-lamp on',
      'B shelf-lamp on',
      'C fan up',
      'D gate pulse',
      'E blind a',
      'F blind stop',
      'a bench-lamp off',
      'b shelf-lamp off',
      'c fan down',
      'e blind b',
    ]))
  it('two hundred channels still find characters for some, and never a wrong one', () => {
    const many = changed((s) => {
      for (let i = 0; i < 20; i++) s.channels.push(newPulsed(s, `Gate ${i}`, s.controllers[0]!))
      fillColumn(s, 'serial')
    })
    expect(checkSite(many).filter((finding) => finding.id === 'M16')).toEqual([])
  })
})

describe('remotes', () => {
  it('a new key takes the next free command of the remote’s address', () => {
    const site = changed((s) => {
      addRemoteWay(s, s.channels[0]!)
      s.remotes[0]!.keys[0]!.code = { protocol: 'rc5', address: 7, command: 1 }
      addKey(s, s.remotes[0]!, 'More')
    })
    expect(site.remotes[0]!.keys[1]!.code).toEqual({ protocol: 'rc5', address: 7, command: 2 })
  })
  it('a taught key that does nothing yet is used first', () => {
    const site = changed((s) => {
      addRemoteWay(s, s.channels[0]!)
      addKey(s, s.remotes[0]!, 'Idle')
      addRemoteWay(s, s.channels[1]!)
    })
    expect(site.remotes[0]!.keys).toHaveLength(2)
  })
})

describe('same map, next room', () => {
  const source = changed((s) => {
    addRemoteWay(s, s.channels[0]!)
    addVoiceWay(s, s.channels[0]!)
    addLinkWays(s, s.channels[1]!, 'serial')
    addRule(s, s.channels[0]!)
    const gate = newInput(s, 'Fan switch', s.controllers[0]!, 'rocker')
    const dial = newInput(s, 'Fan dial', s.controllers[0]!, 'selector', { table: [0, 1, 1, 1] })
    s.inputs.push(gate, { ...dial, gate: gate.id } as Input)
    addWallWay(s, s.channels[0]!, dial)
    const feed = { from: 'load', load: s.channels[1]!.load! } as const
    Object.assign(s.loads[0]!, { supply: 'low-voltage', feed })
    s.controllers[0]!.modeEntity = { hub: s.hubs[0]!.id, name: 'Corner mode' }
    planAndWrite(s, 'corner')
  })
  const twin = changed((s) => {
    Object.assign(s, JSON.parse(JSON.stringify(source)))
    duplicateController(s, 'corner', 'Attic', 'Attic room')
  })
  it('everything stands once more, and nothing points at the old controller', () => {
    expect(twin.channels).toHaveLength(4)
    expect(twin.ways).toHaveLength(source.ways.length * 2)
    expect(twin.rules).toHaveLength(2)
    expect(twin.channels.slice(2).map((channel) => `${channel.name} in ${channel.room}`)).toEqual([
      'Attic bench lamp in attic-room',
      'Attic shelf lamp in attic-room',
    ])
  })
  it('a copied selector has the copied switch before it, a copied load the copied supply', () => {
    const dial = twin.inputs.find(({ id }) => id === 'attic-fan-dial')
    expect(dial).toMatchObject({ gate: 'attic-fan-switch' })
    const [lamp, adapter] = twin.channels.slice(2).map(({ load }) => twin.loads.find(({ id }) => id === load)!)
    expect(lamp!.feed).toEqual({ from: 'load', load: adapter!.id })
    expect(twin.controllers[1]!.modeEntity).toEqual({ hub: 'hub', name: 'Attic mode' })
  })
  it('a switch before a selector works something, and goes with nothing of the selector’s own', () => {
    expect(checkSite(source).filter(({ where }) => where.id === 'fan-switch')).toEqual([])
    const without = changed((s) => {
      Object.assign(s, JSON.parse(JSON.stringify(source)))
      removeInput(s, 'fan-switch')
    })
    expect(without.inputs.find(({ id }) => id === 'fan-dial')).not.toHaveProperty('gate')
  })
  it('one firmware, many rooms: the tables differ in names only', () => {
    const plain = (id: string): string =>
      JSON.stringify({ ...compileController(twin, id), controller: '', hash: '', seed: 0 })
        .replace(/attic-/g, '')
        .replace(/"(id|topic)":"[^"]*"/g, '')
    expect(plain('attic')).toBe(plain('corner'))
  })
  it('has no findings but those of the original', () =>
    expect(
      checkSite(twin)
        .filter((finding) => finding.severity === 'error')
        .map((finding) => finding.id),
    ).toEqual(
      checkSite(source)
        .filter((finding) => finding.severity === 'error')
        .flatMap((finding) => [finding.id, finding.id]),
    ))
})

describe('removals leave no reference behind', () => {
  const full = changed((s) => {
    for (const column of ['remote', 'voice', 'nearby', 'serial', 'rule'] as const) fillColumn(s, column)
    s.sensors.push({
      id: 'air' as Sensor['id'],
      name: 'Air',
      controller: s.controllers[0]!.id,
      part: null,
      quantity: 'light',
      unit: '%',
      everyMs: 5000,
      deadBand: 1,
      staleMs: null,
    })
    addSensorPoint(s, s.sensors[0]!)
    addRule(s, s.channels[0]!, 'threshold')
  })
  it.each<[string, (site: Site) => void]>([
    ['a channel', (s) => removeChannel(s, 'bench-lamp')],
    ['a sensor', (s) => removeSensor(s, 'air')],
    ['the controller', (s) => removeController(s, 'corner')],
  ])('%s', (_, remove) => {
    const after = produce(full, (draft) => void remove(draft as Site))
    const parsed = parseSite(JSON.parse(JSON.stringify(after)))
    expect(parsed.ok ? 'fine' : parsed.error.message).toBe('fine')
  })
})

describe('credentials', () => {
  it('what a site needs follows from its services', () =>
    expect(credentialsNeeded(cleanSite()).map((need) => need.key)).toEqual([
      'wifi/name',
      'wifi/password',
      'app/board-pattern',
      'app/board-key/corner',
      'hub/host',
      'hub/broker-user/corner',
      'hub/broker-password/corner',
      'hub/user',
      'hub/password',
    ]))
  it.each([
    ['host', '  https://App.Invalid/path/  ', 'app.invalid', 4],
    ['host', 'mqtt://user@broker.invalid:1883/', 'broker.invalid:1883', 3],
    ['host', 'app.invalid', 'app.invalid', 0],
    ['token', ' abc def\n', 'abcdef', 2],
    ['key', '"abc123"', 'abc123', 1],
    ['url', 'https://hook.invalid/a/', 'https://hook.invalid/a', 1],
    ['password', 'two words\r\n', 'two words', 1],
    ['password', ' kept as typed ', ' kept as typed ', 0],
  ] as const)('%s %j becomes %j', (shape, pasted, value, steps) => {
    const cleaned = cleanPasted(shape, pasted)
    expect(cleaned.value).toBe(value)
    expect(cleaned.changes).toHaveLength(steps)
  })
  it.each([
    ['host', 'not a host'],
    ['host', '-bad.invalid'],
    ['token', 'short'],
    ['pin', '12'],
    ['url', 'ftp://x'],
    ['text', ''],
  ] as const)('%s %j does not fit', (shape, value) =>
    expect(shapeTrouble({ shape, pairs: false }, value)).not.toBeNull(),
  )
  it.each([
    ['host', 'a-b.invalid:8080'],
    ['token', 'abcdefgh12345678'],
    ['pin', '4711'],
    ['url', 'http://10.0.0.2/x'],
  ] as const)('%s %j fits', (shape, value) => expect(shapeTrouble({ shape, pairs: false }, value)).toBeNull())
  // a network's passphrase has 8 to 63 characters (IEEE 802.11, from memory)
  it.each([
    ['8391267', false],
    ['83912674', true],
    ['83-91-26', true],
    ['83912674839126748', false],
  ])('a PIN that pairs is a network’s password too: %s', (value, fits) =>
    expect(shapeTrouble({ shape: 'pin', pairs: true }, value) === null).toBe(fits),
  )
  it('usual PINs are known', () => expect([isDefaultPin('1234'), isDefaultPin('4711')]).toEqual([true, false]))
})
