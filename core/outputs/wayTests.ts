import {
  detentsOf,
  inputOf,
  isFeed,
  keyOf,
  kindOf,
  linkOf,
  outputsOf,
  pointOf,
  remoteOf,
  timeText,
  topLevel,
  type Channel,
  type ChannelAction,
  type GestureBinding,
  type Input,
  type Site,
  type Way,
} from '../site'
import type { Expect } from '../witness'
import {
  alsoMoved,
  eye,
  heard,
  localSources,
  relayEye,
  screenAgrees,
  sourcesOf,
  toOf,
  turn,
  turnsAtScreen,
  turnsOfAction,
  turnsOfHold,
  waits,
  type Heard,
} from './testWatches'

/** What to do at one way, and what its module's indicators must then show; nothing that must not happen is expected. */
export interface WayStep {
  /** unique among the steps of its way */
  readonly key: string
  readonly action: string
  readonly expected: string
  readonly heard: Heard
}

const step = (key: string, action: string, expected: string, heard: Heard): WayStep => ({
  key,
  action,
  expected,
  heard,
})

/** What is seen of a channel after an action, from off. */
export function seenAfter(channel: Channel, action: ChannelAction, level: number | null = null): string {
  const { name } = channel
  switch (action) {
    case 'pulse':
      return channel.kind === 'pulsed' ? `${name}: on for ${timeText(channel.pulseMs)}, once` : `${name}: on, once`
    case 'open':
    case 'close':
      return `${name} pulses only where the door does not stand ${action === 'open' ? 'open' : 'closed'} already`
    case 'on':
    case 'follow':
      return `${name}: on`
    case 'off':
      return `${name}: off`
    case 'toggle':
      return channel.kind === 'paired'
        ? `${name} runs one way, stops, runs the other way`
        : `${name}: on, and off at the second`
    case 'up':
    case 'down':
      return `${name}: one level ${action}`
    case 'level':
      return `${name}: ${level === 0 ? 'off' : `level ${level ?? 1}`}`
    case 'a':
    case 'b': {
      const output = outputsOf(channel)[action === 'a' ? 0 : 1]
      return `${name}: ${output?.words ?? action} is on, and the other output is not`
    }
    case 'stop':
      return `${name}: stop`
  }
}

const twice = (action: ChannelAction): string => (action === 'toggle' ? ' twice, a second apart' : '')

const GESTURES: Record<GestureBinding['gesture'], (input: Input) => string> = {
  press: ({ name }) => `Press ${name}`,
  release: ({ name }) => `Press ${name} and let it go`,
  hold: (input) => `Hold ${input.name} for ${timeText((input.kind === 'momentary' ? input.holdMs : 0) + 500)}`,
  flip: ({ name }) => `Rock ${name}`,
  follow: ({ name }) => `Rock ${name} on, then off`,
  select: ({ name }) => `Turn ${name}`,
}

function selectorSteps(site: Site, channel: Channel, way: Way, input: Extract<Input, { kind: 'selector' }>): WayStep[] {
  const positions = detentsOf(input).map(({ level }) => level)
  const detents = positions.map((level) => (level === 0 ? 'off' : `level ${level}`))
  const by = sourcesOf(site, way)
  const turns = [...new Set(positions)].map((level) => turn(channel, level, by))
  return [
    step(
      'select',
      `Turn ${input.name} through all its positions`,
      `${channel.name}: ${detents.join(', ')}; never two levels at once`,
      heard([{ kind: 'all', turns }], relayEye(channel), alsoMoved(site, way)),
    ),
    ...(input.gate
      ? [
          step(
            'gate',
            `Open the switch before ${input.name}, and turn ${input.name}`,
            `${channel.name} does not start; it does when the switch is closed again`,
            heard([waits(channel, 'on', by)], eye(`Did ${channel.name} stay off until the switch was closed again?`)),
          ),
        ]
      : []),
  ]
}

function wallSteps(site: Site, channel: Channel, way: Extract<Way, { kind: 'wall' }>): WayStep[] {
  const input = inputOf(site, way.input)!
  return way.bindings.flatMap(({ gesture, action }) => {
    if (input.kind === 'selector') return selectorSteps(site, channel, way, input)
    const by = sourcesOf(site, way)
    const also = alsoMoved(site, way)
    const does = GESTURES[gesture](input)
    if (isFeed(channel))
      return [
        step(
          gesture,
          `With the hub running: ${does}`,
          `${channel.name}: still on; the hub turns its lamps over`,
          heard([{ kind: 'gesture', channel: channel.id }], { ...relayEye(channel), about: null }, also),
        ),
      ]
    if (action === 'follow') {
      const follows = [waits(channel, 'on', by), waits(channel, 'off', by)]
      return [step(gesture, does, `${channel.name}: on, then off`, heard(follows, relayEye(channel), also))]
    }
    const others = way.bindings.some((one) => one.gesture === 'hold') && gesture === 'press'
    return [
      step(
        gesture,
        `${does}${twice(action)}`,
        `${seenAfter(channel, action)}${others ? '; it acts when released' : ''}`,
        heard(turnsOfAction(channel, action, null, by), relayEye(channel, channel.kind !== 'stepped'), also),
      ),
    ]
  })
}

