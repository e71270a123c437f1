import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { planPins } from '../pins'
import { BOARDS } from '../boards'
import { choices } from '../seeded'
import { compileSite, NO_PIN } from '../image'
import {
  applyOperations,
  emptySite,
  newController,
  newInput,
  newSwitched,
  parseSite,
  readSite,
  type Site,
} from '../site'
import { addAppWay, addHubWay, addWallWay, fillColumn } from '../ways'
import { checkSite, fixEdit, isBlocking } from '.'

const demo = (name: string): Site => {
  const parsed = readSite(readFileSync(`demo/${name}.json`, 'utf8'))
  if (!parsed.ok) throw parsed.error
  return parsed.value
}

/** Presses the first fix of the gravest finding that has one, again and again. */
function mended(site: Site, most = 60): { site: Site; presses: number } {
  for (let presses = 0; presses < most; presses++) {
    const finding = checkSite(site).find((one) => one.accepted === undefined && one.fixes.length > 0)
    if (!finding) return { site, presses }
    site = applyOperations(site, fixEdit(site, finding, finding.fixes[0]!).patch)
    expect(parseSite(site).ok).toBe(true)
  }
  throw new Error('the fixes chase each other')
}

describe('pressing fixes until none is left', () => {
  it('mends the site that nobody had looked at, and the fixes do not chase each other', () => {
    const { site, presses } = mended(demo('before-review'))
    expect(presses).toBeGreaterThan(10)
    // a wire that nobody has entered is no press away
    expect(checkSite(site).filter(({ id }) => id !== 'C08')).toEqual([])
  })
  it('mends the pottery', () =>
    expect(checkSite(mended(demo('fernhollow')).site).filter((finding) => finding.fixes.length > 0)).toEqual([]))
})

/** A random site on a random board: channels and switches without pins, ways by chance. */
function randomSite(seed: number): Site {
  const random = choices(seed)
  const site = emptySite(`Random ${seed}`)
  const board = random.pick(BOARDS.filter((one) => one.boxed === null))
  const controller = newController(site, 'Box', board.id, { link: board.link, serialLog: random.chance(0.5) })
  site.controllers.push(controller)
  const pins = board.left.length + board.right.length
  for (let i = random.whole(1, Math.floor(pins / 4)); i > 0; i--) {
    const channel = newSwitched(site, `Lamp ${i}`, controller)
    site.channels.push(channel)
    if (random.chance(0.7)) {
      const input = newInput(site, `S${i}`, controller, random.pick(['momentary', 'rocker'] as const), {
        pull: random.pick(['internal', 'internal', 'fitted', 'none'] as const),
        volts: random.pick([3.3, 5] as const),
        cableMetres: random.pick([1, 3, 12]),
      })
      site.inputs.push(input)
      addWallWay(site, channel, input)
    }
    if (random.chance(0.5)) addAppWay(site, channel)
    if (random.chance(0.5)) addHubWay(site, channel)
  }
  return site
}

describe('100 random sites over all open boards', () => {
  const sites = Array.from({ length: 100 }, (_, i) => randomSite(i + 1))
  it('a plan gives every role a pin of its own that can carry it, and is the same each time', () => {
    let planned = 0
    for (const site of sites) {
      const plan = planPins(site, 'box')
      expect(planPins(site, 'box')).toEqual(plan)
      if (plan.kind === 'impossible') {
        expect(plan.roles.length).toBeGreaterThan(0)
        continue
      }
      planned++
      expect(new Set(plan.pins.map((pin) => pin.gpio)).size).toBe(plan.pins.length)
      expect(plan.pins.every((pin) => Number.isFinite(pin.cost))).toBe(true)
    }
    expect(planned).toBeGreaterThan(70)
  })
  it('pressing fixes leads to a site that can be built, or says by P09 why not', () => {
    for (const start of sites) {
      const { site } = mended(start, 120)
      const findings = checkSite(site)
      if (findings.some((finding) => finding.id === 'P09')) continue
      expect(
        findings
          .filter((finding) => isBlocking([finding]))
          .map((finding) => `${site.name}: ${finding.id} ${finding.what}`),
      ).toEqual([])
      for (const { image } of compileSite(site))
        for (const { gpios } of [...image.channels, ...image.inputs]) expect(gpios).not.toContain(NO_PIN)
    }
  })
  it('filling every column leaves no channel without a way, and a legal site', () => {
    for (const start of sites) {
      const site = structuredClone(start)
      for (const column of ['wall', 'app', 'hub'] as const) fillColumn(site, column)
      expect(parseSite(site).ok).toBe(true)
      expect(checkSite(site).filter((finding) => ['M11', 'B01', 'M01', 'M12'].includes(finding.id))).toEqual([])
    }
  })
})
