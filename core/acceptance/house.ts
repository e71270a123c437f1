import type { PartId } from '../parts'
import { holdersOf, wireOf } from '../services'
import {
  inputOf,
  isFeed,
  kindOf,
  powerUpOf,
  timeText,
  topLevel,
  waysTo,
  type Channel,
  type Controller,
  type Site,
  type Way,
} from '../site'
import { stepsOf } from './deeds'
import { levelWords, type Tryout } from './tryout'
import { brings, restMs, wanted } from './ways'

/** What the house must do when something fails, comes back, or is left alone. */

const CUT_MS = 60_000
const OUTAGE_MS = 90_000
/** A link is up again after a back-off of a minute at most, and its jitter (docs/behaviour.md, Link). */
const RETURN_MS = 150_000

const isLocal = ({ kind }: Way): boolean => kind === 'wall' || kind === 'remote' || kind === 'link'
const isWitness = (channel: Channel): boolean => kindOf(channel).lasting && !isFeed(channel)
const ruled = (site: Site, { id }: Channel): boolean => site.rules.some(({ channel }) => channel === id)

/** Turns a channel over by a way that needs no network; null: none of its ways is such a one. */
function byLocalWay(tryout: Tryout, channel: Channel): boolean | null {
  for (const way of waysTo(tryout.site, channel.id).filter(isLocal)) {
    const before = tryout.level(channel)
    const step = stepsOf(tryout.site, channel, way).find(
      ({ asks }) => asks.kind !== 'lamps' && !wanted(channel, asks, before)(before),
    )
    if (!step) continue
    tryout.waits(restMs(channel))
    if (step.first) tryout.does(step.first)
    tryout.waits(1_000)
    const from = tryout.level(channel)
    tryout.does(step.deeds)
    return tryout.until(() => tryout.level(channel) !== from)
  }
  return null
}

// ---- power ----

export function triesPowerCycles(tryout: Tryout): void {
  for (const controller of tryout.site.controllers) {
    const channels = tryout.site.channels.filter(
      (channel) => channel.controller === controller.id && isWitness(channel) && !ruled(tryout.site, channel),
    )
    if (channels.length === 0) continue
    for (const channel of channels) brings(tryout, channel, true)
    tryout.waits(controller.storeMs + 5_000)
    const before = new Map(channels.map((channel) => [channel.id as string, tryout.level(channel)]))
    const t = tryout.now
    tryout.does([
      { kind: 'break', what: `power:${controller.id}`, broken: true },
      { kind: 'break', what: `power:${controller.id}`, broken: false, afterMs: CUT_MS },
    ])
    tryout.until(() => tryout.isUp(controller.id), RETURN_MS)
    tryout.waits(5_000)
    for (const channel of channels) afterCut(tryout, channel, before.get(channel.id) ?? 0, t)
  }
}

/** The level that a channel's wall switch asks for as it stands; null: none keeps a state. */
function levelByWall(tryout: Tryout, channel: Channel): number | null {
  const { closed } = tryout.run.snapshot()
  for (const way of waysTo(tryout.site, channel.id)) {
    const input = way.kind === 'wall' ? inputOf(tryout.site, way.input) : undefined
    if (input?.kind === 'selector') {
      const isGated = input.gate !== undefined && (closed[input.gate] ?? 0) === 0
      return isGated ? 0 : (input.table[closed[input.id] ?? 0] ?? null)
    }
    if (input?.kind === 'rocker' && way.kind === 'wall' && way.bindings.some(({ gesture }) => gesture === 'follow'))
      return (closed[input.id] ?? 0) > 0 ? 1 : 0
  }
  return null
}

/** The level that must follow a power cut, by the channel's policy; null: it depends on what others say. */
function levelAfter(tryout: Tryout, channel: Channel, before: number): ((level: number) => boolean) | null {
  switch (powerUpOf(channel).policy) {
    case 'off':
      return (level) => level === 0
    case 'on':
      return (level) => level > 0
    case 'last':
      return (level) => level === before
    case 'wall': {
      const byWall = levelByWall(tryout, channel)
      return byWall === null ? null : (level) => level === byWall
    }
    default:
      return null
  }
}

const POLICY_WORDS: Partial<Readonly<Record<string, string>>> = { last: 'as before', wall: 'as its wall switch is set' }

function afterCut(tryout: Tryout, channel: Channel, before: number, t: number): void {
  const { policy } = powerUpOf(channel)
  const draft = {
    ...{ key: `no-load:start:${channel.id}`, group: 'power' as const, channel },
    action: `${channel.name} ${levelWords(channel, before)}; power off for ${timeText(CUT_MS)}`,
    expected: `${channel.name}: ${POLICY_WORDS[policy] ?? policy}`,
  }
  const right = levelAfter(tryout, channel, before)
  if (!right) return tryout.skips(draft, `its power-up policy (${policy}) depends on a service or the clock`)
  if (before === 0 && (policy === 'off' || policy === 'last'))
    return tryout.skips(draft, `${channel.name} could not be turned on first`)
  const isRight = tryout.until(() => right(tryout.level(channel)), restMs(channel))
  tryout.says(draft, t, isRight ? null : `${channel.name} is ${levelWords(channel, tryout.level(channel))}`)
}

