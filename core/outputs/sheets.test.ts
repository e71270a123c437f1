import { readFileSync } from 'node:fs'
import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { connectionsOf, wireColour } from '../wiring'
import { planAndWrite } from '../pins'
import { FANS } from '../boards'
import { cleanSite } from '../findings/cleanSite.testkit'
import { compileController } from '../image'
import { controllerOf, newInput, newStepped, readSite, type Site } from '../site'
import { addAppWay, addHubWay, addWallWay } from '../ways'
import {
  buildController,
  flashSteps,
  imageHeader,
  MAINS_CAUTIONS,
  serviceSheet,
  stageCautions,
  testList,
  wiringSheet,
} from '.'

/** The clean site with a fan on a selector of three bits. */
function withFan(): Site {
  const site = cleanSite()
  const corner = site.controllers[0]!
  const fan = newStepped(site, 'Fan', corner, FANS[0]!, { load: site.loads[1]!.id })
  site.channels.push(fan)
  const knob = newInput(site, 'R1', corner, 'selector', { bits: 3, table: [0, 1, 2, 3, 4, null, null, null] })
  site.inputs.push(knob)
  addWallWay(site, fan, knob)
  addAppWay(site, fan)
  addHubWay(site, fan)
  planAndWrite(site, corner.id)
  return site
}
const site = withFan()
const corner = site.controllers[0]!

describe('names as they were typed', () => {
  const typed = '*Desk* [lamp](x) `a` <b>|</b>'
  const named = produce(site, (draft) => {
    draft.channels[0]!.name = typed
    draft.controllers[0]!.name = typed
    draft.inputs[0]!.name = typed
    for (const { widgets, points } of draft.services) for (const one of [...widgets, ...points]) one.name = typed
  })
  it.each([
    ['service', serviceSheet(named, named.controllers[0]!)],
    ['connections', wiringSheet(named, named.controllers[0]!)],
    ['flash steps', flashSteps(named, named.controllers[0]!, compileController(named, 'corner'))],
  ])('%s: no name makes emphasis, code, a link, HTML or a column', (_, sheet) => {
    expect(sheet).toContain('Desk')
    // what is left when everything behind a backslash is taken out
    const live = sheet.replace(/\\./g, '')
    expect(live).not.toMatch(/\*Desk|\[lamp\]|`a`|<b>/)
    const columns = live.split('\n').filter((line) => line.startsWith('|'))
    for (const [i, line] of columns.entries())
      if (line.startsWith('|---')) expect(columns[i + 1]!.split('|').length).toBe(line.split('|').length)
  })
})

describe('service sheet', () => {
  const sheet = serviceSheet(site, corner)
  it('lists each point with type, range, default and access', () => {
    expect(sheet).toContain('| vp1 | Bench lamp | integer | 0 | 1 | 1 | 0 |  | read-write |')
    expect(sheet).toContain('| vp3 | Fan | integer | 0 | 4 | 1 | 0 |  | read-write |')
  })
  it('lists each widget with its point, and the topics', () => {
    expect(sheet).toContain('| Fan | slider | vp3 |')
    // a service with a wire of its own is spoken to over that, and its points are not on the broker of the house
    expect(sheet).toContain('| vp1 | point/1/is: VALUE | point/1/ask | point/1/kept |')
    expect(sheet).toContain('The last number is on entry/count.')
    expect(sheet).not.toContain('corner/vp/1/set')
    expect(sheet).toContain('**Reached by this build**, over a broker of the service’s own')
    expect(sheet).toMatch(/VESTIBULE_APP_BOARD_KEY \| wires_image\.h/)
    expect(sheet).toContain(
      '| Bench lamp | vestibule/test-bench/corner/bench-lamp/set | on, off, toggle | ' +
        'vestibule/test-bench/corner/bench-lamp/state |',
    )
  })
  it('says before its steps that a board’s program has no network, and of a reading the same in both tables', () => {
    const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
    if (!parsed.ok) throw parsed.error
    const without = produce(parsed.value, (draft) => {
      controllerOf(draft, 'yard')!.parts = []
    })
    const of = (id: string, from = parsed.value): string => serviceSheet(from, controllerOf(from, id)!)
    expect(of('yard', without).split('## ')[0]).toMatch(/has no network: no part of it is a modem/)
    expect(of('yard')).not.toContain('has no network')
    expect(of('glaze')).not.toContain('has no network')
    expect(of('glaze').split('every 60 s, and at once when it changes by more than 2 %')).toHaveLength(3)
  })
  it('a bar in a name does not break a table', () => {
    const odd = produce(site, (draft) => {
      draft.services[0]!.points[0]!.name = 'A | B'
    })
    expect(serviceSheet(odd, odd.controllers[0]!)).toContain('| vp1 | A \\| B | integer')
  })
})