function keySteps(site: Site, channel: Channel, way: Extract<Way, { kind: 'remote' }>): WayStep[] {
  const key = keyOf(site, way.remote, way.key)!
  const remote = remoteOf(site, way.remote)!.name
  const { repeat } = key
  const by = sourcesOf(site, way)
  const also = alsoMoved(site, way)
  const seen = relayEye(channel, channel.kind !== 'stepped')
  const to = toOf(channel, way.action, way.level)
  return [
    step(
      'press',
      `Press “${key.name}” on ${remote}${twice(way.action)}`,
      seenAfter(channel, way.action, way.level),
      heard(turnsOfAction(channel, way.action, way.level, by), seen, also),
    ),
    step(
      'hold',
      `Hold “${key.name}” on ${remote} for two seconds`,
      repeat.policy === 'once' ? `${channel.name}: one change only` : `it acts again every ${timeText(repeat.everyMs)}`,
      heard(turnsOfHold(channel, to, by, repeat.policy === 'once'), seen, also),
    ),
  ]
}

/** What a person at a screen does through all of a channel's states. */
function screenSteps(
  site: Site,
  channel: Channel,
  where: string,
  { way, holder, reports }: { way: Way; holder: string; reports: boolean },
): WayStep[] {
  const { name } = channel
  const beside = reports ? screenAgrees(site, channel, holder) : []
  const agrees = beside.length > 0 ? `; after ${besideWords(site, channel)} the screen shows it` : ''
  const seen = isFeed(channel) ? eye(`Did the lamps behind ${name} follow?`) : relayEye(channel)
  const all = heard([...turnsAtScreen(channel, sourcesOf(site, way)), ...beside], seen, alsoMoved(site, way))
  switch (channel.kind) {
    case 'pulsed':
      return [step('press', `Press ${name} ${where}`, `${seenAfter(channel, 'pulse')}${agrees}`, all)]
    case 'paired': {
      const [a, b] = channel.labels
      return [
        step(
          'move',
          `Move ${name} ${where}: ${a}, stop, ${b}, then ${a} at once`,
          `one output at a time, ${timeText(channel.deadMs)} of neither between${agrees}`,
          all,
        ),
      ]
    }
    case 'stepped':
      return [
        step(
          'levels',
          `Move ${name} ${where} through all its levels, 0 to ${topLevel(channel)}`,
          `each level’s contacts and no others are on, with a gap between${agrees}`,
          all,
        ),
      ]
    default:
      return [step('tap', `Turn ${name} on, then off, ${where}`, `${name}: on, then off${agrees}`, all)]
  }
}

/** "a press of S1 or a key of the remote": the hand beside a screen. */
function besideWords(site: Site, channel: Channel): string {
  const by = localSources(site, channel)
  const words = by.map((source) => (source === 'wall' ? 'a press on the wall' : (LOCAL_WORDS[source] ?? 'a command')))
  return words[0]!
}
const LOCAL_WORDS: Readonly<Record<string, string>> = {
  remote: 'a key of the remote',
  nearby: 'a character of the nearby link',
  serial: 'a press or a character at the board',
}

/** What a spoken line brings. */
function spokenTurns(site: Site, channel: Channel, way: Way, opposite: boolean): Expect[] {
  const by = sourcesOf(site, way)
  if (isFeed(channel)) return []
  if (channel.kind === 'pulsed' || channel.kind === 'paired') return [waits(channel, 'any', by)]
  const first = channel.kind === 'stepped' ? topLevel(channel) : 'on'
  return [waits(channel, first, by), ...(opposite ? [waits(channel, 'off', by)] : [])]
}

function voiceSteps(site: Site, channel: Channel, way: Extract<Way, { kind: 'voice' }>): WayStep[] {
  const { name, pin } = way
  const { spoken } = kindOf(channel)
  const opposite = 'off' in spoken.words(channel as never) ? `, then “turn off ${name}”` : ''
  return [
    step(
      'say',
      `Say “${spoken.example(channel as never, name)}”${opposite}${pin ? '; say its PIN when asked' : ''}`,
      `${channel.name}: follows${opposite ? ', both times' : ''}${pin ? '; without the PIN no change' : ''}`,
      heard(
        spokenTurns(site, channel, way, opposite !== ''),
        pin
          ? eye(`Did ${channel.name} stay as it was until the PIN was said?`)
          : isFeed(channel)
            ? eye(`Did the lamps behind ${channel.name} follow?`)
            : relayEye(channel, channel.kind !== 'stepped'),
        alsoMoved(site, way),
      ),
    ),
  ]
}

/** How each way is tried while nothing but the module is connected. */
export function waySteps(site: Site, channel: Channel, way: Way): WayStep[] {
  switch (way.kind) {
    case 'wall':
      return wallSteps(site, channel, way)
    case 'remote':
      return keySteps(site, channel, way)
    case 'app': {
      const point = pointOf(site, way.service, way.point)!
      return screenSteps(site, channel, `on the phone (vp${point.vp})`, {
        way,
        holder: way.service,
        reports: way.feedback === 'reports',
      })
    }
    case 'hub': {
      const hub = site.hubs.find(({ id }) => id === way.hub)!
      const entity = hub.entities.find(({ id }) => id === way.entity)!
      return screenSteps(site, channel, `from ${hub.name} (“${entity.name}”)`, {
        way,
        holder: way.hub,
        reports: way.feedback === 'reports',
      })
    }
    case 'voice':
      return voiceSteps(site, channel, way)
    case 'link':
      return [
        step(
          'send',
          `Send “${way.char}” over ${linkOf(site, way.link)!.name}${twice(way.action)}`,
          seenAfter(channel, way.action, way.level),
          heard(
            turnsOfAction(channel, way.action, way.level, sourcesOf(site, way)),
            relayEye(channel, channel.kind !== 'stepped'),
            alsoMoved(site, way),
          ),
        ),
      ]
  }
}
