import type { PairedChannel } from '../channels'
import { figureOf, timeText } from '../words'
import { row, understood, type Kind } from './kind'

/** A shutter: two outputs that are never on together. Level 1 is output a, level 2 output b. */
export const paired: Kind<PairedChannel> = {
  kind: 'paired',
  begin: (common) => ({ kind: 'paired', ...common, labels: ['up', 'down'], deadMs: 500, runMs: 60_000 }),
  actions: [
    row('a', { output: 0 }),
    row('b', { output: 1 }),
    row('stop'),
    row('toggle', { words: 'by turns', set: false }),
    understood('up'),
    understood('down'),
    understood('off'),
    understood('level'),
  ],
  usual: {
    press: 'toggle',
    second: 'stop',
    keys: ['a', 'stop', 'b'],
    characters: ['a', 'b', 'stop'],
    widget: 'stepper',
  },
  misfits: { push: 'lets go', switch: 'two positions' },
  saidAs: ['stop', 'a', 'b'],
  numbered: true,
  outputs: (channel) => channel.labels.map((label) => ({ label, words: label })),
  patterns: () => [[], [0], [1]],
  timing: (channel) => ({ gapMs: channel.deadMs, maxOnMs: channel.runMs ?? 0, minOffMs: 0 }),
  position: () => null,
  wraps: () => false,
  // the first toggle leaves from b, so it goes to a
  firstLevel: () => 2,
  lasting: false,
  powerUp: () => ({ policy: 'off' }),
  unasked: 'Every power cut moves the shutter, with nobody looking.',
  keepsLastLevel: false,
  inGroups: 'always',
  limitRunsFrom: 'contact',
  report: 'words',
  states: ['stop', 'a', 'b'],
  modes: ['auto', 'yield', 'manual'],
  entity: 'two-way',
  seen: (channel, level) => (level === 0 ? 'stopped' : (channel.labels[level - 1] ?? 'stopped')),
  moves: (channel, contact, closed) => `${channel.labels[contact] ?? ''} ${closed ? 'runs' : 'stops'}`,
  closes: (channel, pins) => [
    `${channel.name}: ${channel.labels[0]} on ${pins[0]}, ${channel.labels[1]} on ${pins[1]}, ${channel.active} closes`,
    `never both; ${timeText(channel.deadMs)} between` + (channel.runMs ? `, at most ${timeText(channel.runMs)}` : ''),
  ],
  scaling: (channel, least, greatest) => {
    const half = figureOf((greatest - least) / 2)
    const positions = `0 stop, 1 ${channel.labels[0]}, 2 ${channel.labels[1]}`
    return { to: `÷ ${half}, rounded up → ${positions}`, back: `${positions}, × ${half}` }
  },
  tries: (channel, place) => ({
    phone: `Move ${channel.name} ${place}: ${channel.labels[0]}, stop, ${channel.labels[1]}`,
    voice: 'on and off',
  }),
  spoken: {
    words: () => ({ up: 'a', open: 'a', on: 'a', down: 'b', close: 'b', off: 'stop', stop: 'stop', toggle: 'toggle' }),
    numbers: 'nothing',
    example: (_channel, name) => `raise ${name}`,
  },
}
