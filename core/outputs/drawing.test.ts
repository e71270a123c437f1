import Elk from 'elkjs/lib/elk.bundled.js'
import { describe, expect, it } from 'vitest'
import { circuitOf } from '../wiring'
import { readProfile } from '../boards'
import { cleanSite } from '../findings/cleanSite.testkit'
import { compileController } from '../image'
import { buildController } from '.'
import { labelStrip, netlistText, partsList, wiringSvg } from '.'

const site = cleanSite()
const netlist = circuitOf(site, site.controllers[0]!.id)

/** A reader of s-expressions, written apart from the writer. */
function readExpression(text: string): unknown {
  let at = 0
  const read = (): unknown => {
    while (/\s/.test(text[at]!)) at++
    if (text[at] === '(') {
      at++
      const list: unknown[] = []
      for (;;) {
        while (/\s/.test(text[at]!)) at++
        if (text[at] === ')') {
          at++
          return list
        }
        list.push(read())
      }
    }
    const token = /^("(?:[^"\\]|\\.)*"|[^\s()]+)/.exec(text.slice(at))![1]!
    at += token.length
    return token.startsWith('"') ? (JSON.parse(token) as string) : token
  }
  return read()
}

describe('netlist', () => {
  const fed = (board: string | null, coils: string | null, own: string | null) => {
    const other = cleanSite()
    other.controllers[0]!.supply = {
      source: 'boxed-12v-5a',
      board,
      coils,
      own,
      reservoirMicrofarads: 3_300,
      coilsFromLogic: false,
    }
    other.controllers[0]!.parts.push({
      id: 'm' as (typeof other.controllers)[number]['parts'][number]['id'],
      profile: 'gsm-modem',
      name: 'Modem',
    })
    return circuitOf(other, other.controllers[0]!.id)
  }
  it.each([
    ['no supply', netlist],
    ['a supply that feeds everything straight', fed(null, null, null)],
    ['a converter for each', fed('buck-5v-3a', 'buck-5v-3a', 'buck-4v-3a')],
    ['a converter for the board alone', fed('buck-5v-3a', null, null)],
  ] as const)('with %s every pin stands in one net only', (_, one) => {
    const seen = new Map<string, string>()
    for (const net of one.nets) {
      for (const node of net.nodes) {
        const key = `${node.ref}.${node.pin}`
        expect(seen.get(key) ?? net.name, key).toBe(net.name)
        seen.set(key, net.name)
      }
    }
  })
  it('the line goes through the contact to the load, neutral goes straight', () => {
    const of = (name: string) =>
      netlist.nets.find((net) => net.name === name)!.nodes.map((node) => `${node.ref} ${node.pin}`)
    expect(of('L')).toEqual(expect.arrayContaining(['X1 L', 'A1 K1 COM', 'A1 K2 COM']))
    expect(of('N')).toEqual(expect.arrayContaining(['X1 N', 'E1 N', 'E2 N']))
    expect(of('switched Bench lamp')).toEqual(['A1 K1 NO', 'E1 L'])
  })
  it('is written as an s-expression that reads back', () => {
    const [head, , devices, nets] = readExpression(netlistText(netlist)) as [string, unknown, unknown[], unknown[]]
    expect(head).toBe('netlist')
    expect(devices).toHaveLength(netlist.devices.length + 1)
    expect(nets).toHaveLength(netlist.nets.length + 1)
  })
  it('the parts list counts equal parts together and leaves out what is there already', () =>
    expect(partsList(netlist).map((line) => [line.count, line.type])).toEqual([
      [1, 'Dual-core 3.3 V Wi-Fi board, 30 pins'],
      [1, 'supply, not entered yet'],
      [1, '2-way relay module, opto, low-active, 5 V coils'],
      [2, 'push switch'],
    ]))
})

