import type { Choices } from '../seeded'
import { parseSite, type Site } from '../site'
import { addAppWay, addHubWay, addRemoteWay, addSwitchFor, addVoiceWay, addWallWay } from '../ways'

/** Edits as a maker makes them, drawn by chance: some change what a test would show, most do not. */
type Change = (site: Site, random: Choices) => void

const channel = (site: Site, random: Choices) => random.pick(site.channels)
const lasting = (site: Site, random: Choices) => {
  const one = channel(site, random)
  return 'powerUp' in one ? one : undefined
}

const CHANGES: readonly Change[] = [
  (site, random) => void (random.pick(site.inputs).settleMs = random.pick([5, 25, 40, 120, 300])),
  (site, random) => void (random.pick(site.inputs).settle = random.pick(['settle', 'eager'])),
  (site, random) => {
    const input = random.pick(site.inputs)
    if (input.kind === 'momentary') input.holdMs = random.pick([300, 800, 2_000])
  },
  (site, random) => void (random.pick(site.inputs).closedLevel = random.pick(['low', 'high'])),
  (site, random) => {
    const way = random.pick(site.ways)
    if (way.kind === 'wall') way.bindings[0]!.action = random.pick(['on', 'off', 'toggle'])
  },
  (site, random) => {
    const way = random.pick(site.ways)
    if (way.kind === 'wall' && way.bindings[0]!.gesture === 'press') way.bindings[0]!.gesture = 'hold'
  },
  (site, random) => {
    const way = random.pick(site.ways)
    if (way.kind !== 'voice')
      site.ways = site.ways.filter((one) => one.id !== way.id && !(one.kind === 'voice' && one.through === way.id))
  },
  (site, random) => {
    const one = channel(site, random)
    const controller = site.controllers.find(({ id }) => id === one.controller)!
    random.pick([
      () => void addRemoteWay(site, one),
      () => void addAppWay(site, one),
      () => void addHubWay(site, one),
      () => void addVoiceWay(site, one),
      () => void addWallWay(site, one, addSwitchFor(site, one, 'rocker', controller)),
    ])()
  },
  (site, random) => {
    const one = lasting(site, random)
    if (one)
      one.powerUp = random.pick([{ policy: 'off' }, { policy: 'on' }, { policy: 'last' }, { policy: 'wall' }] as const)
  },
  (site, random) => {
    const one = lasting(site, random)
    if (one && 'minOffMs' in one) one.minOffMs = random.pick([null, 2_000, 30_000])
  },
  (site, random) => {
    const one = lasting(site, random)
    if (one && 'maxOnMs' in one) one.maxOnMs = random.pick([null, 800, 20_000])
  },
  (site, random) => void (channel(site, random).name = `Renamed ${random.whole(1, 99)}`),
  (site, random) => void (channel(site, random).essential = random.chance(0.5)),
  (site, random) => void (channel(site, random).active = random.pick(['low', 'high'])),
  (site, random) => {
    const point = random.pick(site.services[0]?.points ?? [])
    if (point) point.vp = random.whole(1, 60)
  },
  (site, random) => {
    const point = random.pick(site.services[0]?.points ?? [])
    if (point) point.max = random.pick([1, 4, 100])
  },
  (site, random) => {
    const widget = random.pick(site.services[0]?.widgets ?? [])
    if (widget) widget.kind = random.pick(['switch', 'push', 'value'])
  },
  (site, random) => {
    const way = random.pick(site.ways)
    if (way.kind === 'app' || way.kind === 'hub') way.feedback = random.pick(['reports', 'silent'])
  },
  (site, random) => {
    const entity = random.pick(site.hubs[0]?.entities ?? [])
    if (entity) entity.topic = `topic-${random.whole(1, 9)}`
  },
  (site, random) => {
    const way = random.pick(site.ways)
    if (way.kind === 'voice') way.name = `spoken ${random.pick(['two', 'too', 'lamp', 'four'])}`
  },
  (site, random) => {
    const remote = site.remotes[0]
    const [a, b] = [random.pick(remote?.keys ?? []), random.pick(remote?.keys ?? [])]
    if (a && b) a.code = b.code
  },
  (site, random) => void (random.pick(site.controllers).staggerMs = random.pick([0, 150, 900])),
  (site, random) => void (random.pick(site.controllers).storeMs = random.pick([500, 2_000, 8_000])),
  (site, random) => void (random.pick(site.controllers).outage = random.pick(['local', 'service'])),
  (site, random) => void (random.pick(site.controllers).link = random.pick(['wifi', 'wifi', 'none'])),
  (site, random) => void (random.pick(site.loads).watts = random.whole(5, 60)),
  (site, random) =>
    void site.rooms.push({ id: `room-${random.whole(10, 99)}` as never, name: `Room ${random.whole(10, 99)}` }),
]

/** The site after one to three edits; null: what came out is not a legal site. */
export function edited(site: Site, random: Choices): Site | null {
  const draft = structuredClone(site)
  try {
    for (let i = random.whole(1, 3); i > 0; i--) random.pick(CHANGES)(draft, random)
  } catch {
    return null
  }
  const parsed = parseSite(draft)
  return parsed.ok ? parsed.value : null
}
