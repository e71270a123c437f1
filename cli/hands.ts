import type { HubPage, RigState, StandInPage } from '../core/api'
import { holdersOf, wireOf, type Holder } from '../core/services'
import {
  controllerOf,
  coprocessorOf,
  inputOf,
  isFeed,
  keyOf,
  kindOf,
  linkOf,
  outputRoles,
  setWords,
  waysTo,
  type Channel,
  type Input,
  type Point,
  type Site,
  type Way,
} from '../core/site'
import type { LiveRun } from './live'

const LOOK_MS = 40
const PRESS_MS = 120

/** What became of one thing that was tried. */
export interface AcceptanceRow {
  readonly controller: string
  readonly channel: string
  readonly way: string
  readonly result: 'passed' | 'failed' | 'skipped'
  readonly note: string
}

/** How long is waited for a change, and for a link that comes up again after an outage, ms. */
export interface Patience {
  readonly changeMs: number
  readonly returnMs: number
}

/** A pulse, a travel or a lockout that lasts longer is not waited for, ms. */
const LONGEST_REST_MS = 20_000
/** Boards that start, ms. */
const START_MS = 6_000

const later = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms))

async function until(what: () => Promise<boolean>, ms: number): Promise<boolean> {
  for (const end = Date.now() + ms; Date.now() < end; await later(LOOK_MS)) if (await what()) return true
  return what()
}

/** What a person does in the house, and what they see. */
export class Hands {
  /** closed contacts as they were left, by input */
  private readonly closed = new Map<string, boolean>()
  private readonly holders: readonly Holder[]

  constructor(
    private readonly site: Site,
    private readonly run: LiveRun,
    private readonly patience: Patience,
  ) {
    this.holders = holdersOf(site)
  }

  private state = async (): Promise<RigState> => (await this.run.ask('GET', '/rig')) as RigState
  private page = async (id: string): Promise<StandInPage> =>
    (await this.run.ask('GET', `/stand-ins/${id}`)) as StandInPage
  private hub = async (): Promise<HubPage> => (await this.run.ask('GET', '/hub')) as HubPage

  /** The board that speaks for a controller. */
  private speaker = (controller: string): string => coprocessorOf(this.site, controller)?.id ?? controller

  async arrives(): Promise<void> {
    await until(async () => (await this.state()).phase === 'on', 180_000)
    await until(
      async () => (await this.state()).boards.every((board) => board.trouble !== null || board.running),
      START_MS,
    )
    await until(
      async () => {
        const { boards } = await this.state()
        const spoken = new Set(this.site.controllers.map(({ id }) => this.speaker(id)))
        return boards
          .filter(({ controller }) => spoken.has(controller))
          .every(({ links }) => links.every(({ state }) => state === 'up'))
      },
      Math.min(30_000, this.patience.returnMs),
    )
    for (const input of this.site.inputs) await this.level(input, false)
    await later(1_000)
  }

  /** What the board says and does of a channel; another text: something has changed. */
  private async seen(channel: Channel): Promise<string> {
    const { boards } = await this.state()
    const names = outputRoles(channel).map((role) => role.slice('out:'.length).replace(':', '.'))
    const topics = [channel.id, ...this.topics(channel)]
    const mine = boards.filter(({ controller }) =>
      [channel.controller, this.speaker(channel.controller)].includes(controller),
    )
    const lines = mine.flatMap(({ said }) =>
      said.filter(
        ({ text }) =>
          topics.some((topic) => text.includes(`: ${topic}/state `) || text.includes(`: ${topic}/gesture `)) ||
          names.some((name) => text.startsWith(`${name} `)),
      ),
    )
    return JSON.stringify([lines.at(-1), mine.map(({ outputs }) => names.map((name) => outputs[name]))])
  }

  private topics = (channel: Channel): string[] =>
    this.site.hubs.flatMap((hub) => hub.entities.filter((one) => one.channel === channel.id).map((one) => one.topic))

