import { cpuMilliseconds } from '../cpuTime.testkit'
import { describe, expect, it } from 'vitest'
import { cleanSite } from '../findings/cleanSite.testkit'
import { choices } from '../seeded'
import { newInput, newSwitched, optoModule, type Site } from '../site'
import { assign, FORBIDDEN, planPins, replanRoles } from '.'
import { connectionsOf } from '../wiring'
import { optoChain } from '../electrics'

/** The least cost by trying everything. */
function bruteForce(costs: number[][], columns: number): number {
  let best = FORBIDDEN
  const walk = (row: number, used: number, cost: number) => {
    if (cost >= best) return
    if (row === costs.length) best = cost
    else
      for (let column = 0; column < columns; column++)
        if (!(used & (1 << column))) walk(row + 1, used | (1 << column), cost + costs[row]![column]!)
  }
  walk(0, 0, 0)
  return best
}

describe('minimum-cost assignment', () => {
  it('equals brute force on 500 random instances, possible and impossible', () => {
    const random = choices(7)
    let impossible = 0
    for (let n = 0; n < 500; n++) {
      const rows = random.whole(1, 6)
      const columns = random.whole(1, 7)
      const density = random.pick([0.15, 0.4, 0.7])
      const costs = Array.from({ length: rows }, () =>
        Array.from({ length: columns }, () => (random.chance(density) ? FORBIDDEN : random.whole(0, 50))),
      )
      const answer = assign(costs, columns)
      const least = bruteForce(costs, columns)
      if (answer.kind === 'impossible') {
        impossible++
        expect(least).toBe(FORBIDDEN)
        // Hall's condition is broken by the rows that are named: together they reach fewer columns than they are.
        const reach = new Set(
          answer.rows.flatMap((row) => costs[row]!.flatMap((cost, column) => (cost < FORBIDDEN ? [column] : []))),
        )
        expect(reach.size).toBeLessThan(answer.rows.length)
      } else {
        expect(answer.cost).toBe(least)
        expect(new Set(answer.columns).size).toBe(rows)
      }
    }
    expect(impossible).toBeGreaterThan(50)
    expect(impossible).toBeLessThan(450)
  })
  it('takes no rows at all', () => expect(assign([], 3)).toEqual({ kind: 'assigned', columns: [], cost: 0 }))
})

const withRoles = (outputs: number, inputs: number, board = 'dual-core-wifi-30'): Site => {
  const site = cleanSite(board)
  const controller = site.controllers[0]!
  for (let i = 2; i < outputs; i++) site.channels.push(newSwitched(site, `Lamp ${i}`, controller))
  for (let i = 2; i < inputs; i++) site.inputs.push(newInput(site, `Switch ${i}`, controller, 'momentary'))
  return site
}

