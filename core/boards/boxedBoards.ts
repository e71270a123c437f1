import { power } from './headerPins'
import type { BoardProfile, Capability, GpioSpot } from './schema'
import { BOXED_SETTINGS } from './settings'

/**
 * Boards that come in a box with their relays. What is wired inside is fixed. Source: common practice among makers who
 * open them.
 */
const INPUT: Capability[] = ['input', 'pull-up', 'interrupt']
const OUTPUT: Capability[] = ['output']
const gpio = (label: string, number: number, can: Capability[], more: Partial<GpioSpot> = {}): GpioSpot => ({
  kind: 'gpio',
  label,
  gpio: number,
  can,
  ...more,
})

const base = {
  source: 'common practice among makers who open them',
  logicVolts: 3.3 as const,
  link: 'wifi' as const,
  port: 'board-core' as const,
  pinMilliamps: { recommended: 12, absolute: 12, total: 100 },
  internalPullKiloohms: { least: 30, most: 100 },
  drawMilliamps: { idle: 80, peak: 300 },
  regulator: { kind: 'linear' as const, milliamps: 500, degreesPerWatt: 160 },
  firmwareAfterMs: 150,
  storeEndurance: 1_000_000,
  hidden: [6, 7, 8, 11].map((number) => ({ gpio: number, why: 'belongs to the flash memory' })),
  pairs: [{ kind: 'serial' as const, first: 1, second: 3 }],
}
/** As printed on usual boxes of this kind (memory). */
const BOX_CONTACT = { amps: 10, volts: 250 }
const BOX_CHECK = [
  'what is printed at its terminals, and how many amperes',
  'that no metal of the open board is touched while it is on mains: its ground stands at mains potential',
]
const CLOSED_BOX =
  'Mains terminals share the box: program it with mains disconnected, never with the adapter and mains at once.'

/** Two-relay boxed module, first revision: the relays are told over the serial line. */
export const boxedTwoRelayEarly: BoardProfile = {
  ...base,
  id: 'boxed-two-relay-r1',
  name: 'Boxed two-relay module, first revision',
  boxed: {
    relays: [],
    switches: [],
    relaysBy: 'serial',
    externalSwitches: false,
    contact: BOX_CONTACT,
    outputs: ['OUT1', 'OUT2'],
    marks: [
      'a second, smaller chip beside the radio: it drives the relays',
      'no wires from the radio to the relays’ transistors',
    ],
    note:
      'the relays are driven over the serial line, on which the log must be silent; external switches are ' +
      'unreliable; the boot pad is hard to reach',
  },
  own: { light: { gpio: 13, lit: 'low' } },
  left: [power('L', null), power('N', null), power('OUT1', null), power('OUT2', null)],
  right: [
    gpio('TX', 1, ['output'], { usedBy: ['serial-log'] }),
    gpio('RX', 3, INPUT, { usedBy: ['serial-log'] }),
    gpio('LED', 13, OUTPUT, { usedBy: ['light'] }),
    power('3V3', 3.3),
    power('GND', 0),
  ],
  check: BOX_CHECK,
  settings: BOXED_SETTINGS,
  programming: [
    CLOSED_BOX,
    'Bridge the boot pad under the board to ground while you give it 3.3 V from the adapter; connect ' +
      'the 3.3 V lead last.',
  ],
}

/** The same name, later revision: relays and both buttons on GPIO, boot pin is button 0. */
export const boxedTwoRelayLate: BoardProfile = {
  ...base,
  id: 'boxed-two-relay-r2',
  name: 'Boxed two-relay module, later revision',
  boxed: {
    relays: [12, 5],
    switches: [0, 9],
    relaysBy: 'gpio',
    externalSwitches: true,
    contact: BOX_CONTACT,
    outputs: ['OUT1', 'OUT2'],
    switchInputs: ['S1', 'S2'],
    marks: ['no second chip: the radio drives the relays’ transistors itself'],
    note: 'relays and both button pins on GPIO; the boot pin is button 0',
  },
  own: { light: { gpio: 13, lit: 'low' }, button: { gpio: 0, pressed: 'low', label: 'BTN0' } },
  left: [
    power('L', null),
    power('N', null),
    power('OUT1', null),
    power('OUT2', null),
    gpio('REL1', 12, OUTPUT),
    gpio('REL2', 5, OUTPUT),
  ],
  right: [
    gpio('BTN0', 0, INPUT, {
      usedBy: ['button'],
      startLevel: { level: 'high', otherwise: 'the board waits for programming instead of starting' },
    }),
    gpio('BTN1', 9, INPUT),
    gpio('LED', 13, OUTPUT, { usedBy: ['light'] }),
    gpio('TX', 1, ['output'], { usedBy: ['serial-log'] }),
    gpio('RX', 3, INPUT, { usedBy: ['serial-log'] }),
    power('GND', 0),
  ],
  check: BOX_CHECK,
  settings: BOXED_SETTINGS,
  programming: [CLOSED_BOX, 'Hold button 0 while you give it 3.3 V from the adapter; connect the 3.3 V lead last.'],
}

/** Boxed in-wall relay with a switch input, behind the old switch. */
export const boxedInWall: BoardProfile = {
  ...base,
  id: 'boxed-in-wall',
  name: 'Boxed in-wall relay with switch input',
  boxed: {
    relays: [4],
    switches: [5],
    relaysBy: 'gpio',
    externalSwitches: true,
    contact: BOX_CONTACT,
    outputs: ['O'],
    switchInputs: ['SW'],
    switchesAtMains: true,
    note: 'one relay and one switch input; the switch terminal stands at mains potential',
  },
  own: { button: { gpio: 0, pressed: 'low', label: 'BTN' } },
  pairs: [],
  left: [power('L', null), power('N', null), power('O', null), gpio('REL', 4, OUTPUT)],
  right: [
    gpio('SW', 5, INPUT),
    gpio('BTN', 0, INPUT, {
      usedBy: ['button'],
      startLevel: { level: 'high', otherwise: 'the board waits for programming instead of starting' },
    }),
    power('GND', 0),
  ],
  check: BOX_CHECK,
  settings: BOXED_SETTINGS,
  programming: [CLOSED_BOX, 'Hold the button while you give it 3.3 V from the adapter.'],
}

/** Mesh multi-relay: the switch type is a parameter of the device, the hub is its only way to firmware. */
export const meshMultiRelay: BoardProfile = {
  ...base,
  id: 'mesh-multi-relay',
  name: 'Mesh multi-relay',
  boxed: {
    relays: [1, 2],
    switches: [3, 4],
    relaysBy: 'gpio',
    externalSwitches: true,
    contact: BOX_CONTACT,
    outputs: ['O1', 'O2'],
    switchInputs: ['S1', 'S2'],
    switchesAtMains: true,
    parameters: { number: 1, what: 'type of the switch', switches: { momentary: 0, follow: 1, flip: 2 } },
    note:
      'parameter 1 of the device says the switch type: 0 push, 1 rocker that follows, 2 rocker that ' +
      'toggles; include it in the mesh again after a change',
  },
  hidden: [],
  pairs: [],
  left: [power('L', null), power('N', null), gpio('O1', 1, OUTPUT), gpio('O2', 2, OUTPUT)],
  right: [gpio('S1', 3, INPUT), gpio('S2', 4, INPUT)],
  check: BOX_CHECK,
  settings: [],
  programming: ['Not programmed: set its parameters from the mesh hub, then include it again.'],
}
