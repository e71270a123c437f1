import type { TestItem } from '../outputs'
import { channelOf, kindOf, waysTo, type Channel, type Site, type Way } from '../site'
import { askedLevel, deedsOf, stepsBy, type Deed, type Line, type Relay } from './script.testkit'

/** Who plays a test: hands at a board, and what its reports say of a channel. */
export interface Actor {
  does(deed: Deed): void | Promise<void>
  wait(ms: number): void | Promise<void>
  reported(channel: string): number | undefined | Promise<number | undefined>
  /** a screen is looked at: it shows what the board says, or not */
  looks(channel: string): void | Promise<void>
}

/** What an eye sees of the relays: which moved, and whether each was as it must be. */
export class Eyes {
  private readonly now = new Map<string, boolean>()
  private moved: Relay[] = []
  private wrong = 0

  constructor(private readonly site: Site) {}

  sees(relay: Relay): void {
    const name = `${relay.channel}.${relay.contact}`
    if ((this.now.get(name) ?? false) === relay.on) return
    this.now.set(name, relay.on)
    this.moved.push(relay)
  }

  listens(): void {
    this.moved = []
    this.wrong = 0
  }

  stands(channel: Channel, level: number): void {
    const wanted = new Set(patternsOf(channel)[level] ?? [])
    const contacts = Math.max(...patternsOf(channel).flat(), 0) + 1
    for (let contact = 0; contact < contacts; contact++)
      if ((this.now.get(`${channel.id}.${contact}`) ?? false) !== wanted.has(contact)) this.wrong++
  }

  clicks(channel: string, closings: number): void {
    const closed = this.moved.filter((relay) => relay.channel === channel && relay.on).length
    const wanted = closings === 0 ? closed === 0 : closed >= 1 && closed <= this.most(channel)
    if (!wanted) this.wrong++
  }

  /** A level of a stepped channel may close several contacts, each once. */
  private most = (channel: string): number =>
    Math.max(1, ...patternsOf(channelOf(this.site, channel as never)!).map((closed) => closed.length))

  /** Is what is asked so? Every relay as it must be, and none of another channel that moved. */
  says(item: TestItem): boolean {
    if (this.wrong > 0) return false
    if (item.channel === null || item.stage === 'no-load') return true
    const may = [item.channel, ...item.watch.also]
    return this.moved.every(({ channel }) => may.includes(channel))
  }
}

/** A level that a way reaches only one after another. */
async function stepsTo(
  site: Site,
  actor: Actor,
  channel: Channel,
  way: Way,
  level: number | undefined,
  isThere: () => Promise<boolean>,
): Promise<void> {
  for (let tried = 0; level !== undefined && tried < 10 && !(await isThere()); tried++) {
    const was = (await actor.reported(channel.id)) ?? 0
    const step = stepsBy(site, channel, way).find(
      ({ asks }) => Math.abs(askedLevel(channel, asks, was) - level) < Math.abs(was - level),
    )
    if (!step) return
    for (const action of step.deeds) for (const line of deedsOf(site, action)) await playLine(site, actor, null, line)
    await actor.wait(600)
  }
}

async function bring(
  site: Site,
  actor: Actor,
  { channel: id, on, not, level }: Extract<Line, { kind: 'bring' }>,
): Promise<void> {
  const channel = channelOf(site, id as never)!
  const isThere = async () => {
    const is = (await actor.reported(id)) ?? 0
    return is > 0 === on && (level === undefined || is === level)
  }
  for (const way of waysTo(site, channel.id)) {
    if (await isThere()) return
    if (way.id === not) continue
    const was = (await actor.reported(id)) ?? 0
    const step = stepsBy(site, channel, way).find(({ asks }) =>
      level === undefined ? askedLevel(channel, asks, was) > 0 === on : askedLevel(channel, asks, was) === level,
    )
    if (!step) {
      await stepsTo(site, actor, channel, way, level ?? (on ? undefined : 0), isThere)
      continue
    }
    for (const action of [...(step.first ?? []), ...step.deeds]) {
      for (const line of deedsOf(site, action)) await playLine(site, actor, null, line)
      if (step.first) await actor.wait(300)
    }
    const rest = 'minOffMs' in channel ? (channel.minOffMs ?? 0) : 0
    for (let waited = 0; waited < 1_500 + rest && !(await isThere()); waited += 100) await actor.wait(100)
  }
}

async function playLine(site: Site, actor: Actor, eyes: Eyes | null, line: Line): Promise<void> {
  switch (line.kind) {
    case 'wait':
      return actor.wait(line.ms)
    case 'stands':
      return eyes?.stands(channelOf(site, line.channel as never)!, line.level)
    case 'listen':
      return eyes?.listens()
    case 'clicks':
      return eyes?.clicks(line.channel, line.closings)
    case 'look':
      return actor.looks(line.channel)
    case 'bring':
      return bring(site, actor, line)
    case 'begin':
      return
    default:
      return actor.does(line)
  }
}

/** Plays the lines of a test; `begins` is called when what comes before it is done. */
export async function playLines(
  site: Site,
  actor: Actor,
  eyes: Eyes,
  lines: readonly Line[],
  begins: () => void | Promise<void>,
): Promise<void> {
  for (const line of lines)
    if (line.kind === 'begin') {
      eyes.listens()
      await begins()
    } else await playLine(site, actor, eyes, line)
}

const patternsOf = (channel: Channel): readonly (readonly number[])[] => kindOf(channel).patterns(channel)