describe('drawing', () => {
  it('draws every device and every line, jumper and contacts, with the cautions at its head', async () => {
    const svg = await wiringSvg(netlist, 'Test', ['Mains can kill.'], new Elk())
    for (const device of netlist.devices) expect(svg).toContain(`>${device.ref}</text>`)
    for (const words of ['Mains can kill.', 'coil-supply jumper removed', 'K1 COM', 'K1 NO', 'K1 NC', 'PE', '+3V3'])
      expect(svg).toContain(words)
    expect(svg.match(/class="(line|mains)"\/>/g)!.length).toBeGreaterThanOrEqual(6)
    expect(svg).not.toContain('NaN')
  })
  it('a label strip has a label for each name', () =>
    expect(
      labelStrip([
        { ref: 'K1', name: 'A & B' },
        { ref: 'S1', name: 'C' },
      ]).match(/<rect/g),
    ).toHaveLength(2))
  it('a name that is too long for its label stands in two rows, closer where they are too short, and whole', () => {
    const rowsOf = (name: string) =>
      [...labelStrip([{ ref: 'K1', name }]).matchAll(/<text[^>]*?(textLength="30"[^>]*)?>([^<]*)<\/text>/g)]
        .slice(1)
        .map(([, closer, text]) => [text, closer !== undefined])
    expect(rowsOf('Bench lights')).toEqual([['Bench lights', false]])
    expect(rowsOf('Boxed supply, 5 V 3 A')).toEqual([
      ['Boxed supply, 5 V', false],
      ['3 A', false],
    ])
    expect(rowsOf('Under-cupboard lights of the glazing kitchen')).toEqual([
      ['Under-cupboard', false],
      ['lights of the glazing kitchen', true],
    ])
  })
})

describe('a board that the tool does not know, typed in by the maker', () => {
  const typed = JSON.stringify({
    id: 'my-tiny-board',
    name: 'My tiny board',
    source: 'the leaflet in its bag',
    logicVolts: 3.3,
    link: 'wifi',
    pinMilliamps: { recommended: 8, absolute: 12, total: 60 },
    internalPullKiloohms: { least: 40, most: 90 },
    drawMilliamps: { idle: 50, peak: 250 },
    regulator: { kind: 'linear', milliamps: 300, degreesPerWatt: 150 },
    firmwareAfterMs: 200,
    storeEndurance: 100000,
    port: 'board-core',
    left: [
      { kind: 'power', label: '3V', volts: 3.3 },
      { kind: 'gpio', label: 'P1', gpio: 31, can: ['output', 'input', 'pull-up'] },
      {
        kind: 'gpio',
        label: 'P2',
        gpio: 32,
        can: ['output', 'input', 'pull-up'],
        startActivity: { level: 'pulses', ms: 40, what: 'the loader knocks' },
      },
    ],
    right: [
      { kind: 'gpio', label: 'P3', gpio: 33, can: ['output', 'input', 'pull-up'] },
      { kind: 'gpio', label: 'P4', gpio: 34, can: ['input', 'pull-up'] },
      { kind: 'gpio', label: 'P5', gpio: 35, can: ['input', 'pull-up'] },
    ],
    hidden: [],
    pairs: [],
    boxed: null,
    settings: [],
    programming: ['Press the only button.'],
  })
  it('goes through plan, drawing, image and build', async () => {
    const answer = readProfile(typed)
    if (!answer.ok || 'kind' in answer.profile) throw new Error('not a board')
    const own = cleanSite()
    own.profiles.boards.push(answer.profile)
    own.controllers[0]!.board = 'my-tiny-board'
    own.controllers[0]!.pins = {}
    const { planAndWrite } = await import('../pins')
    planAndWrite(own, 'corner')
    expect(own.controllers[0]!.pins).toMatchObject({
      'out:bench-lamp': { pin: 'P1' },
      'out:shelf-lamp': { pin: 'P3' },
      'in:s1': { pin: 'P4' },
      'in:s2': { pin: 'P5' },
    })
    expect(compileController(own, 'corner').channels.map((channel) => channel.gpios)).toEqual([[31], [33]])
    expect(await wiringSvg(circuitOf(own, own.controllers[0]!.id), 'Tiny', [], new Elk())).toContain('P1 (GPIO 31)')
    expect(
      buildController(own, 'corner', []).files.find((file) => file.name === 'sheets/flash-steps.md')!.text,
    ).toContain('Press the only button.')
  })
  it.each([
    [
      'a label that stands twice',
      typed.replace('"label":"P2"', '"label":"P1"'),
      'left[2].label: label P1 stands twice on this board',
    ],
    ['a wrong unit', typed.replace('"logicVolts":3.3', '"logicVolts":1.8'), 'logicVolts: Invalid input'],
    ['an unknown capability', typed.replace('"pull-up"]', '"pull-sideways"]'), 'left[1].can[2]: Invalid option'],
    ['truncated text', typed.slice(0, 40), 'the text is not whole JSON'],
  ])('refuses %s with the place', (_, text, message) => {
    const answer = readProfile(text)
    expect(answer.ok).toBe(false)
    if (!answer.ok) expect(answer.message).toContain(message)
  })
})
