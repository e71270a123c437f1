import { both, box, controller, load, mainsFeed, modem, module, ownBoard, pin, supply } from './changes.testkit'
import { sentences, type Sentence } from './sentences.testkit'
import type { Change } from './changes.testkit'
import { newLoad, newPulsed, newSwitched, optoModule, type LoadId, type PartId, type Site } from '../site'

/**
 * Boxes that an electrician would send back, each beside the nearest one that he would let pass. Figures by hand
 * from the source that the finding names.
 */

const withPart =
  (
    profile: string,
    fitted?: ('transistor' | 'divider' | 'level-shifter')[],
    pins: Record<string, string> = {},
  ): Change =>
  (s) => {
    s.controllers[0]!.parts.push({ id: 'p' as PartId, profile, name: 'Part', ...(fitted ? { fitted } : {}) })
    for (const [signal, label] of Object.entries(pins))
      s.controllers[0]!.pins[`part:p:${signal}`] = { pin: label, locked: true }
  }
const channels =
  (count: number, more: Parameters<typeof newLoad>[2]): Change =>
  (s) => {
    s.loads = s.loads.slice(0, 0)
    s.channels.forEach((one) => (one.load = null))
    for (let i = 0; i < count; i++) {
      const fitted = newLoad(`l${i}` as LoadId, `Load ${i + 1}`, more)
      s.loads.push(fitted)
      if (s.channels[i]) s.channels[i]!.load = fitted.id
      else s.channels.push(newSwitched(s, `More ${i}`, s.controllers[0]!, { load: fitted.id }))
    }
  }
const strike: Change = (s) => {
  const door = { lock: 'fail-secure', place: 'inside', closesUnattended: false, warningDevice: false } as const
  const { id } = s.channels[0]!
  s.channels[0] = { ...newPulsed(s, 'Door', s.controllers[0]!, { load: s.loads[0]!.id, door }), id }
}
const at120: Change = (s) => {
  s.mains = { volts: 120, hertz: 60, phases: 'split' }
  s.controllers[0]!.mains = {
    breakerAmps: 15,
    residualCurrent: 'fitted',
    fuseAmps: null,
    conductor: { by: 'awg', awg: 14 },
  }
}
const low = (changes: object) => load({ supply: 'low-voltage', ...changes })
const boxed: Change = (s) => {
  Object.assign(s.controllers[0]!, { board: 'boxed-two-relay-r2', module: null, supply: null, pins: {} })
}
const area = (squareMillimetres: number) => ({ conductor: { by: 'area', squareMillimetres } })
const transistorLow = { input: 'transistor', active: 'low', coilJumper: 'none' }
const beside =
  (relay?: number): Change =>
  (s) => {
    s.controllers[0]!.module!.ways = 4
    Object.assign(s.loads[1]!, { supply: 'low-voltage' })
    if (relay) s.channels[1]!.relay = relay
  }
const switchOn =
  (label: string, changes: object): Change =>
  (s: Site) => {
    Object.assign(s.inputs[0]!, changes)
    s.controllers[0]!.pins[`in:${s.inputs[0]!.id}`] = { pin: label, locked: true }
  }
const channelsHigh: Change = (s) => s.channels.forEach((one) => (one.active = 'high'))
const lines =
  (count: number): Change =>
  (s) => {
    for (let i = 1; i <= count; i++)
      s.controllers[0]!.parts.push({ id: `line${i}` as PartId, profile: 'short-range-serial-3v3', name: `Line ${i}` })
  }
const SINGLE = 'single-core-wifi-16'
const EIGHT = 'eight-bit-5v'
const away = supply({ source: 'boxed-12v-5a', board: 'buck-5v-3a', coils: 'buck-5v-3a', own: 'buck-4v-3a' })

