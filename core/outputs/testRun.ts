import {
  inputOf,
  keyOf,
  linkOf,
  loadOf,
  pointOf,
  powerUpOf,
  remoteOf,
  type Channel,
  type Site,
  type Way,
  kindOf,
} from '../site'
import { cautionsFor, hasMains } from './cautions'

/** The three stages of a test on the real thing, in the order that keeps people and parts safe (common practice). */
export const STAGES = ['alone', 'no-load', 'load'] as const
export type Stage = (typeof STAGES)[number]
export const STAGE_NAMES: Record<Stage, string> = {
  alone: 'Controller alone',
  'no-load': 'Relays with no load',
  load: 'With the load',
}

export interface TestItem {
  readonly key: string
  readonly stage: Stage
  readonly channel: string
  readonly way: string | null
  /** what to do */
  readonly action: string
  /** what must be seen */
  readonly expected: string
}

function actionOf(site: Site, channel: Channel, way: Way): string {
  if (way.kind === 'wall') {
    const input = inputOf(site, way.input)!
    return input.kind === 'selector'
      ? `Turn ${input.name} through all its detents`
      : `${input.kind === 'rocker' ? 'Rock' : 'Press'} ${input.name}`
  }
  if (way.kind === 'app') {
    const point = pointOf(site, way.service, way.point)!
    return kindOf(channel).tries(channel, `on the phone (vp${point.vp})`).phone
  }
  switch (way.kind) {
    case 'hub':
      return (
        `Work ${site.hubs.find((hub) => hub.id === way.hub)!.entities.find((candidate) => candidate.id === way.entity)!.name} ` +
        'from the hub'
      )
    case 'remote':
      return (
        `Press “${keyOf(site, way.remote, way.key)!.name}” on ${remoteOf(site, way.remote)!.name}, then ` +
        'hold it for two seconds'
      )
    case 'voice':
      return `Say “${way.name}” with ${kindOf(channel).tries(channel, '').voice}${way.pin ? ', and its PIN' : ''}`
    case 'link':
      return `Send “${way.char}” over ${linkOf(site, way.link)!.name}`
  }
}

const returns = (way: Way): string =>
  !('feedback' in way) ? '' : way.feedback === 'reports' ? ' and the screen agrees after a press on the wall' : ''

/** What is heard at power-up, with no load on. */
const RESTART = {
  off: 'no click, stays off',
  on: 'comes on once',
  last: 'comes back as it was',
  wall: 'takes the state of its rocker',
  service: 'takes the service’s value, or its second choice',
  timetable: 'takes what its timetable says once the clock is known, or its second choice',
} as const

/** In the place of a channel's tests with its load: what nobody has named must not be silently left out. */
const unnamed = ({ id, name }: Channel): TestItem => ({
  key: `load:${id}:unnamed`,
  stage: 'load',
  channel: id,
  way: null,
  action: `Find out what hangs on ${name}, and name it on the bench; until then treat it as mains`,
  expected: 'its load is named, and a new test run tries it with its load',
})

/**
 * The list for one controller: channels × ways, stage by stage. Alone: each way is tried on the module's indicator. No
 * load: each relay is heard. Load: each way with the real load, the supply off while it is connected.
 */
export function testList(site: Site, controllerId: string): TestItem[] {
  const channels = site.channels.filter((channel) => channel.controller === controllerId)
  /** each way to a channel, tried in a stage */
  const tried = (channel: Channel, stage: 'alone' | 'load', expected: (way: Way) => string): TestItem[] =>
    site.ways
      .filter((way) => way.channel === channel.id)
      .map((way) => ({
        key: `${stage}:${channel.id}:${way.id}`,
        stage,
        channel: channel.id,
        way: way.id,
        action: actionOf(site, channel, way),
        expected: expected(way),
      }))
  const alone = channels.flatMap((channel) =>
    tried(channel, 'alone', (way) => `the indicator of ${channel.name} changes${returns(way)}`),
  )
  const restart = channels.map((channel): TestItem => ({
    key: `no-load:${channel.id}:start`,
    stage: 'no-load',
    channel: channel.id,
    way: null,
    action: `Take power away and give it back; listen to ${channel.name}`,
    expected: RESTART[powerUpOf(channel).policy],
  }))
  const withLoad = channels.flatMap((channel) => {
    const load = loadOf(site, channel.load)
    return load ? tried(channel, 'load', () => `${load.name} follows`) : [unnamed(channel)]
  })
  return [...alone, ...restart, ...withLoad]
}

/** What to say before a stage. */
export function stageCautions(site: Site, controllerId: string, stage: Stage): readonly string[] {
  if (stage === 'alone') return ['No mains in the box yet: only the board, the module and their supply.']
  if (stage === 'no-load') return ['Still no mains: the contacts stay unconnected, you only listen.']
  const cautions = cautionsFor(site, controllerId)
  return hasMains(site, controllerId) ? cautions : ['Connect the load with its supply off.', ...cautions]
}

/** The first stage before this one that is not clear yet: something of it is open or has failed. */
export function openStage(
  items: readonly { readonly stage: Stage; readonly outcome: string }[],
  stage: Stage,
): Stage | undefined {
  const clear = (outcome: string): boolean => outcome === 'passed' || outcome === 'skipped'
  const before = STAGES.slice(0, STAGES.indexOf(stage))
  return before.find((one) => items.some((item) => item.stage === one && !clear(item.outcome)))
}
