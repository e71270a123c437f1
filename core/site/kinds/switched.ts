import type { FeedChannel, SteppedChannel, SwitchedChannel } from '../channels'
import { row, SINGLE_OUTPUT, understood, type Kind } from './kind'

type Lasting = SwitchedChannel | SteppedChannel | FeedChannel

/** What on/off channels have in common. */
export const onAndOff = {
  usual: {
    press: 'toggle',
    second: 'off',
    keys: ['toggle'],
    characters: ['on', 'off'],
    widget: 'switch',
  },
  misfits: { push: 'lets go' },
  saidAs: ['off', 'on'],
  numbered: false,
  outputs: () => SINGLE_OUTPUT,
  patterns: () => [[], [0]],
  position: () => null,
  wraps: () => false,
  firstLevel: () => 1,
  lasting: true,
  unasked: null,
  keepsLastLevel: false,
  inGroups: 'always',
  limitRunsFrom: 'contact',
  report: 'on',
  states: [],
  modes: ['auto', 'yield', 'manual'],
  scaling: (_channel: Lasting, least: number, greatest: number) => ({
    to: `${least} is off, all above is on`,
    back: `${least} or ${greatest}`,
  }),
  tries: (channel: Lasting, place: string) => ({
    phone: `Tap ${channel.name} ${place}, on and off`,
    voice: 'on and off',
  }),
  spoken: {
    words: () => ({ on: 'on', off: 'off', toggle: 'toggle', stop: 'off' }),
    numbers: 'on or off',
    example: (_channel: Lasting, name: string) => `turn on ${name}`,
  },
} as const satisfies Partial<Kind<SwitchedChannel>>

/** `up`, `down` and a level reach a channel of two levels too: from a table that a maker wrote, or a point. */
export const onAndOffActions = [
  row('on'),
  row('off'),
  row('toggle'),
  understood('up'),
  understood('down'),
  understood('level'),
  understood('follow'),
]

/** A lamp, a socket, a heater: on or off. */
export const switched: Kind<SwitchedChannel> = {
  ...onAndOff,
  kind: 'switched',
  begin: (common) => ({ kind: 'switched', ...common, maxOnMs: null, minOffMs: null, powerUp: { policy: 'off' } }),
  actions: onAndOffActions,
  timing: (channel) => ({ gapMs: 0, maxOnMs: channel.maxOnMs ?? 0, minOffMs: channel.minOffMs ?? 0 }),
  powerUp: (channel) => channel.powerUp,
  entity: 'switch',
  seen: (_channel, level) => (level > 0 ? 'on' : 'off'),
  moves: (_channel, _contact, closed) => (closed ? 'on' : 'off'),
  closes: (channel, pins) => [`${channel.name}: ${pins[0]}, ${channel.active} closes`],
}