const FAULTS: readonly (readonly [
  id: string,
  severity: Sentence['severity'],
  when: string,
  has: Change,
  unless: string,
  hasNot: Change,
  says: RegExp,
  board?: string,
])[] = [
  // contacts and contactors
  [
    'L01',
    'danger',
    'a heater of 3,500 W is in a box of 10 A',
    both(boxed, load({ type: 'heater', watts: 3_500 })),
    'it has 1,800 W',
    both(boxed, load({ type: 'heater', watts: 1_800 })),
    /takes 15.2 A \(AC-1\); the contact may carry 10 A/,
  ],
  [
    'L01',
    'danger',
    'a motor of 1 kW at 120 V is on a contact of 10 A',
    both(at120, load({ type: 'motor', watts: 1_000 })),
    'it is on a contactor',
    both(at120, load({ type: 'motor', watts: 500, contactor: 'contactor-9a' })),
    /takes 10.4 A \(AC-3\)/,
  ],
  [
    'L17',
    'danger',
    'a motor of 3 kW is on a contactor of 9 A',
    load({ type: 'motor', watts: 3_000, contactor: 'contactor-9a' }),
    'it is on one of 18 A',
    load({ type: 'motor', watts: 3_000, contactor: 'contactor-18a' }),
    /takes 16.3 A; contactor, 9 A motor, 25 A resistive, may carry 9 A/,
  ],
  [
    'L17',
    'danger',
    'a heater of 5 kW that is on for hours is on a contactor of 25 A',
    load({ type: 'heater', watts: 5_000, continuous: true, contactor: 'contactor-9a' }),
    'it is of 4 kW',
    load({ type: 'heater', watts: 4_000, continuous: true, contactor: 'contactor-9a' }),
    /takes 21.7 A, at 125 %/,
  ],
  [
    'L02',
    'warning',
    'a contactor’s coil pulls in beyond a small contact',
    both(module({ contactAmps: 0.28 }), load({ type: 'led', contactor: 'contactor-32a', suppression: 'snubber' })),
    'the contact is the usual one',
    load({ type: 'led', contactor: 'contactor-32a', suppression: 'snubber' }),
    /The contactor of .* draws about 0.87 A/,
  ],
  [
    'L14',
    'danger',
    'a contact printed for 125 V is at 230 V',
    module({ contactVolts: 125 }),
    'it is printed for 250 V',
    module({ contactVolts: 250 }),
    /has 230 V; the contact is rated 125 V/,
  ],
  [
    'L15',
    'warning',
    'a lamp is switched at 48 V DC',
    low({ volts: 48 }),
    'it is at 24 V',
    low({ volts: 24 }),
    /switched at 48 V DC/,
  ],
  [
    'L01',
    'danger',
    'a load of 3 A is broken at 48 V DC',
    low({ volts: 48, watts: 144, type: 'heater' }),
    'it is at 24 V',
    low({ volts: 24, watts: 144, type: 'heater' }),
    /takes 3 A \(AC-1\); the contact may carry 1 A/,
  ],
  // suppression
  [
    'L07',
    'warning',
    'a strike has no diode',
    both(strike, low({ type: 'electronic', watts: 6 })),
    'it has one',
    both(strike, low({ type: 'electronic', watts: 6, suppression: 'diode' })),
    /without a diode. Start with a diode across it/,
  ],
  [
    'L07',
    'warning',
    'the coil of a contactor has no RC',
    load({ type: 'heater', watts: 2_000, contactor: 'contactor-9a' }),
    'it has one',
    load({ type: 'heater', watts: 2_000, contactor: 'contactor-9a', suppression: 'snubber' }),
    /across the coil/,
  ],
  [
    'L18',
    'danger',
    'a diode is at mains',
    load({ type: 'motor', watts: 50, suppression: 'diode' }),
    'an RC is',
    load({ type: 'motor', watts: 50, suppression: 'snubber' }),
    /at 230 V AC with a diode/,
  ],
  [
    'L18',
    'danger',
    'a diode is at 24 V AC',
    low({ type: 'coil', watts: 10, volts: 24, current: 'ac', suppression: 'diode' }),
    'the current is direct',
    low({ type: 'coil', watts: 10, volts: 24, suppression: 'diode' }),
    /at 24 V AC/,
  ],
  [
    'L18',
    'warning',
    'an RC is at direct current',
    low({ type: 'coil', watts: 6, suppression: 'snubber' }),
    'a diode is',
    low({ type: 'coil', watts: 6, suppression: 'diode' }),
    /at 12 V DC with a snubber/,
  ],
  [
    'L19',
    'warning',
    'a snubber is across the contact of an LED lamp of 9 W',
    load({ suppression: 'snubber' }),
    'a varistor is across the lamp',
    load({ suppression: 'varistor' }),
    /lets 7.23 mA pass at 230 V 50 Hz/,
  ],
  [
    'L19',
    'warning',
    'the same at 120 V 60 Hz',
    both(at120, load({ suppression: 'snubber' })),
    'the lamp has 100 W',
    both(at120, load({ suppression: 'snubber', watts: 100 })),
    /lets 4.52 mA pass at 120 V 60 Hz/,
  ],
  [
    'L20',
    'warning',
    'a silver contact of 10 A is across a button input',
    load({ supply: 'dry' }),
    'its contacts are gold',
    both(load({ supply: 'dry' }), module({ contacts: 'gold' })),
    /wants about 100 mA at 5 V/,
  ],
  // mains side
  [
    'L11',
    'warning',
    'nobody said what protects the mains side',
    controller({ mains: null }),
    'nothing is on mains',
    both(controller({ mains: null }), (s) => s.loads.forEach((one) => (one.supply = 'low-voltage'))),
    /Breaker, wire and residual-current device of Corner are not entered/,
  ],
  [
    'L12',
    'error',
    'six heaters of 1,400 W at 120 V are behind 15 A',
    both(at120, channels(6, { type: 'heater', watts: 1_400 })),
    'there is one',
    both(at120, channels(1, { type: 'heater', watts: 1_400 })),
    /together take 70 A; its breaker allows 15 A/,
  ],
  [
    'L12',
    'error',
    'a fuse in the box is smaller than the loads',
    both(mainsFeed({ fuseAmps: 2 }), channels(2, { type: 'heater', watts: 400 })),
    'it is of 6.3 A',
    both(mainsFeed({ fuseAmps: 6.3 }), channels(2, { type: 'heater', watts: 400 })),
    /together take 3.48 A; its fuse allows 2 A/,
  ],
  [
    'L10',
    'danger',
    'AWG 10 is behind 40 A',
    mainsFeed({ breakerAmps: 40, conductor: { by: 'awg', awg: 10 } }),
    'AWG 8 is',
    mainsFeed({ breakerAmps: 40, conductor: { by: 'awg', awg: 8 } }),
    /AWG 10 carries 30 A/,
  ],
  [
    'L10',
    'danger',
    '1.5 mm² is behind 20 A',
    mainsFeed({ breakerAmps: 20, ...area(1.5) }),
    '2.5 mm² is',
    mainsFeed({ breakerAmps: 20, ...area(2.5) }),
    /1.5 mm² carries 16.5 A at most \(IEC 60364-5-52/,
  ],
  [
    'L13',
    'warning',
    'there is no residual-current device',
    mainsFeed({ residualCurrent: 'none' }),
    'there is',
    mainsFeed({ residualCurrent: 'fitted' }),
    /No residual-current device/,
  ],
  [
    'L16',
    'danger',
    'mains and extra-low voltage are on neighbouring relays',
    beside(),
    'an empty relay is between',
    beside(3),
    /K1 and K2 of Corner are neighbours/,
  ],
  [
    'L09',
    'error',
    'the box is too full',
    both(at120, box(40)),
    'the module is outside',
    both(at120, box(0)),
    /18.44 in³ of 18 in³ \(NEC/,
  ],
  [
    'L09',
    'error',
    'a metric box of 295 cm³ holds more than 60 %',
    box(180),
    'it holds less',
    box(170),
    /180 cm³ of 177 cm³, 60 % of the 295 cm³ on its label \(common practice\)/,
  ],
  // drive
  [
    'D02',
    'warning',
    'both LEDs are in series at 3.3 V',
    module({ chain: 'both' }),
    'the opto’s is alone',
    module({ chain: 'opto' }),
    /gets 0.47 mA; a coil of 71 mA asks for 1.43 mA/,
  ],
  [
    'D02',
    'warning',
    'a high-active opto input hangs on a 3.3 V pin, jumper on',
    module({ active: 'high', coilJumper: 'fitted', chain: 'both' }),
    'the opto’s LED is alone',
    module({ active: 'high', coilJumper: 'fitted' }),
    /gets 0.47 mA/,
  ],
  [
    'D07',
    'danger',
    'a low-active transistor module of 5 V is told off with 3.3 V',
    module(transistorLow),
    'it is high-active',
    module({ ...transistorLow, active: 'high' }),
    /leaves 1.7 V on it/,
  ],
  [
    'D07',
    'danger',
    'one of 12 V is told off with 5 V',
    module({ ...transistorLow, coilVolts: 12 }),
    'it is of 5 V',
    module(transistorLow),
    /leaves 7.0 V on it/,
    EIGHT,
  ],
  [
    'D08',
    'error',
    'a sounder of 25 mA hangs on a pin of 12 mA',
    withPart('buzzer', undefined, { tone: 'D1' }),
    'a transistor is between',
    withPart('buzzer', ['transistor'], { tone: 'D1' }),
    /draws 25 mA; a pin of this board gives 12 mA/,
    SINGLE,
  ],
  [
    'D09',
    'danger',
    'a low-active module is beside a box with relays of its own',
    both(boxed, controller({ module: optoModule(2) })),
    'nothing is beside it',
    both(boxed, channelsHigh),
    /A relay module is entered beside .* Bench lamp, Shelf lamp close on low; its relays pull in on high/,
  ],
  [
    'P18',
    'error',
    'an output is on the light of a box',
    both(boxed, channelsHigh, pin('out:bench-lamp', 'LED')),
    'it is on a relay',
    both(boxed, channelsHigh, pin('out:bench-lamp', 'REL1')),
    /Bench lamp is on LED.*, which leads to no relay/,
  ],
  [
    'P18',
    'error',
    'the relays of a box are told over the serial line',
    both(boxed, channelsHigh, controller({ board: 'boxed-two-relay-r1' })),
    'they hang on pins',
    both(boxed, channelsHigh),
    /are on no pin: a second chip drives them/,
  ],
  [
    'L21',
    'danger',
    'a strike of 12 V is on a box that gives line',
    both(boxed, channelsHigh, low({ type: 'coil', watts: 6 })),
    'a lamp is',
    both(boxed, channelsHigh),
    /is for 12 V; the outputs of the .* give 230 V/,
  ],
  [
    'D10',
    'danger',
    'two channels are said to stand on one relay',
    (s) => s.channels.forEach((one) => (one.relay = 1)),
    'each has its own',
    (s) => s.channels.forEach((one, i) => (one.relay = i + 1)),
    /Bench lamp and Shelf lamp are both assigned to K1/,
  ],
  // supply
  [
    'S02',
    'warning',
    'coils of 5 V are at 4 V',
    supply({ source: 'boxed-12v-2a', board: 'buck-5v-3a', coils: 'buck-4v-3a' }),
    'they are at 5 V',
    supply({ source: 'boxed-12v-2a', board: 'buck-5v-3a', coils: 'buck-5v-3a' }),
    /their supply has 4 V: 80 %/,
  ],
  [
    'S03',
    'error',
    'a modem on 5 V 3 A has 3,300 µF',
    both(supply({ reservoirMicrofarads: 3_300 }), modem),
    'a converter of its own feeds it',
    both(away, modem),
    /falls 0.974 V/,
  ],
  [
    'S05',
    'error',
    'a linear regulator drops 12 V to 5 V for four coils',
    both(
      channels(4, { type: 'led', watts: 5 }),
      supply({ source: 'boxed-12v-5a', board: 'buck-5v-3a', coils: 'linear-5v-1a' }),
    ),
    'a buck converter does',
    both(channels(4, { type: 'led', watts: 5 }), away),
    /about 130 K above/,
  ],
  [
    'S07',
    'danger',
    'a 3.3 V board is fed with 12 V',
    supply({ source: 'boxed-12v-2a', coils: 'buck-5v-3a' }),
    'it is fed with 5 V',
    supply({}),
    /takes 4.5 to 5.5 V; its rail has 12 V/,
  ],
  [
    'S07',
    'error',
    'a board is fed with 4 V',
    supply({ source: 'boxed-12v-2a', board: 'buck-4v-3a', coils: 'buck-5v-3a' }),
    'with 5 V',
    supply({}),
    /its rail has 4 V/,
  ],
  [
    'S07',
    'danger',
    'a modem is fed with 5 V',
    both(supply({ reservoirMicrofarads: 10_000 }), modem),
    'with 4 V',
    both(away, modem),
    /Modem takes 3.4 to 4.4 V; its rail has 5 V/,
  ],
  [
    'S08',
    'error',
    'a converter makes 5 V of 5 V',
    supply({ board: 'buck-5v-3a' }),
    'of 12 V',
    away,
    /needs 5.5 V before it; .* gives 5 V/,
  ],
  [
    'S08',
    'error',
    'sixteen coils are behind a converter of 1 A',
    both(
      channels(16, { type: 'led', watts: 5 }),
      supply({ source: 'boxed-12v-5a', board: 'buck-5v-3a', coils: 'linear-5v-1a' }),
    ),
    'one of 3 A',
    both(channels(16, { type: 'led', watts: 5 }), away),
    /gives 1000 mA; the coils draw 1140 mA/,
  ],
  [
    'P17',
    'error',
    'three serial lines and the log are on a chip with three ports',
    lines(3),
    'there are two',
    lines(2),
    /and the serial log want 4 serial ports; the chip has 3/,
  ],
  [
    'P17',
    'error',
    'two lines are on pins of one port',
    both(lines(2), controller({ serialLog: false }), (s) => {
      s.controllers[0]!.pins['part:line1:rx'] = { pin: 'GP0', locked: true }
      s.controllers[0]!.pins['part:line2:rx'] = { pin: 'GP12', locked: true }
    }),
    'each has its own',
    both(lines(2), controller({ serialLog: false }), (s) => {
      s.controllers[0]!.pins['part:line1:rx'] = { pin: 'GP0', locked: true }
      s.controllers[0]!.pins['part:line2:rx'] = { pin: 'GP4', locked: true }
    }),
    /GP0.* and GP12.* are the same serial port of the chip/,
    'm0-plus-wifi',
  ],
  [
    'S10',
    'error',
    'a strike of 12 V hangs on the controller’s 5 V',
    both(supply({}), low({ type: 'coil', watts: 6, suppression: 'diode', feed: { from: 'controller' } })),
    'the source has 12 V',
    both(away, low({ type: 'coil', watts: 6, suppression: 'diode', feed: { from: 'controller' } })),
    /is for 12 V DC and is on the .*, 5 V DC/,
  ],
  [
    'S07',
    'danger',
    'a 3.3 V display is on a 5 V board that names no 3.3 V pin',
    both(ownBoard({ lowRailMilliamps: undefined }), withPart('small-display')),
    'it names one',
    both(ownBoard({ lowRailMilliamps: 50 }), withPart('small-display')),
    /Part takes at most 3.6 V; the Mine has 5 V/,
    EIGHT,
  ],
  // pins and levels
  [
    'P10',
    'danger',
    'an 8-bit board sends 5 V to a 3.3 V part',
    withPart('short-range-serial-3v3', undefined, { rx: 'D1', tx: 'D0' }),
    'a divider is between',
    withPart('short-range-serial-3v3', ['divider'], { rx: 'D1', tx: 'D0' }),
    /sends 5 V to Part rx, which takes 3.3 V/,
    EIGHT,
  ],
  [
    'P10',
    'danger',
    'a 5 V part sends to a 3.3 V board',
    withPart('short-range-serial-5v', undefined, { rx: 'TX2', tx: 'RX2' }),
    'a divider is between',
    withPart('short-range-serial-5v', ['divider'], { rx: 'TX2', tx: 'RX2' }),
    /Part tx brings 5 V/,
  ],
  [
    'P15',
    'warning',
    'a 3.3 V board sends to a 5 V part',
    withPart('short-range-serial-5v', ['divider'], { rx: 'TX2', tx: 'RX2' }),
    'a level shifter is between',
    withPart('short-range-serial-5v', ['level-shifter'], { rx: 'TX2', tx: 'RX2' }),
    /sends 3.3 V to Part rx, which takes 3.5 V/,
  ],
  [
    'P03',
    'error',
    'a pull-up of 1.5 kΩ is on the pin that the board pulls low to start',
    switchOn('D8', { pull: 'fitted', cableMetres: 12 }),
    'it is on another pin',
    switchOn('D6', { pull: 'fitted', cableMetres: 12 }),
    /1.5 kΩ up \(fitted\) against 12 kΩ down \(the board’s own\): 2.93 V/,
    SINGLE,
  ],
  [
    'P16',
    'error',
    'a switch with the chip’s own pull is on that pin',
    switchOn('D8', { pull: 'internal' }),
    'it is on another pin',
    switchOn('D6', { pull: 'internal' }),
    /100 kΩ up .* against 12 kΩ down/,
    SINGLE,
  ],
  [
    'P04',
    'warning',
    'a relay hangs on a shift register',
    both(
      withPart('output-shift-register', undefined, { data: 'D13', clock: 'D27', latch: 'D26' }),
      pin('out:bench-lamp', 'p.0'),
    ),
    'it hangs on the board',
    withPart('output-shift-register', undefined, { data: 'D13', clock: 'D27', latch: 'D26' }),
    /anything until the firmware has written the register/,
  ],
  [
    'B05',
    'danger',
    'a strike hangs on one',
    both(
      strike,
      withPart('output-shift-register', undefined, { data: 'D13', clock: 'D27', latch: 'D26' }),
      pin('out:bench-lamp', 'p.0'),
    ),
    'it hangs on the board',
    both(strike, pin('out:bench-lamp', 'D23')),
    /changes while the board starts/,
  ],
]

sentences(
  FAULTS.map(([id, severity, when, has, unless, hasNot, says, board]) => ({
    id,
    severity,
    when,
    has,
    unless,
    hasNot,
    says,
    ...(board ? { board } : {}),
  })),
)