// ---- outages ----

interface Outage {
  readonly what: PartId
  readonly name: string
}

const outagesOf = (site: Site): Outage[] => [
  { what: 'wifi', name: 'Wi-Fi' },
  { what: 'internet', name: 'the internet' },
  { what: 'broker', name: 'the broker' },
  ...(site.hubs.length > 0 ? [{ what: 'hub' as const, name: 'the hub' }] : []),
  ...holdersOf(site)
    .filter(({ service }) => wireOf(site, service))
    .map(({ service }): Outage => ({ what: `service:${service.id}`, name: service.name })),
]

export function triesOutages(tryout: Tryout): void {
  for (const { what, name } of outagesOf(tryout.site)) {
    tryout.does([{ kind: 'break', what, broken: true }])
    tryout.waits(OUTAGE_MS)
    for (const channel of tryout.site.channels) {
      if (!isWitness(channel)) continue
      const t = tryout.now
      const draft = {
        ...{ key: `outage:${what}:${channel.id}`, group: 'outage' as const, channel },
        action: `With ${name} down, operate ${channel.name} at the controller`,
        expected: `${channel.name} follows`,
      }
      const worked = byLocalWay(tryout, channel)
      if (worked === null) tryout.skips(draft, 'no switch, remote or serial command controls it')
      else tryout.says(draft, t, worked ? null : 'nothing happens')
    }
    tryout.does([{ kind: 'break', what, broken: false }])
    returnsRight(tryout, what, name)
  }
}

function returnsRight(tryout: Tryout, what: PartId, name: string): void {
  const t = tryout.now
  for (const controller of tryout.site.controllers) {
    const draft = {
      ...{ key: `return:${what}:${controller.id}`, group: 'outage' as const, controller: controller.id },
      action: `Restore ${name}`,
      expected: `${controller.name}: connected within ${timeText(RETURN_MS)}, all screens correct`,
    }
    const own = tryout.site.channels.filter((channel) => channel.controller === controller.id && isWitness(channel))
    if (own.length === 0) continue
    const wrong = (): string | undefined =>
      own.flatMap((channel) =>
        tryout.wrongScreens(channel).map((who) => `the ${who} shows another state of ${channel.name}`),
      )[0]
    const left = Math.max(1_000, RETURN_MS - (tryout.now - t))
    const isUp = tryout.until(() => tryout.isUp(controller.id), left)
    if (!isUp) tryout.says(draft, t, 'it is not connected')
    else tryout.says(draft, t, tryout.until(() => wrong() === undefined, 10_000) ? null : (wrong() ?? null))
  }
}

// ---- who wins ----

export function triesWinners(tryout: Tryout): void {
  for (const controller of tryout.site.controllers) {
    const found = contested(tryout.site, controller)
    if (!found) continue
    const { channel, off, home } = found
    const draft = {
      ...{ key: `winner:${controller.id}`, group: 'winner' as const, channel, controller: controller.id },
      action: `${channel.name} on; connection down; turn it off on the phone; connection back`,
      expected:
        controller.outage === 'service'
          ? 'the phone’s command is carried out'
          : 'it stays on, and the phone is corrected',
    }
    if (!brings(tryout, channel, true)) {
      tryout.skips(draft, `${channel.name} could not be turned on first`)
      continue
    }
    tryout.waits(10_000)
    const t = tryout.now
    tryout.does([{ kind: 'break', what: home, broken: true }])
    tryout.waits(5_000)
    tryout.does(off.deeds)
    tryout.waits(30_000)
    tryout.does([{ kind: 'break', what: home, broken: false }])
    tryout.until(() => tryout.isUp(controller.id), RETURN_MS)
    tryout.waits(15_000)
    const isOn = tryout.level(channel) > 0
    const right = controller.outage === 'service' ? !isOn : isOn
    const wrong = tryout.wrongScreens(channel)[0]
    tryout.says(
      draft,
      t,
      !right ? `${channel.name} is ${isOn ? 'on' : 'off'}` : wrong ? `the ${wrong} shows another state` : null,
    )
  }
}

