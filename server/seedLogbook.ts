import { produce } from 'immer'
import { buildController, testList } from '../core/outputs'
import { controllerOf, type Site } from '../core/site'
import { World, type TrialAction } from '../core/trial'
import type { Context } from './context'
import { buildMade, flashed, runBegun, trialKept } from './logbookText'

const at = (day: string, time: string): string => `${day}T${time}:00.000Z`

type Script = readonly (readonly [number, TrialAction])[]

/** A trial played by hand once: the wall with Wi-Fi gone, and who won. */
function playedTrial(site: Site, script: Script, until: number) {
  const world = World.begin(site)
  for (const [t, action] of script) {
    world.advance(t)
    world.act(action)
  }
  world.advance(until)
  return { durationMs: until, timeline: world.snapshot().timeline }
}

/** What a maker's presses do, at a time of its own. */
class Past {
  private readonly context: Context
  private readonly site: Site
  constructor(context: Context, site: Site) {
    this.context = context
    this.site = site
  }

  private nameOf = (controller: string): string => controllerOf(this.site, controller)!.name

  note(controller: string | null, kind: 'note' | 'fault', text: string, when: string): void {
    this.context.db.logbook.note(this.site.id, controller, kind, text, when)
  }

  build(controller: string, from: Site, when: string): number {
    const { builds, logbook } = this.context.db
    const id = builds.add(this.site.id, 0, buildController(from, controller, this.context.firmware), when)
    logbook.note(this.site.id, controller, 'build', buildMade(builds.get(id)!, this.nameOf(controller)), when)
    return id
  }

  flash(build: number, note: string, when: string): void {
    const { builds, logbook } = this.context.db
    const row = builds.get(build)!
    const tools = { boardPackage: '', versions: { 'board package': '3.1.2' } }
    builds.addFlash(build, tools, note, when)
    const text = flashed(row, this.nameOf(row.controller), tools, note)
    logbook.note(this.site.id, row.controller, 'flash', text, when)
  }

  trial(script: Script, when: string): void {
    const { logbook } = this.context.db
    const { durationMs, timeline } = playedTrial(this.site, script, 90_000)
    const id = logbook.addTrial(this.site.id, 0, durationMs, timeline, when)
    logbook.note(this.site.id, null, 'trial', trialKept(id, 0, durationMs, timeline), when)
  }

  /** A test run of a build, a minute an item from `hour`; what `fails` names, failed. */
  run(build: number, day: string, hour: string, fails: (channel: string | null, stage: string) => string): void {
    const { builds, logbook } = this.context.db
    const row = builds.get(build)!
    const { controller } = row
    const begun = at(day, `${hour}:00`)
    const run = logbook.addRun(this.site.id, controller, build, 0, testList(this.site, controller), begun)
    logbook.note(this.site.id, controller, 'test', runBegun(run, this.nameOf(controller), row), begun)
    for (const [i, { key, channel, stage }] of logbook.run(run)!.items.entries()) {
      const failed = fails(channel, stage)
      const when = at(day, `${hour}:${String(5 + i).padStart(2, '0')}`)
      const outcome = failed ? 'failed' : 'passed'
      logbook.setItem(run, key, { outcome, note: failed, heard: [], by: 'hand' }, when)
    }
  }
}

/**
 * Two months of the pottery's logbook: three builds, two trial runs, and one failed lamp that was found by comparing
 * the relay's indicator with the load. Everything in it is made by the same code that a maker's presses run.
 */
export function seedLogbook(context: Context, site: Site): void {
  const past = new Past(context, site)
  const rocker = site.ways.find((way) => way.kind === 'wall' && way.channel === 'bench-lights')
  const rock: TrialAction = { kind: 'rock', input: rocker?.kind === 'wall' ? rocker.input : '' }
  const breaks = (what: 'broker' | 'wifi', broken: boolean): TrialAction => ({ kind: 'break', what, broken })
  const allOff = produce(site, (draft) => {
    for (const channel of draft.channels) if ('powerUp' in channel) channel.powerUp = { policy: 'off' }
  })

  const evening: Script = [
    [2000, rock],
    [4000, breaks('broker', true)],
    [6000, rock],
    [9000, breaks('broker', false)],
  ]
  past.trial(evening, at('2026-09-24', '19:40'))
  const first = past.build('throwing', allOff, at('2026-09-26', '10:05'))
  past.flash(first, 'first light, relays with no load', at('2026-09-26', '10:31'))
  past.run(first, '2026-09-26', '11', (channel, stage) =>
    stage === 'load' && channel === 'wedging-lamp' ? 'indicator of relay 3 is on, lamp dark' : '',
  )
  const lamp =
    'wedging lamp dark with the indicator of relay 3 on: so the lamp or its wiring, not the controller. ' +
    'Found a broken halogen capsule; replaced, supply off and proved dead first'
  past.note('throwing', 'fault', lamp, at('2026-09-26', '12:20'))
  const second = past.build('throwing', site, at('2026-10-11', '16:45'))
  past.flash(second, 'lights come back as they were after a power cut', at('2026-10-11', '17:02'))
  const outage: Script = [
    [2000, breaks('wifi', true)],
    [3500, rock],
    [8000, breaks('wifi', false)],
  ]
  past.trial(outage, at('2026-11-07', '20:15'))
  const third = past.build('glaze', site, at('2026-11-08', '09:30'))
  past.flash(third, 'booth lights follow the rocker', at('2026-11-08', '09:52'))
  const modem = 'modem ordered; until then the yard lights work by the key switch only'
  past.note('yard', 'note', modem, at('2026-11-19', '18:00'))
}