describe('pin plan', () => {
  it('16 roles on 25 pins in under 5 ms', () => {
    const site = withRoles(8, 8)
    planPins(site, 'corner')
    const times = Array.from({ length: 20 }, () => {
      return cpuMilliseconds(() => expect(planPins(site, 'corner').kind).toBe('planned'))
    }).sort((a, b) => a - b)
    console.log(`pin plan: 16 roles, median ${times[10]!.toFixed(2)} ms, worst ${times[19]!.toFixed(2)} ms`)
    expect(times[0]!).toBeLessThan(5) // the best run: others share the machine with other tests
  })
  it('never gives an output an input-only pin, keeps off the flash and off the serial log', () => {
    const plan = planPins(withRoles(8, 8), 'corner')
    if (plan.kind !== 'planned') throw new Error(plan.reason)
    const outputs = plan.pins.filter((p) => p.role.startsWith('out:'))
    expect(outputs.every((p) => ![34, 35, 36, 39].includes(p.gpio))).toBe(true)
    expect(plan.pins.every((p) => ![0, 1, 3, 6, 7, 8, 9, 10, 11].includes(p.gpio))).toBe(true)
    expect(new Set(plan.pins.map((p) => p.gpio)).size).toBe(16)
  })
  it('respects a lock, and says whose choice it was', () => {
    const site = cleanSite()
    site.controllers[0]!.pins['out:bench-lamp'] = { pin: 'D2', locked: true }
    const plan = planPins(site, 'corner')
    if (plan.kind !== 'planned') throw new Error(plan.reason)
    expect(plan.pins[0]).toMatchObject({ gpio: 2, locked: true })
    expect(plan.pins[0]!.reason).toContain('locked by you')
  })
  it('explains each choice in a sentence', () => {
    const plan = planPins(cleanSite(), 'corner')
    if (plan.kind !== 'planned') throw new Error(plan.reason)
    for (const pin of plan.pins) expect(pin.reason).toMatch(/^(GPIO \d+|\w+ \(GPIO \d+\)): .*free of start-up duty/)
    expect(plan.pins.find((p) => p.role === 'in:s1')!.reason).toContain('has a pull-up')
  })
  it('names the roles that cannot stand together, and the pins that they share', () => {
    const site = withRoles(2, 2)
    site.inputs.forEach((input) => Object.assign(input, { sense: 'analogue', pull: 'fitted' }))
    for (let i = 0; i < 6; i++)
      site.inputs.push(
        newInput(site, `Dial ${i}`, site.controllers[0]!, 'rocker', { sense: 'analogue', pull: 'fitted' }),
      )
    const plan = planPins(site, 'corner')
    expect(plan).toMatchObject({ kind: 'impossible' })
    if (plan.kind === 'impossible')
      expect(plan.reason).toMatch(/^7 roles need pins .* only 6 can carry them \(VP, VN, D34, D35, D32 and D33\)$/)
  })
  it('replans one role and leaves the others', () => {
    const site = cleanSite()
    const before = { ...site.controllers[0]!.pins }
    site.controllers[0]!.pins['out:bench-lamp'] = { pin: 'D34', locked: false }
    replanRoles(site, 'corner', ['out:bench-lamp'])
    expect(site.controllers[0]!.pins['out:shelf-lamp']).toEqual(before['out:shelf-lamp'])
    expect(site.controllers[0]!.pins['out:bench-lamp']!.pin).not.toBe('D34')
  })
})

