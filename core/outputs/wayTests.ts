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

/** What to do at one way, and what its module's indicators must then show; nothing that must not happen is expected. */
export interface WayStep {
  /** unique among the steps of its way */
  readonly key: string
  readonly action: string
  readonly expected: string
}

const step = (key: string, action: string, expected: string): WayStep => ({ key, action, expected })

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

function selectorSteps(channel: Channel, input: Extract<Input, { kind: 'selector' }>): WayStep[] {
  const detents = detentsOf(input).map(({ level }) => (level === 0 ? 'off' : `level ${level}`))
  return [
    step(
      'select',
      `Turn ${input.name} through all its positions`,
      `${channel.name}: ${detents.join(', ')}; never two levels at once`,
    ),
    ...(input.gate
      ? [
          step(
            'gate',
            `Open the switch before ${input.name}, and turn ${input.name}`,
            `${channel.name} does not start; it does when the switch is closed again`,
          ),
        ]
      : []),
  ]
}

function wallSteps(site: Site, channel: Channel, way: Extract<Way, { kind: 'wall' }>): WayStep[] {
  const input = inputOf(site, way.input)!
  return way.bindings.flatMap(({ gesture, action }) => {
    if (input.kind === 'selector') return selectorSteps(channel, input)
    const does = GESTURES[gesture](input)
    if (isFeed(channel))
      return [step(gesture, `With the hub running: ${does}`, `${channel.name}: still on; the hub turns its lamps over`)]
    if (action === 'follow') return [step(gesture, does, `${channel.name}: on, then off`)]
    const others = way.bindings.some((one) => one.gesture === 'hold') && gesture === 'press'
    return [
      step(
        gesture,
        `${does}${twice(action)}`,
        `${seenAfter(channel, action)}${others ? '; it acts when released' : ''}`,
      ),
    ]
  })
}

function keySteps(site: Site, channel: Channel, way: Extract<Way, { kind: 'remote' }>): WayStep[] {
  const key = keyOf(site, way.remote, way.key)!
  const remote = remoteOf(site, way.remote)!.name
  const { repeat } = key
  return [
    step('press', `Press “${key.name}” on ${remote}${twice(way.action)}`, seenAfter(channel, way.action, way.level)),
    step(
      'hold',
      `Hold “${key.name}” on ${remote} for two seconds`,
      repeat.policy === 'once' ? `${channel.name}: one change only` : `it acts again every ${timeText(repeat.everyMs)}`,
    ),
  ]
}

/** What a person at a screen does through all of a channel's states. */
function screenSteps(channel: Channel, where: string, reports: boolean): WayStep[] {
  const { name } = channel
  const agrees = reports ? '; after a press on the wall the screen shows it' : ''
  switch (channel.kind) {
    case 'pulsed':
      return [step('press', `Press ${name} ${where}`, `${seenAfter(channel, 'pulse')}${agrees}`)]
    case 'paired': {
      const [a, b] = channel.labels
      return [
        step(
          'move',
          `Move ${name} ${where}: ${a}, stop, ${b}, then ${a} at once`,
          `one output at a time, ${timeText(channel.deadMs)} of neither between${agrees}`,
        ),
      ]
    }
    case 'stepped':
      return [
        step(
          'levels',
          `Move ${name} ${where} through all its levels, 0 to ${topLevel(channel)}`,
          `each level’s contacts and no others are on, with a gap between${agrees}`,
        ),
      ]
    default:
      return [step('tap', `Turn ${name} on, then off, ${where}`, `${name}: on, then off${agrees}`)]
  }
}

function voiceSteps(channel: Channel, name: string, pin: boolean): WayStep[] {
  const { spoken } = kindOf(channel)
  const opposite = 'off' in spoken.words(channel as never) ? `, then “turn off ${name}”` : ''
  return [
    step(
      'say',
      `Say “${spoken.example(channel as never, name)}”${opposite}${pin ? '; say its PIN when asked' : ''}`,
      `${channel.name}: follows${opposite ? ', both times' : ''}${pin ? '; without the PIN no change' : ''}`,
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
      return screenSteps(channel, `on the phone (vp${point.vp})`, way.feedback === 'reports')
    }
    case 'hub': {
      const hub = site.hubs.find(({ id }) => id === way.hub)!
      const entity = hub.entities.find(({ id }) => id === way.entity)!
      return screenSteps(channel, `from ${hub.name} (“${entity.name}”)`, way.feedback === 'reports')
    }
    case 'voice':
      return voiceSteps(channel, way.name, way.pin)
    case 'link':
      return [
        step(
          'send',
          `Send “${way.char}” over ${linkOf(site, way.link)!.name}${twice(way.action)}`,
          seenAfter(channel, way.action, way.level),
        ),
      ]
  }
}
