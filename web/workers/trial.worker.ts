import { expose } from 'comlink'
import type { Site } from '../../core/site'
import { World, type TrialAction, type TrialSnapshot } from '../../core/trial'

/**
 * The simulated house, in real time. It sleeps until the world's own next deadline, so a lamp lights as soon as its
 * switch has settled, and an idle house costs nothing.
 */
let world: World | null = null
let started = 0
let timer: ReturnType<typeof setTimeout> | undefined
let show: (snapshot: TrialSnapshot) => void = () => undefined

const now = (): number => Math.floor(performance.now() - started)

function turn(): void {
  if (!world) return
  world.advance(now())
  show(world.snapshot())
  clearTimeout(timer)
  const next = world.nextDeadline()
  if (next !== null) timer = setTimeout(turn, Math.max(0, next - (performance.now() - started)))
}

const trial = {
  begin(site: Site, listener: (snapshot: TrialSnapshot) => void): void {
    clearTimeout(timer)
    world = World.begin(site)
    started = performance.now()
    show = listener
    turn()
  },
  act(action: TrialAction): void {
    if (!world) return
    world.advance(now())
    world.act(action)
    turn()
  },
  end(): void {
    clearTimeout(timer)
    world = null
  },
}
export type TrialWorker = typeof trial

expose(trial)