describe('pin plan with parts', () => {
  const withParts = (board: string, ...profiles: string[]): Site => {
    const site = cleanSite(board)
    site.controllers[0]!.parts = profiles.map((profile, i) => ({
      id: `x${i + 1}` as Site['controllers'][number]['parts'][number]['id'],
      profile,
      name: `Part ${i + 1}`,
    }))
    return site
  }
  const planned = (site: Site, options = {}) => {
    const plan = planPins(site, 'corner', options)
    if (plan.kind !== 'planned') throw new Error(plan.reason)
    return plan
  }
  it('a serial part gets the two pins of one port: the only one of the 8-bit board, one of several elsewhere', () => {
    const pins = (board: string, part: string) => {
      const plan = planned(withParts(board, part))
      return ['part:x1:rx', 'part:x1:tx'].map((role) => plan.pins.find((pin) => pin.role === role)!.gpio)
    }
    expect(pins('eight-bit-5v', 'short-range-serial-5v')).toEqual([1, 0])
    expect([
      [0, 1],
      [4, 5],
      [8, 9],
      [12, 13],
    ]).toContainEqual(pins('m0-plus-wifi', 'short-range-serial-3v3'))
  })
  it('all I2C parts share one bus', () => {
    const plan = planned(withParts('single-core-wifi-16', 'small-display', 'io-expander-8'))
    const gpios = ['part:x1:sda', 'part:x2:sda', 'part:x1:scl', 'part:x2:scl'].map(
      (role) => plan.pins.find((pin) => pin.role === role)!.gpio,
    )
    expect(gpios[0]).toBe(gpios[1])
    expect(gpios[2]).toBe(gpios[3])
    expect([
      [4, 5],
      [14, 12],
    ]).toContainEqual([gpios[0], gpios[2]])
  })
  it('what the board cannot carry goes to the expander, by its name', () => {
    const site = withParts('single-core-wifi-16', 'io-expander-16')
    for (let i = 0; i < 14; i++) site.channels.push(newSwitched(site, `More ${i}`, site.controllers[0]!))
    const plan = planned(site)
    expect(plan.pins.filter((pin) => /^x1\.\d+$/.test(pin.label)).length).toBeGreaterThan(8)
    expect(plan.pins.find((pin) => pin.label.startsWith('x1.'))!.reason).toMatch(
      /^x1\.\d+: the best that is left, but high at start: .* and is reached through an expander/,
    )
  })
  it('names the pair for which no pins are free', () => {
    const plan = planPins(withParts('single-core-wifi-16', 'gsm-modem', 'short-range-serial-3v3'), 'corner')
    expect(plan).toMatchObject({ kind: 'impossible' })
    if (plan.kind === 'impossible') expect(plan.reason).toContain('no free pair of pins can carry them')
  })
  it('64 roles over the board and its expanders in under 20 ms', () => {
    const site = withParts(
      'm0-plus-wifi',
      'io-expander-16',
      'io-expander-16',
      'io-expander-16',
      'infrared-receiver',
      'short-range-serial-3v3',
    )
    for (let i = 0; i < 40; i++) site.channels.push(newSwitched(site, `Lamp ${i}`, site.controllers[0]!))
    for (let i = 0; i < 11; i++) site.inputs.push(newInput(site, `Switch ${i}`, site.controllers[0]!, 'momentary'))
    const times = Array.from({ length: 41 }, () => {
      return cpuMilliseconds(() => expect(planned(site).pins).toHaveLength(64))
    }).sort((a, b) => a - b)
    console.log(
      `pin plan: 64 roles over board and three expanders, best ${times[0]!.toFixed(1)} ms, median ` +
        `${times[20]!.toFixed(1)} ms, worst ${times[40]!.toFixed(1)} ms`,
    )
    expect(times[0]!).toBeLessThan(20)
  })
  it('keeps what is soldered: a wire moves only where that mends something', () => {
    const site = cleanSite()
    const pins = site.controllers[0]!.pins
    pins['out:bench-lamp'] = { pin: 'D27', locked: false } // a little dearer than D23: stays
    pins['out:shelf-lamp'] = { pin: 'D14', locked: false } // pulses at start: moves
    const label = (plan: ReturnType<typeof planned>, role: string) => plan.pins.find((pin) => pin.role === role)!.label
    const kept = planned(site, { keepSoldered: true })
    expect(label(kept, 'out:bench-lamp')).toBe('D27')
    expect(label(kept, 'out:shelf-lamp')).not.toBe('D14')
    expect(label(kept, 'in:s1')).toBe(pins['in:s1']!.pin)
    expect(label(planned(site), 'out:bench-lamp')).toBe('D23')
  })
})

describe('opto chain (hand-worked, common practice values)', () => {
  const module = { ...optoModule(2), coilJumper: 'fitted' as const }
  it(
    'jumper on, 3.3 V logic: 5.0 − 3.3 = 1.7 V left; the opto LED at half a milliamp takes 1.12 V, so ' +
      '(1.7 − 1.12) V / 1 kΩ = 0.58 mA',
    () => {
      const chain = optoChain(module, 3.3)
      expect(chain.offVolts).toBeCloseTo(1.7)
      expect(chain.offMilliamps).toBeCloseTo(0.58, 1)
      expect(chain.releaseMarginVolts).toBeCloseTo(-0.7)
    },
  )
  it('jumper off: nothing is left across the chain', () =>
    expect(optoChain({ ...module, coilJumper: 'removed' }, 3.3)).toMatchObject({
      offVolts: 0,
      offMilliamps: 0,
      releaseMarginVolts: 1,
    }))
  it('5 V logic with the jumper on lets go too', () => expect(optoChain(module, 5).offMilliamps).toBe(0))
  it('on, from 5 V: both LEDs take 2.97 V at 2 mA, so about 2 mA flow', () =>
    expect(optoChain(module, 5).onMilliamps).toBeCloseTo(2.0, 1))
})

describe('connection list', () => {
  it('begins with the common ground, ends with mains, and puts the line through the contact', () => {
    const rows = connectionsOf(cleanSite(), 'corner')
    expect(rows[0]).toMatchObject({ from: 'G1 −', to: 'U1 GND' })
    expect(rows.findIndex((row) => row.mains)).toBeGreaterThan(rows.findLastIndex((row) => !row.mains))
    expect(rows.filter((row) => row.to.endsWith('COM')).every((row) => row.from === 'X1 L')).toBe(true)
  })
})