/** A lasting channel with an app way, that way's step that turns it off, and what its link leads over. */
function contested(site: Site, controller: Controller) {
  for (const channel of site.channels) {
    if (channel.controller !== controller.id || !isWitness(channel) || ruled(site, channel)) continue
    for (const way of waysTo(site, channel.id)) {
      if (way.kind !== 'app') continue
      const off = stepsOf(site, channel, way).find(({ asks }) => asks.kind === 'level' && asks.level === 0)
      const service = holdersOf(site).find((held) => held.service.id === way.service)?.service
      const home: PartId | null = !service ? null : wireOf(site, service) ? `service:${service.id}` : 'broker'
      if (off && home) return { channel, off, home }
    }
  }
  return undefined
}

// ---- groups, limits, nevers ----

export function triesGroups(tryout: Tryout): void {
  for (const group of tryout.site.groups) {
    const way = (group.ways ?? []).find(({ kind }) => kind === 'hub')
    if (way?.kind !== 'hub') continue
    const members = tryout.site.channels.filter(({ id, kind }) => group.members.includes(id) && kind !== 'pulsed')
    const t0 = tryout.now
    for (const channel of members) if (isWitness(channel)) brings(tryout, channel, true)
    const before = new Map(members.map((channel) => [channel.id as string, tryout.level(channel)]))
    const doors = tryout.site.channels.filter(({ kind }) => kind === 'pulsed')
    const t = tryout.now
    tryout.does([{ kind: 'group', hub: way.hub, group: group.id, command: 'off' }])
    tryout.waits(8_000)
    for (const channel of members) {
      const draft = {
        ...{ key: `group:${group.id}:${channel.id}`, group: 'group' as const, channel },
        action: `Turn off ${group.name} from the hub`,
        expected: `${channel.name}: ${channel.essential ? 'no change, it is essential' : 'off'}`,
      }
      const level = tryout.level(channel)
      const right = channel.essential || isFeed(channel) ? level === before.get(channel.id) : level === 0
      tryout.says(draft, t, right ? null : `${channel.name} is ${levelWords(channel, level)}`)
    }
    for (const door of doors.filter(({ id }) => group.members.includes(id)))
      tryout.says(
        {
          ...{ key: `group:${group.id}:${door.id}`, group: 'never', channel: door },
          action: `Turn off ${group.name} from the hub`,
          expected: `${door.name} does not move`,
        },
        t,
        tryout.closings(door, t0) > 0 ? `${door.name} moves` : null,
      )
  }
}

export function triesLimits(tryout: Tryout): void {
  for (const channel of tryout.site.channels) {
    if (!('maxOnMs' in channel) || channel.maxOnMs === null) continue
    const draft = {
      ...{ key: `alone:limit:${channel.id}`, group: 'limit' as const, channel },
      action: `Turn on ${channel.name} and leave it`,
      expected: `it turns off by itself after ${timeText(channel.maxOnMs)}`,
    }
    brings(tryout, channel, false)
    tryout.waits(restMs(channel))
    if (!brings(tryout, channel, true)) {
      tryout.skips(draft, `${channel.name} could not be turned on`)
      continue
    }
    const t = tryout.now
    tryout.waits(channel.maxOnMs - 2_000 - 4_000)
    const early = tryout.level(channel) === 0
    const isOver = tryout.until(() => tryout.level(channel) === 0, 12_000)
    tryout.says(draft, t, early && !ruled(tryout.site, channel) ? 'it is off before' : isOver ? null : 'it is still on')
  }
}

/** What opens something moves for nobody but a hand: not for what is remembered, repeated or restored. */
export function triesNevers(tryout: Tryout): void {
  const doors = tryout.site.channels.filter((channel) => !kindOf(channel).lasting && topLevel(channel) >= 1)
  if (doors.length === 0) return
  for (const door of doors)
    for (const way of waysTo(tryout.site, door.id)) {
      if (way.kind !== 'hub' && way.kind !== 'app') continue
      const [step] = stepsOf(tryout.site, door, way)
      if (step) tryout.does(step.deeds)
      tryout.waits(restMs(door))
    }
  const t = tryout.now
  const powers = tryout.site.controllers.map(({ id }): PartId => `power:${id}`)
  tryout.does([
    { kind: 'replay' },
    { kind: 'break', what: 'broker', broken: true, afterMs: 10_000 },
    { kind: 'break', what: 'broker', broken: false, afterMs: 30_000 },
    ...powers.map((what) => ({ kind: 'break' as const, what, broken: true, afterMs: 120_000 })),
    ...powers.map((what) => ({ kind: 'break' as const, what, broken: false, afterMs: 180_000 })),
    { kind: 'replay', afterMs: 400_000 },
  ])
  tryout.waits(10_000)
  for (const door of doors)
    tryout.says(
      {
        ...{ key: `no-load:never:${door.id}`, group: 'never', channel: door },
        action: 'Replay old commands; broker and power down, then back',
        expected: `${door.name}: no movement by itself`,
      },
      t,
      tryout.closings(door, t) > 0 ? `${door.name} moves by itself` : null,
    )
}