describe('cautions', () => {
  it('stand on every sheet that leads to mains', () => {
    for (const caution of MAINS_CAUTIONS) {
      expect(wiringSheet(site, corner)).toContain(caution)
      expect(flashSteps(site, corner, compileController(site, 'corner'))).toContain(caution)
    }
    expect(stageCautions(site, 'corner', 'load')).toEqual(MAINS_CAUTIONS)
  })
  it('are left out where there is no mains', () => {
    const low = produce(site, (draft) => {
      for (const load of draft.loads) load.supply = 'low-voltage'
    })
    expect(wiringSheet(low, low.controllers[0]!)).not.toContain('Mains can kill')
    expect(stageCautions(low, 'corner', 'load')).toEqual(['Connect the load with its supply off.'])
  })
  it('the flash steps say how this board is programmed, the hash, and the order of tests', () => {
    const image = compileController(site, 'corner')
    const steps = flashSteps(site, corner, image)
    expect(steps).toContain(image.hash)
    expect(steps).toContain('GPIO 0 to ground')
    expect(steps).toContain('controller alone, relays with no load, load')
  })
})

describe('flash steps', () => {
  const stepsAt = (changes: Partial<Site['controllers'][number]>) => {
    const other = cleanSite(changes.board ?? 'dual-core-wifi-30', changes)
    const sheet = flashSteps(other, other.controllers[0]!, compileController(other, 'corner'))
    return sheet.slice(sheet.indexOf('## Steps')).split('\n')
  }
  const at = (lines: readonly string[], words: RegExp) => lines.findIndex((line) => words.test(line))
  it('say what must be unplugged or held before the step that programs', () => {
    const eight = stepsAt({ board: 'eight-bit-5v', link: 'none' })
    expect(at(eight, /wired to D0 and D1 off/)).toBeGreaterThan(0)
    expect(at(eight, /wired to D0 and D1 off/)).toBeLessThan(at(eight, /make flash/))
    const dual = stepsAt({})
    expect(at(dual, /Hold the boot button/)).toBeLessThan(at(dual, /Follow `firmware/))
    expect(at(dual, /First start/)).toBeGreaterThan(at(dual, /Follow `firmware/))
  })
  it('say nothing of a serial log that is off', () => {
    expect(stepsAt({}).join()).toContain('open the serial log at 115200')
    expect(stepsAt({ serialLog: false }).join()).not.toContain('open the serial log')
  })
})

describe('a board that nobody programs', () => {
  const mesh = produce(cleanSite(), (draft) => {
    Object.assign(draft.controllers[0]!, { board: 'mesh-multi-relay', module: null, link: 'none', pins: {} })
    for (const channel of draft.channels) channel.active = 'high'
    planAndWrite(draft as Site, 'corner')
  })
  const { files } = buildController(mesh, 'corner', [{ name: 'runtime/device.h', text: '' }])
  it('gets its parameters and steps, and no firmware or secrets', () => {
    expect(files.map(({ name }) => name)).toEqual([
      'sheets/service.md',
      'sheets/connections.md',
      'sheets/set-up-steps.md',
      'tables/pins.csv',
      'tables/connections.csv',
      'tables/points.csv',
      'tables/hub.yaml',
      'tables/hub-secrets.example.yaml',
      'site.json',
    ])
    const steps = files[2]!.text
    expect(steps).toContain('| S1 | push switch | 0 |')
    expect(steps).toContain('Mains can kill')
    expect(steps).not.toMatch(/firmware\/|make|serial/)
  })
})

