import { produce } from 'immer'
import type { Site } from '../core/site'
import { buildController, testList } from '../core/outputs'
import { World, type TrialAction } from '../core/trial'
import type { Context } from './context'

const at = (day: string, time: string): string => `${day}T${time}:00.000Z`

/** A trial played by hand once: the wall with Wi-Fi gone, and who won. */
function playedTrial(site: Site, script: readonly (readonly [number, TrialAction])[], until: number) {
  const world = new World(site)
  for (const [t, action] of script) {
    world.advance(t)
    world.act(action)
  }
  world.advance(until)
  return { durationMs: until, timeline: world.snapshot().timeline }
}

/**
 * Two months of the pottery's logbook: three builds, two trial runs, and one failed lamp that was found by comparing
 * the relay's indicator with the load. Everything in it is made by the same code that a maker's presses run.
 */
export function seedLogbook(context: Context, site: Site): void {
  const { builds, logbook } = context.db
  const build = (controller: string, from: Site, when: string): number => {
    const id = builds.add(site.id, 0, buildController(from, controller, context.firmware), when)
    const row = builds.get(id)!
    logbook.note(
      site.id,
      controller,
      'build',
      `build ${row.number} of ${site.controllers.find((c) => c.id === controller)!.name} from revision 0, ` +
        `tables ${row.hash}`,
      when,
    )
    return id
  }
  const flash = (id: number, note: string, when: string): void => {
    const row = builds.get(id)!
    builds.addFlash(id, '3.1.2', note, when)
    logbook.note(
      site.id,
      row.controller,
      'flash',
      `build ${row.number} is on the board of ` +
        `${site.controllers.find((c) => c.id === row.controller)!.name}, board package 3.1.2: ${note}`,
      when,
    )
  }
  const trial = (played: ReturnType<typeof playedTrial>, when: string): void => {
    const id = logbook.addTrial(site.id, 0, played.durationMs, played.timeline, when)
    const verdicts = played.timeline.filter((entry) => entry.kind === 'verdict').map((entry) => entry.text)
    logbook.note(
      site.id,
      null,
      'trial',
      `trial ${id} at revision 0: ${Math.round(played.durationMs / 1000)} s, ${played.timeline.length} ` +
        `events${verdicts.length ? `; ${verdicts.join('; ')}` : ''}`,
      when,
    )
  }
  const rocker = site.ways.find((way) => way.kind === 'wall' && way.channel === 'bench-lights')
  const input = rocker?.kind === 'wall' ? rocker.input : ''

  trial(
    playedTrial(
      site,
      [
        [2000, { kind: 'rock', input }],
        [4000, { kind: 'break', what: 'broker', broken: true }],
        [6000, { kind: 'rock', input }],
        [9000, { kind: 'break', what: 'broker', broken: false }],
      ],
      90_000,
    ),
    at('2026-09-24', '19:40'),
  )
  const first = build(
    'throwing',
    produce(site, (draft) => {
      for (const channel of draft.channels) if ('powerUp' in channel) channel.powerUp = { policy: 'off' }
    }),
    at('2026-09-26', '10:05'),
  )
  flash(first, 'first light, relays with no load', at('2026-09-26', '10:31'))
  const run = logbook.addRun(site.id, 'throwing', first, 0, testList(site, 'throwing'), at('2026-09-26', '11:00'))
  logbook.note(site.id, 'throwing', 'test', `test run ${run} of Throwing begun on build 1`, at('2026-09-26', '11:00'))
  for (const [i, item] of logbook.run(run)!.items.entries()) {
    const failed = item.stage === 'load' && item.channel === 'wedging-lamp'
    logbook.setItem(
      run,
      item.key,
      failed ? 'failed' : 'passed',
      failed ? 'indicator of relay 3 is on, lamp dark' : '',
      at('2026-09-26', `11:${String(5 + i).padStart(2, '0')}`),
    )
  }
  logbook.note(
    site.id,
    'throwing',
    'fault',
    'wedging lamp dark with the indicator of relay 3 on: so the lamp or its wiring, not the controller. ' +
      'Found a broken halogen capsule; replaced, supply off and proved dead first',
    at('2026-09-26', '12:20'),
  )
  const second = build('throwing', site, at('2026-10-11', '16:45'))
  flash(second, 'lights come back as they were after a power cut', at('2026-10-11', '17:02'))
  trial(
    playedTrial(
      site,
      [
        [2000, { kind: 'break', what: 'wifi', broken: true }],
        [3500, { kind: 'rock', input }],
        [8000, { kind: 'break', what: 'wifi', broken: false }],
      ],
      90_000,
    ),
    at('2026-11-07', '20:15'),
  )
  const third = build('glaze', site, at('2026-11-08', '09:30'))
  flash(third, 'booth lights follow the rocker', at('2026-11-08', '09:52'))
  logbook.note(
    site.id,
    'yard',
    'note',
    'modem ordered; until then the yard lights work by the key switch only',
    at('2026-11-19', '18:00'),
  )
}
