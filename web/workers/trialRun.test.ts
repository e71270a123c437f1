import { readFileSync } from 'node:fs'
import { describe, expect, it } from 'vitest'
import { readSite } from '../../core/site'
import { TrialRun, type Machine, type TrialFrame } from './trialRun'

const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value

/** A machine whose clock stands until it is moved, and which does what is due then. */
class Clock implements Machine {
  private at = 0
  private due: { at: number; run: () => void }[] = []
  now = (): number => this.at
  wake = (run: () => void, ms: number): (() => void) => {
    const entry = { at: this.at + ms, run }
    this.due.push(entry)
    return () => void (this.due = this.due.filter((one) => one !== entry))
  }
  goes(ms: number): void {
    for (const end = this.at + ms; ;) {
      const next = this.due.filter(({ at }) => at <= end).sort((a, b) => a.at - b.at)[0]
      if (!next) return void (this.at = end)
      this.due = this.due.filter((one) => one !== next)
      // waking takes at least a little
      this.at = Math.max(this.at + 0.01, next.at)
      next.run()
    }
  }
}

function begun() {
  const clock = new Clock()
  let frame: TrialFrame | null = null
  const run = new TrialRun(pottery, clock, (shown) => void (frame = shown))
  const level = (id: string): number => frame!.snapshot.channels.find((channel) => channel.id === id)!.level
  return { clock, run, level, frame: (): TrialFrame => frame! }
}

describe('a trial in time', () => {
  it('keeps the pace that it is given', () => {
    const { clock, run, frame } = begun()
    clock.goes(2_000)
    expect(frame().now).toBeGreaterThan(1_700)
    expect(frame().now).toBeLessThanOrEqual(2_001)
    const before = frame().now
    run.play(100)
    clock.goes(1_000)
    expect(frame().now - before).toBeGreaterThan(90_000)
    run.play(0)
    const stands = frame().now
    clock.goes(5_000)
    expect(frame().now).toBe(stands)
  })

  it('goes back, takes a press out there, and plays what follows anew, with the old run beside it', () => {
    const { clock, run, level, frame } = begun()
    clock.goes(5_000)
    run.act({ kind: 'rock', input: 's1' })
    clock.goes(5_000)
    run.act({ kind: 'rock', input: 's2' })
    clock.goes(5_000)
    expect([level('bench-lights'), level('shelf-lights')]).toEqual([1, 1])
    run.goTo(7_000)
    expect(frame().pace).toBe(0)
    expect([level('bench-lights'), level('shelf-lights')]).toEqual([1, 0])
    run.goTo(15_000)
    run.takeOut(0)
    expect([level('bench-lights'), level('shelf-lights')]).toEqual([0, 1])
    const lane = frame().lanes.channels.find(({ channel }) => channel === 'bench-lights')!
    expect(frame().compares).toBe(true)
    expect(lane.differs).toHaveLength(1)
    expect(frame().lanes.channels.find(({ channel }) => channel === 'shelf-lights')!.differs).toEqual([])
  })

  it('steps from deed to deed, and a hand in a run that stands makes it run', () => {
    const { clock, run, frame, level } = begun()
    clock.goes(3_000)
    run.act({ kind: 'rock', input: 's1' })
    clock.goes(3_000)
    run.step(-1)
    expect(Math.abs(frame().now - 3_000)).toBeLessThan(60)
    run.step(-1)
    expect(frame().now).toBe(0)
    run.step(1)
    run.act({ kind: 'rock', input: 's2' })
    clock.goes(1_000)
    expect([level('bench-lights'), level('shelf-lights')]).toEqual([1, 1])
  })

  it('a long way is gone in pieces, and another wish ends it', () => {
    const clock = new Clock()
    let frame: TrialFrame | null = null
    let ticks = 0
    // a machine on which each look at the clock takes a while
    const slow: Machine = { now: () => clock.now() + (ticks += 15), wake: clock.wake }
    const run = new TrialRun(pottery, slow, (shown) => void (frame = shown))
    run.goTo(40 * 86_400_000)
    clock.goes(1)
    expect(frame!.goingTo).toBe(40 * 86_400_000)
    run.goTo(1_000)
    expect(frame!.goingTo).toBeNull()
    expect(frame!.now).toBe(1_000)
  })

  it('the last deed’s path is lit, and a screen that lies is a band', () => {
    const { clock, run, frame } = begun()
    clock.goes(5_000)
    run.act({ kind: 'break', what: 'wifi', broken: true })
    clock.goes(1_000)
    run.act({ kind: 'rock', input: 's1' })
    clock.goes(10_000)
    const stops = frame().path!.channels[0]!.stops
    expect(stops.map(({ what, afterMs }) => [what, afterMs === null ? null : afterMs])).toEqual([
      ['hand', 0],
      ['switch', 0],
      ['relay', 25],
      ['load', 25],
      ['network', null],
      ['phone', null],
      ['hub', null],
    ])
    const lane = frame().lanes.channels.find(({ channel }) => channel === 'bench-lights')!
    expect(lane.believed.map(({ wrong }) => wrong.length)).toEqual([1, 1])
    expect(frame().lanes.faults.map(({ text }) => text)).toEqual(['Wi-Fi: failed'])
  })

  it('is written down as a scenario that does the same', async () => {
    const { clock, run } = begun()
    clock.goes(5_000)
    run.act({ kind: 'press', input: 's3' })
    clock.goes(200)
    run.act({ kind: 'release', input: 's3' })
    clock.goes(3_000)
    const { readScenario, runScenario } = await import('../../core/scenario')
    const answer = readScenario(run.asScenario('Recorded'), pottery)
    if (!answer.ok) throw new Error(answer.message)
    const played = runScenario(pottery, answer.scenario)
    expect(played.broken).toBeNull()
    expect(played.moves.some((move) => /wedging-lamp\.0 closes/.test(move))).toBe(true)
  })
})