describe('connections', () => {
  const rows = connectionsOf(site, 'corner')
  const to = (pattern: RegExp) => rows.filter((row) => pattern.test(row.to)).map((row) => row.to)
  it('every relay of a stepped channel has its own input and its own contact', () => {
    expect(to(/^A1 IN/)).toEqual(['A1 IN1', 'A1 IN2', 'A1 IN3', 'A1 IN4', 'A1 IN5'])
    expect(to(/COM$/)).toEqual(['A1 K1 COM', 'A1 K2 COM', 'A1 K3 COM', 'A1 K4 COM', 'A1 K5 COM'])
  })
  it('the contacts of a regulator share one neutral and one earth', () =>
    expect(rows.filter((row) => row.device === 'E2 Shelf lamp LED' && / (N|PE)$/.test(row.to))).toHaveLength(2))
  it('each bit of a selector has its wire, and they share a common', () =>
    expect(rows.filter((row) => row.device === 'R1 selector, 3 contacts').map((row) => row.to)).toEqual([
      'R1 bit 1',
      'R1 bit 2',
      'R1 bit 3',
      'R1 common',
    ]))
  it('rows are grouped by device', () => {
    const devices = rows.map((row) => row.device).filter((device, i, all) => device !== all[i - 1])
    expect(devices.slice(0, 5)).toEqual([
      'Supply',
      'A1 2-way relay module',
      'S1 push switch',
      'S2 push switch',
      'R1 selector, 3 contacts',
    ])
    expect(new Set(devices).size).toBe(devices.length)
  })
  it.each([
    [230, 'brown', 'blue', 'green-yellow'],
    [120, 'black', 'white', 'green'],
  ] as const)(
    'colours at %i V (IEC 60445; NEC 200.6, 250.119; published, from memory)',
    (volts, line, neutral, earth) => {
      const region = produce(site, (draft) => {
        draft.mains.volts = volts
      })
      expect([wireColour(region, 'line'), wireColour(region, 'neutral'), wireColour(region, 'earth')]).toEqual([
        line,
        neutral,
        earth,
      ])
    },
  )
  it.each([120, 230] as const)('at %i V one colour means one thing', (volts) => {
    const region = produce(site, (draft) => {
      draft.mains.volts = volts
    })
    const colours = CONDUCTORS.map((conductor) => wireColour(region, conductor))
    expect(new Set(colours).size).toBe(CONDUCTORS.length)
  })
})

const CONDUCTORS = [
  'line',
  'neutral',
  'earth',
  'switched',
  'logic-supply',
  'coil-supply',
  'ground',
  'signal',
  'load-plus',
  'load-minus',
] as const

describe('tables of a stepped channel and a selector', () => {
  const image = compileController(site, 'corner')
  it('patterns are bits, the selector’s codes are levels', () => {
    expect(image.channels[2]).toMatchObject({ kind: 'stepped', patterns: [0, 1, 2, 3, 4], gapMs: 30, onLevel: 1 })
    expect(image.inputs[2]).toMatchObject({ kind: 'selector', table: [0, 1, 2, 3, 4, 255, 255, 255] })
    expect(image.channels[2]!.gpios).toHaveLength(3)
  })
  it('the header holds the same, with each owner knowing where its own begin', () => {
    const header = imageHeader(image)
    const word = (text: string) =>
      new RegExp(`constexpr char (W\\d+)\\[\\] VESTIBULE_FLASH = "${text}";`).exec(header)![1]!
    expect(header).toContain(`{${word('r1')}, 2, 3, 0, InputKind::selector`)
    expect(header).toContain(`{${word('fan')}, ${word('fan')}, ChannelKind::stepped, 2, 3, 4, 4, 30, false, 1, true`)
    expect(header).toMatch(
      /constexpr uint8_t PATTERNS\[\] VESTIBULE_FLASH = \{\n {4}0,\n {4}1,\n {4}0,\n {4}1,\n {4}0,\n {4}1,\n {4}2,\n {4}3,\n {4}4,\n\};/,
    )
  })
  it('the test list asks for all detents and all levels', () => {
    const actions = testList(site, 'corner')
      .filter((item) => item.channel === 'fan')
      .map((item) => item.action)
    expect(actions).toContain('Turn R1 through all its positions')
    expect(actions).toContain('Move Fan on the phone (vp3) through all its levels, 0 to 4')
  })
})
