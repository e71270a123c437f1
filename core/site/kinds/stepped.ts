import type { SteppedChannel } from '../channels'
import { figureOf } from '../words'
import { row, understood, type Kind } from './kind'
import { onAndOff } from './switched'

const top = (channel: SteppedChannel): number => channel.patterns.length - 1

const patternWords = (pattern: readonly number[]): string =>
  pattern.length === 0 ? 'all open' : `closes ${pattern.map((contact) => contact + 1).join(' and ')}`

/** A fan regulator: levels over several contacts, the last one remembered. */
export const stepped: Kind<SteppedChannel> = {
  ...onAndOff,
  kind: 'stepped',
  // a fan of two steps, each with a contact of its own
  begin: (common) => ({
    kind: 'stepped',
    ...common,
    maxOnMs: null,
    minOffMs: null,
    powerUp: { policy: 'off' },
    contacts: 2,
    patterns: [[], [0], [1]],
    never: [[0, 1]],
    gapMs: 30,
    wrap: false,
    onLevel: 1,
  }),
  actions: [
    row('on'),
    row('off'),
    row('toggle'),
    row('up'),
    row('down'),
    row('level', { words: 'set a level' }),
    understood('follow'),
  ],
  usual: { ...onAndOff.usual, keys: ['up', 'down'], characters: ['up', 'down'], widget: 'slider' },
  numbered: true,
  outputs: (channel) =>
    Array.from({ length: channel.contacts }, (_, contact) => ({
      label: String(contact + 1),
      words: `step ${contact + 1}`,
    })),
  patterns: (channel) => channel.patterns,
  timing: (channel) => ({
    gapMs: channel.gapMs,
    maxOnMs: channel.maxOnMs ?? 0,
    minOffMs: channel.minOffMs ?? 0,
  }),
  wraps: (channel) => channel.wrap,
  firstLevel: (channel) => channel.onLevel,
  powerUp: (channel) => channel.powerUp,
  keepsLastLevel: true,
  report: 'level',
  entity: 'levels',
  seen: (_channel, level) => (level === 0 ? 'off' : `level ${level}`),
  moves: (_channel, contact, closed, level) =>
    `contact ${contact + 1} ${closed ? 'closes' : 'opens'} for level ${level}`,
  closes: (channel, pins) => [
    `${channel.name}: contacts ${pins.map((pin, i) => `${i + 1} on ${pin}`).join(', ')}, ${channel.active} closes`,
    `${channel.patterns.map((pattern, level) => `level ${level}: ${patternWords(pattern)}`).join(', ')}; ` +
      `${channel.gapMs} ms between levels`,
  ],
  scaling: (channel, least, greatest) => {
    if (top(channel) === 1) return onAndOff.scaling(channel, least, greatest)
    const step = figureOf((greatest - least) / top(channel))
    return { to: `÷ ${step}, rounded up → level 0–${top(channel)}`, back: `level × ${step}` }
  },
  tries: (channel, place) => ({
    phone: `Move ${channel.name} ${place} through all its levels`,
    voice: 'on and off',
  }),
  spoken: {
    words: () => ({ ...onAndOff.spoken.words(), up: 'up', down: 'down' }),
    numbers: 'levels',
    example: (channel, name) => `set ${name} to ${top(channel)}`,
  },
}
