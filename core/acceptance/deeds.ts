import { holdersOf } from '../services'
import {
  detentsOf,
  inputOf,
  keyOf,
  kindOf,
  linkOf,
  remoteOf,
  setWords,
  topLevel,
  type Channel,
  type ChannelAction,
  type GestureBinding,
  type Input,
  type Site,
  type Way,
} from '../site'
import type { TimedAction } from './tryout'

/** One thing that a way can be asked for: what is done, and the action that must follow. */
export interface Step {
  /** as in the test list for the real board (outputs/wayTests.ts) */
  readonly key: string
  readonly action: string
  readonly deeds: readonly TimedAction[]
  readonly asks: Asked
  /** what is done well before, so that the deed is one: a selector stands elsewhere */
  readonly first?: readonly TimedAction[]
}

/** What must come of it: an action of the channel, or a level. */
export type Asked =
  | { readonly kind: 'action'; readonly action: ChannelAction }
  | { readonly kind: 'level'; readonly level: number }
  /** nothing at the load: the hub's lamps turn over instead */
  | { readonly kind: 'lamps' }

/** A finger's short press, ms (common practice): it knows nothing of settle times. */
const PRESS_MS = 150

function pressed(input: Input, gesture: GestureBinding['gesture']): TimedAction[] {
  const hold = gesture === 'hold' && input.kind === 'momentary' ? input.holdMs : 0
  return [
    { kind: 'press', input: input.id },
    { kind: 'release', input: input.id, afterMs: PRESS_MS + hold },
  ]
}

function wallSteps(site: Site, channel: Channel, way: Extract<Way, { kind: 'wall' }>): Step[] {
  const input = inputOf(site, way.input)
  if (!input) return []
  if (input.kind === 'selector')
    return detentsOf(input).map(({ level, code }, place, all): Step => {
      const beside = all[place > 0 ? place - 1 : 1]?.code ?? code
      return {
        ...{ key: 'select', action: `Turn ${input.name} to level ${level}` },
        first: [{ kind: 'turn', input: input.id, code: beside }],
        deeds: [{ kind: 'turn', input: input.id, code }],
        asks: { kind: 'level', level },
      }
    })
  return way.bindings.map(({ gesture, action }): Step => {
    const deeds = input.kind === 'momentary' ? pressed(input, gesture) : [{ kind: 'rock' as const, input: input.id }]
    const asks: Asked = channel.kind === 'feed' ? { kind: 'lamps' } : { kind: 'action', action }
    const verb = input.kind === 'momentary' ? (gesture === 'hold' ? 'Hold' : 'Press') : 'Rock'
    return { key: gesture, action: `${verb} ${input.name}`, deeds, asks }
  })
}

const told = (action: ChannelAction, level: number | null): Asked =>
  action === 'level' ? { kind: 'level', level: level ?? 1 } : { kind: 'action', action }

function appSteps(site: Site, channel: Channel, way: Extract<Way, { kind: 'app' }>): Step[] {
  const held = holdersOf(site).find(({ service }) => service.id === way.service)
  const point = held?.service.points.find(({ id }) => id === way.point)
  const widget = held?.service.widgets.find(
    ({ point: id, kind }) => id === way.point && kind !== 'value' && kind !== 'gauge',
  )
  if (!held || !point || !widget) return []
  const touch = { kind: 'widget', service: held.service.id, widget: widget.id } as const
  if (channel.kind === 'pulsed')
    return [
      {
        ...{ key: 'press', action: `Press ${widget.name} on the phone`, asks: { kind: 'action', action: 'pulse' } },
        deeds: [
          { ...touch, on: true },
          { ...touch, on: false, afterMs: 300 },
        ],
      },
    ]
  const top = topLevel(channel)
  const levels = [...Array.from({ length: top }, (_, i) => i + 1), 0]
  return levels.map((level) => ({
    ...{
      key: top > 1 ? 'levels' : 'tap',
      action:
        top > 1
          ? `Set ${widget.name} to ${level} on the phone`
          : `On the phone, turn ${widget.name} ${level > 0 ? 'on' : 'off'}`,
    },
    deeds: [
      top > 1
        ? { ...touch, on: level > 0, value: point.min + Math.floor((level * (point.max - point.min)) / top) }
        : { ...touch, on: level > 0 },
    ],
    asks: { kind: 'level', level },
  }))
}

function hubSteps(channel: Channel, way: Extract<Way, { kind: 'hub' }>): Step[] {
  const { hub, entity } = way
  const says = (command: string, asks: Asked): Step => ({
    ...{ key: KEY_OF[channel.kind], action: `Send “${command}” from the hub` },
    deeds: [{ kind: 'hub', hub, entity, command }],
    asks,
  })
  const words = setWords(channel)
  if (channel.kind === 'stepped')
    return [...Array.from({ length: topLevel(channel) }, (_, i) => i + 1), 0].map((level) =>
      says(String(level), { kind: 'level', level }),
    )
  return HUB_WORDS.filter((word) => words.includes(word)).map((word) => says(word, { kind: 'action', action: word }))
}

const KEY_OF: Readonly<Record<Channel['kind'], string>> = {
  ...{ switched: 'tap', stepped: 'levels', pulsed: 'press', paired: 'move', feed: 'tap' },
}
const HUB_WORDS: readonly ChannelAction[] = ['on', 'off', 'pulse', 'a', 'stop', 'b']

function voiceSteps(channel: Channel, name: string): Step[] {
  const { spoken } = kindOf(channel)
  const words = spoken.words(channel)
  const say = (text: string, action: ChannelAction): Step => ({
    ...{ key: 'say', action: `Say “${text}”`, deeds: [{ kind: 'say', text }], asks: { kind: 'action', action } },
  })
  const first = spoken.example(channel, name)
  if (channel.kind === 'paired') return [say(first, 'a')]
  if (channel.kind === 'pulsed') return [say(first, 'pulse')]
  if (channel.kind === 'stepped') return [say(`turn on ${name}`, 'on'), say(`turn off ${name}`, 'off')]
  return [say(first, 'on'), ...(words.off ? [say(`turn off ${name}`, words.off)] : [])]
}

/** Everything that a way can be asked for. */
export function stepsOf(site: Site, channel: Channel, way: Way): Step[] {
  switch (way.kind) {
    case 'wall':
      return wallSteps(site, channel, way)
    case 'remote': {
      const name = `Press “${keyOf(site, way.remote, way.key)?.name ?? way.key}” on ${remoteOf(site, way.remote)?.name}`
      const deeds: TimedAction[] = [{ kind: 'key', remote: way.remote, key: way.key, repeat: false }]
      return [{ key: 'press', action: name, deeds, asks: told(way.action, way.level) }]
    }
    case 'link': {
      const name = `Send “${way.char}” over ${linkOf(site, way.link)?.name}`
      const deeds: TimedAction[] = [{ kind: 'char', link: way.link, char: way.char }]
      return [{ key: 'send', action: name, deeds, asks: told(way.action, way.level) }]
    }
    case 'app':
      return appSteps(site, channel, way)
    case 'hub':
      return hubSteps(channel, way)
    case 'voice':
      return voiceSteps(channel, way.name)
  }
}