  private async level(input: Input, closed: boolean): Promise<void> {
    this.closed.set(input.id, closed)
    const level = (input.closedLevel === 'low') === closed ? 0 : 1
    const pins =
      input.kind === 'selector' ? Array.from({ length: input.bits }, (_, bit) => `${input.id}.${bit + 1}`) : [input.id]
    for (const pin of pins) await this.event(input.controller, { pin, level })
  }

  private event = (controller: string, body: object): Promise<unknown> =>
    this.run.ask('POST', `/rig/${controller}/events`, body).catch(() => undefined)

  /** Works a switch as its first binding asks. */
  private async works(input: Input, gesture: string, level?: number): Promise<void> {
    if (input.kind === 'momentary') {
      await this.level(input, true)
      await later(gesture === 'hold' ? input.holdMs + PRESS_MS : PRESS_MS + input.settleMs)
      await this.level(input, false)
    } else if (input.kind === 'selector') await this.turns(input, level)
    else await this.level(input, !this.closed.get(input.id))
  }

  /** To a detent that is another than where it stands. */
  private async turns(input: Extract<Input, { kind: 'selector' }>, level = 1): Promise<void> {
    if (input.gate) await this.level(inputOf(this.site, input.gate)!, true)
    const code = Math.max(0, input.table.indexOf(level))
    for (let bit = 0; bit < input.bits; bit++) {
      const closed = ((code >> bit) & 1) === 1
      const pinLevel = (input.closedLevel === 'low') === closed ? 0 : 1
      await this.event(input.controller, { pin: `${input.id}.${bit + 1}`, level: pinLevel })
    }
  }

  // ---- ways ----

  async tries(channel: Channel, way: Way): Promise<AcceptanceRow> {
    const row = this.rowOf(channel, wayName(this.site, way))
    if (way.kind === 'voice' && way.through !== null) {
      const through = waysTo(this.site, channel.id).find(({ id }) => id === way.through)
      return row('skipped', `its name goes ${through ? wayName(this.site, through) : 'nowhere'}`)
    }
    await this.rests(channel)
    for (let turn = 0; turn < 2; turn++) {
      // on does nothing to what is on: then another way brings it where this one can be seen
      if (turn === 1) await this.opposes(channel, way)
      const before = await this.seen(channel)
      await this.does(channel, way, turn)
      if (await until(async () => (await this.seen(channel)) !== before, this.patience.changeMs))
        return row('passed', '')
    }
    const restS = channel.kind === 'switched' ? (channel.minOffMs ?? 0) / 1_000 : 0
    return restS * 1_000 > this.patience.changeMs
      ? row('skipped', `waits up to ${restS} s: its minimum time off`)
      : row('failed', 'the board does nothing')
  }

  private async opposes(channel: Channel, way: Way): Promise<void> {
    const wall = waysTo(this.site, channel.id).find((other) => other.kind === 'wall' && other.id !== way.id)
    if (!wall) return
    await this.does(channel, wall, 0)
    await later(500)
  }

  private rowOf =
    (channel: Channel, way: string) =>
    (result: AcceptanceRow['result'], note: string): AcceptanceRow => ({
      controller: controllerOf(this.site, channel.controller)?.name ?? channel.controller,
      ...{ channel: channel.name, way, result, note },
    })

  /** A pulse, a pause or a lockout runs to its end. */
  private async rests(channel: Channel): Promise<void> {
    let last = await this.seen(channel)
    const enough = channel.kind === 'pulsed' ? channel.lockoutMs + 500 : 400
    for (let quiet = 0, waited = 0; quiet < enough && waited < LONGEST_REST_MS;) {
      await later(200)
      waited += 200
      const next = await this.seen(channel)
      quiet = next === last ? quiet + 200 : 0
      last = next
    }
  }

