import type { PulsedChannel } from '../channels'
import { timeText } from '../words'
import { row, SINGLE_OUTPUT, type Kind } from './kind'

/** Where a door stands, by its position contact. */
export const DOOR_STATES = ['closed', 'open', 'unknown'] as const

/** A strike, a door opener: closes for a set time, and is over. */
export const pulsed: Kind<PulsedChannel> = {
  kind: 'pulsed',
  // half a second, and nobody knows yet what it opens
  begin: (common) => ({
    kind: 'pulsed',
    ...common,
    pulseMs: 500,
    lockoutMs: 2_000,
    contact: null,
    contactMeans: 'closed',
    door: null,
  }),
  actions: [row('pulse'), row('open', { needsPosition: true }), row('close', { needsPosition: true })],
  usual: { press: 'pulse', second: 'pulse', keys: ['pulse'], characters: ['pulse'], widget: 'push' },
  misfits: { switch: 'stays', slider: 'stays', stepper: 'stays', mode: 'stays' },
  saidAs: [null, 'pulse'],
  numbered: false,
  outputs: () => SINGLE_OUTPUT,
  patterns: () => [[], [0]],
  timing: (channel) => ({ gapMs: 0, maxOnMs: channel.pulseMs, minOffMs: channel.lockoutMs }),
  position: (channel) => ({ input: channel.contact, closedMeans: channel.contactMeans }),
  wraps: () => false,
  firstLevel: () => 1,
  lasting: false,
  powerUp: () => ({ policy: 'off' }),
  unasked: 'Every power cut opens the door.',
  keepsLastLevel: false,
  // a door must not open because somebody leaves the room
  inGroups: 'never',
  limitRunsFrom: 'command',
  report: 'words',
  states: ['idle', 'pulsing'],
  modes: ['auto', 'yield', 'manual'],
  entity: 'pulse',
  seen: (channel, level) => {
    if (channel.contact) return level > 0 ? 'open' : 'closed'
    return level > 0 ? 'pulsing' : 'at rest'
  },
  moves: (_channel, _contact, closed) => (closed ? 'pulses' : 'rests'),
  closes: (channel, pins) => [
    `${channel.name}: ${pins[0]}, ${channel.active} closes for ${timeText(channel.pulseMs)}`,
    channel.lockoutMs ? `deaf for ${timeText(channel.lockoutMs)} after it` : 'ready again at once',
  ],
  scaling: (channel, least, greatest) => ({
    to: `above ${least} is one pulse`,
    back: channel.contact ? `${greatest} is open, ${least} closed` : `${greatest} while it pulses`,
  }),
  tries: (channel, place) => ({ phone: `Press ${channel.name} ${place}`, voice: 'open' }),
  spoken: {
    words: (channel) =>
      channel.contact === null
        ? { open: 'pulse', pulse: 'pulse', on: 'pulse' }
        : { open: 'open', close: 'close', pulse: 'pulse', on: 'pulse' },
    numbers: 'nothing',
    example: (_channel, name) => `open ${name}`,
  },
}