  private async does(channel: Channel, way: Way, turn: number): Promise<void> {
    switch (way.kind) {
      case 'wall': {
        const { gesture } = way.bindings[0]!
        return this.works(inputOf(this.site, way.input)!, gesture, turn + 1)
      }
      case 'remote': {
        const { code } = keyOf(this.site, way.remote, way.key)!
        const ir =
          code.protocol === 'unknown'
            ? { protocol: 'unknown', hash: code.hash }
            : { protocol: code.protocol, address: code.address, command: code.command }
        return void (await this.event(channel.controller, { ir }))
      }
      case 'link':
        return void (await this.event(linkOf(this.site, way.link)!.controller, { char: way.char }))
      case 'hub': {
        const hub = this.site.hubs.find(({ id }) => id === way.hub)
        if (hub && !wireOf(this.site, hub)) return this.hubSays(channel, way.hub, way.entity, turn)
        return this.touches(way)
      }
      default:
        return this.touches(way)
    }
  }

  private async hubSays(channel: Channel, hub: string, entity: string, turn: number): Promise<void> {
    const believed = (await this.hub()).beliefs[`${hub}/${entity}`] ?? 0
    const words = setWords(channel)
    const wish = believed > 0 === (turn === 0) ? ['off', 'close', 'stop'] : ['on', 'pulse', 'a', 'open']
    const command = wish.find((word) => words.includes(word)) ?? words[0]!
    await this.run.ask('POST', '/hub/commands', { kind: 'hub', hub, entity, command })
  }

  /** A widget is moved to where it is not. */
  private async touches(way: Way): Promise<void> {
    const found = this.pointOf(way)
    if (!found) return
    const { service, point } = found
    const value = (await this.page(service.id)).values[point.id] ?? point.default
    const widget = service.widgets.find((one) => one.point === point.id && one.kind !== 'value' && one.kind !== 'gauge')
    if (!widget) return
    const next = widget.kind === 'push' || value === point.min ? point.max : point.min
    await this.run.ask('POST', `/stand-ins/${service.id}/widgets/${widget.id}`, { on: next !== point.min, value: next })
    if (widget.kind === 'push')
      await this.run.ask('POST', `/stand-ins/${service.id}/widgets/${widget.id}`, { on: false, value: point.min })
  }

  private pointOf(way: Way): { service: Holder['service']; point: Point } | undefined {
    const holder = this.holders.find(({ pointOf }) => pointOf.has(way.id))
    const point = holder?.service.points.find(({ id }) => id === holder.pointOf.get(way.id))
    return holder && point ? { service: holder.service, point } : undefined
  }

  // ---- screens ----

  /** The board moves it; each screen that is told shows what the board says. */
  async screens(channel: Channel): Promise<AcceptanceRow[]> {
    if (!kindOf(channel).lasting || isFeed(channel)) return []
    const told = waysTo(this.site, channel.id).filter((way) => 'feedback' in way && way.feedback === 'reports')
    const wall = waysTo(this.site, channel.id).find(({ kind }) => kind === 'wall')
    if (told.length === 0) return []
    if (wall) await this.tries(channel, wall)
    const rows: AcceptanceRow[] = []
    for (const way of told) {
      const row = this.rowOf(channel, `shown ${wayName(this.site, way)}`)
      const agrees = await until(
        async () => (await this.shownOn(way)) === (await this.isOn(channel)),
        this.patience.changeMs,
      )
      rows.push(
        agrees ? row('passed', '') : row('failed', `the board says ${(await this.isOn(channel)) ? 'on' : 'off'}`),
      )
    }
    return rows
  }

  /** Whether a screen shows it as on; null: it has heard nothing. */
  private async shownOn(way: Way): Promise<boolean | null> {
    const found = this.pointOf(way)
    if (found)
      return ((await this.page(found.service.id)).values[found.point.id] ?? found.point.default) !== found.point.min
    if (way.kind !== 'hub') return null
    const level = (await this.hub()).beliefs[`${way.hub}/${way.entity}`] ?? null
    return level === null ? null : level > 0
  }

  /** By its contacts: any of them closed. */
  private async isOn(channel: Channel): Promise<boolean> {
    const { boards } = await this.state()
    const names = outputRoles(channel).map((role) => role.slice('out:'.length).replace(':', '.'))
    return boards.some(({ outputs }) => names.some((name) => outputs[name] === 1))
  }

  // ---- outages ----

  /** A service is stopped: the wall works all the same; when it is back it shows what is. */
  async outage({ service, pointOf }: Holder): Promise<AcceptanceRow[]> {
    const controllers = [...new Set(service.points.map(({ controller }) => controller))]
    const rows: AcceptanceRow[] = []
    await this.faults(`/stand-ins/${service.id}/faults`, true)
    await later(1_500)
    const tried: [Channel, Way][] = []
    for (const controller of controllers) {
      const found = this.byWall(controller, (way) => pointOf.has(way.id))
      if (!found) continue
      const { channel, way, wall } = found
      const { result } = await this.tries(channel, wall)
      rows.push(
        this.rowOf(channel, `${service.name} stopped: wall`)(
          result,
          result === 'failed' ? 'the wall does nothing' : '',
        ),
      )
      tried.push([channel, way])
    }
    await this.faults(`/stand-ins/${service.id}/faults`, false)
    for (const [channel, way] of tried) {
      const row = this.rowOf(channel, `${service.name} back: shown`)
      const agrees = await until(
        async () => (await this.shownOn(way)) === (await this.isOn(channel)),
        this.patience.returnMs,
      )
      rows.push(agrees ? row('passed', '') : row('failed', 'screen and board differ'))
    }
    return rows
  }

  async hubOutage(): Promise<AcceptanceRow> {
    await this.faults('/hub/faults', true)
    await later(1_500)
    const houseHubs = new Set<string>(this.site.hubs.filter((hub) => !wireOf(this.site, hub)).map(({ id }) => id))
    const found = this.site.controllers
      .map(({ id }) => this.byWall(id, (way) => way.kind === 'hub' && houseHubs.has(way.hub)))
      .find((one) => one !== undefined)
    const result = found ? (await this.tries(found.channel, found.wall)).result : 'skipped'
    await this.faults('/hub/faults', false)
    const channel = found?.channel ?? this.site.channels[0]!
    const row = this.rowOf(channel, 'hub stopped: wall; hub back: shown')
    if (!found || result !== 'passed') return row(result, found ? 'the wall does nothing' : 'no channel has both')
    const agrees = await until(
      async () => (await this.shownOn(found.way)) === (await this.isOn(channel)),
      this.patience.returnMs,
    )
    return agrees ? row('passed', '') : row('failed', 'screen and board differ')
  }

  private faults = (path: string, stopped: boolean): Promise<unknown> =>
    this.run.ask('PUT', path, { stopped, slowMs: 0, lose: false, replay: false })

  /** A lasting channel of a controller with a switch, and the way that is asked for. */
  private byWall(controller: string, isWanted: (way: Way) => boolean) {
    for (const channel of this.site.channels) {
      if (channel.controller !== controller || !kindOf(channel).lasting || isFeed(channel)) continue
      const ways = waysTo(this.site, channel.id)
      const way = ways.find((one) => isWanted(one) && (!('feedback' in one) || one.feedback === 'reports'))
      const wall = ways.find(({ kind }) => kind === 'wall')
      if (way && wall) return { channel, way, wall }
    }
    return undefined
  }
}

function wayName(site: Site, way: Way): string {
  switch (way.kind) {
    case 'wall':
      return `by ${inputOf(site, way.input)?.name ?? way.input}`
    case 'remote':
      return `by the key ${keyOf(site, way.remote, way.key)?.name ?? way.key}`
    case 'link':
      return `by “${way.char}” on ${linkOf(site, way.link)?.name ?? way.link}`
    case 'hub':
      return `on ${site.hubs.find(({ id }) => id === way.hub)?.name ?? way.hub}`
    case 'app':
    case 'voice':
      return `on ${site.services.find(({ id }) => id === way.service)?.name ?? way.service}`
  }
}
