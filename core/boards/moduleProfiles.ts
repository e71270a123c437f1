import type {
  ContactorProfile,
  FanProfile,
  ModuleProfile,
  PartProfile,
  RelayProfile,
  SignalNeed,
  StrikeProfile,
  SupplyProfile,
} from './modules'

/** The modules that ship. Numbers are common practice or memory of usual data sheets; the part in hand decides. */

const COMMON = 'common practice; memory of usual relay data sheets'

/**
 * Sugar-cube relays: 5 V coil about 70 Ω (71 mA), 12 V about 400 Ω (30 mA); contact printed 10 A at 250 V, resistive.
 */
const relayModule = (ways: number, input: 'opto' | 'transistor', coilVolts: 5 | 12): RelayProfile => ({
  kind: 'relay-module',
  id: `relay-${ways}-${input}-${coilVolts}v`,
  name:
    `${ways}-way relay module, ${input === 'opto' ? 'opto, low-active' : 'transistor, high-active'}, ` +
    `${coilVolts} V coils`,
  source: COMMON,
  ways,
  input,
  active: input === 'opto' ? 'low' : 'high',
  coilVolts,
  coilOhms: coilVolts === 5 ? 70 : 400,
  coilJumper: input === 'opto',
  contactAmps: 10,
  contactVolts: 250,
})

export const RELAY_MODULES: readonly RelayProfile[] = [1, 2, 4, 8, 16].flatMap((ways) =>
  (['opto', 'transistor'] as const).flatMap((input) =>
    ([5, 12] as const).map((volts) => relayModule(ways, input, volts)),
  ),
)

const part = (
  partId: string,
  name: string,
  signals: readonly [string, SignalNeed, (3.3 | 5)?][],
  more: Partial<PartProfile> = {},
): PartProfile => ({
  kind: 'part',
  id: partId,
  name,
  source: 'memory of usual data sheets',
  signals: signals.map(([id, need, volts = 3.3]) => ({ id, need, volts })),
  rail: 'logic',
  draw: { idle: 1, peak: 5 },
  burstMs: 0,
  gives: null,
  ...more,
})

export const PARTS: readonly PartProfile[] = [
  part('infrared-receiver', 'Infrared receiver, 38 kHz', [['out', 'interrupt']], {
    supplyVolts: { least: 2.7, most: 5.5 },
    check: ['the order of its three legs: it differs from maker to maker, and a wrong one heats it at once'],
  }),
  part(
    'short-range-serial-3v3',
    'Short-range serial module, 3.3 V',
    [
      ['rx', 'serial-tx'],
      ['tx', 'serial-rx'],
    ],
    { draw: { idle: 8, peak: 40 } },
  ),
  part(
    'short-range-serial-5v',
    'Short-range serial module, 5 V',
    [
      ['rx', 'serial-tx', 5],
      ['tx', 'serial-rx', 5],
    ],
    {
      rail: '5V',
      draw: { idle: 8, peak: 40 },
      check: ['what its data pins stand: many take 5 V at the supply and only 3.3 V at the data pins'],
    },
  ),
  part(
    'gsm-modem',
    'GSM modem',
    [
      ['rx', 'serial-tx'],
      ['tx', 'serial-rx'],
    ],
    {
      rail: 'own',
      supplyVolts: { least: 3.4, most: 4.4 },
      draw: { idle: 20, peak: 2_000 },
      // two of eight slots, as a modem that sends data may take; one slot is 577 µs
      burstMs: 1.154,
      source: 'GSM 05.02 time slot of 577 µs, two slots, in memory; burst current common practice',
      check: [
        'whether it is the bare modem (3.4 to 4.4 V) or a board with a regulator of its own (5 V)',
        'the volts of its serial pins: 2.8 or 3.3 V, seldom 5 V',
        'its commands for a connection, in its command manual: the profile’s are an example, and yours will differ',
      ],
      dialogue: {
        baud: 19_200,
        open: 'AT+WIREOPEN="{address}",{port}',
        opened: '+WIREOPENED',
        send: 'AT+WIRESEND={length}',
        prompt: '>',
        sent: '+WIRESENT',
        arrives: '+WIREDATA:',
        close: 'AT+WIRECLOSE',
        closed: '+WIRECLOSED',
        most: 256,
      },
    },
  ),
  part('temperature-humidity', 'Temperature and humidity sensor', [['data', 'input-pull-up']], {
    draw: { idle: 0.1, peak: 2.5 },
    supplyVolts: { least: 3.3, most: 5.5 },
    check: ['whether its little board has a pull-up already: then the one here is left out'],
  }),
  part('light-sensor', 'Light sensor, divider', [['out', 'analogue']], { draw: { idle: 0.3, peak: 0.5 } }),
  part('position-contact', 'Position contact', [['contact', 'input-pull-up']], {
    rail: 'none',
    draw: { idle: 0, peak: 0.1 },
  }),
  part('tilt-sensor', 'Tilt sensor', [['contact', 'input-pull-up']], { rail: 'none', draw: { idle: 0, peak: 0.1 } }),
  part(
    'small-display',
    'Small display',
    [
      ['sda', 'i2c-sda'],
      ['scl', 'i2c-scl'],
    ],
    { draw: { idle: 10, peak: 25 } },
  ),
  part('status-light', 'Status light', [['led', 'output']], {
    rail: 'none',
    draw: { idle: 0, peak: 5 },
    pinMilliamps: 5,
  }),
  part('buzzer', 'Buzzer', [['tone', 'pwm']], { rail: 'none', draw: { idle: 0, peak: 25 }, pinMilliamps: 25 }),
  part(
    'io-expander-16',
    'I/O expander, 16 pins',
    [
      ['sda', 'i2c-sda'],
      ['scl', 'i2c-scl'],
    ],
    {
      draw: { idle: 1, peak: 2 },
      gives: { pins: 16, can: ['output', 'input', 'pull-up'] },
      check: ['its revision: on newer ones pin 7 of each half is an output only'],
    },
  ),
  part(
    'io-expander-8',
    'I/O expander, 8 pins',
    [
      ['sda', 'i2c-sda'],
      ['scl', 'i2c-scl'],
    ],
    { draw: { idle: 0.1, peak: 1 }, gives: { pins: 8, can: ['output', 'input', 'pull-up'] } },
  ),
  part(
    'output-shift-register',
    'Output shift register, 8 pins',
    [
      ['data', 'output'],
      ['clock', 'output'],
      ['latch', 'output'],
    ],
    {
      draw: { idle: 0.1, peak: 1 },
      gives: { pins: 8, can: ['output'] },
      check: ['its output-enable leg: held high until the firmware has written it, no relay moves at power-up'],
    },
  ),
  part(
    'input-shift-register',
    'Input shift register, 8 pins',
    [
      ['data', 'input'],
      ['clock', 'output'],
      ['load', 'output'],
    ],
    { draw: { idle: 0.1, peak: 1 }, gives: { pins: 8, can: ['input'] } },
  ),
]

const supply = (
  id: string,
  name: string,
  type: SupplyProfile['type'],
  volts: number,
  milliamps: number,
  more: Partial<SupplyProfile> = {},
): SupplyProfile => ({
  kind: 'supply',
  id,
  name,
  source: 'common practice',
  role: type === 'buck' || type === 'linear' ? 'converter' : 'source',
  type,
  volts,
  milliamps,
  efficiency: 1,
  degreesPerWatt: null,
  ...more,
})

export const SUPPLIES: readonly SupplyProfile[] = [
  supply('usb-port', 'USB 2.0 port', 'usb-port', 5, 500, { source: 'USB 2.0 specification, 7.2.1: 500 mA, in memory' }),
  supply('phone-charger-1a', 'Phone charger, 5 V 1 A', 'charger', 5, 1_000),
  supply('phone-charger-2a', 'Phone charger, 5 V 2 A', 'charger', 5, 2_000),
  supply('laptop-charger', 'Negotiating laptop charger', 'negotiating-charger', 5, 3_000),
  supply('boxed-5v-1a', 'Boxed supply, 5 V 1 A', 'boxed', 5, 1_000),
  supply('boxed-5v-3a', 'Boxed supply, 5 V 3 A', 'boxed', 5, 3_000),
  supply('boxed-12v-2a', 'Boxed supply, 12 V 2 A', 'boxed', 12, 2_000),
  supply('boxed-12v-5a', 'Boxed supply, 12 V 5 A', 'boxed', 12, 5_000),
  supply('buck-5v-3a', 'Buck converter to 5 V, 3 A', 'buck', 5, 3_000, { efficiency: 0.88 }),
  supply('buck-4v-3a', 'Buck converter to 4 V, 3 A', 'buck', 4, 3_000, { efficiency: 0.86 }),
  supply('linear-5v-1a', 'Linear regulator to 5 V, 1 A', 'linear', 5, 1_000, { degreesPerWatt: 65 }),
]

export const FANS: readonly FanProfile[] = [
  {
    kind: 'fan-regulator',
    id: 'fan-capacitor-3',
    name: 'Capacitor fan regulator, 3 contacts, 4 steps',
    source: 'common practice',
    contacts: 3,
    patterns: [[], [0], [1], [0, 1], [2]],
    never: [
      [0, 2],
      [1, 2],
    ],
    gapMs: 30,
    // capacitors of usual regulators, common practice; the third contact passes them by
    capacitors: [2.2, 3.3, null],
  },
  {
    kind: 'fan-regulator',
    id: 'fan-capacitor-2',
    name: 'Capacitor fan regulator, 2 contacts, 3 steps',
    source: 'common practice',
    contacts: 2,
    patterns: [[], [0], [1], [0, 1]],
    never: [],
    gapMs: 30,
    capacitors: [2.2, 3.3],
  },
]

export const STRIKES: readonly StrikeProfile[] = [
  {
    kind: 'strike',
    id: 'strike-fail-safe',
    name: 'Strike, fail-safe: open without power',
    source: 'common practice',
    behaviour: 'fail-safe',
    volts: 12,
    milliamps: 250,
    pulseMs: 5_000,
  },
  {
    kind: 'strike',
    id: 'strike-fail-secure',
    name: 'Strike, fail-secure, held while powered',
    source: 'common practice',
    behaviour: 'fail-secure-held',
    volts: 12,
    milliamps: 450,
    pulseMs: 3_000,
  },
  {
    kind: 'strike',
    id: 'strike-memory',
    name: 'Strike, fail-secure with mechanical memory',
    source: 'common practice',
    behaviour: 'fail-secure-memory',
    volts: 12,
    milliamps: 600,
    pulseMs: 500,
  },
]

/**
 * Contactors by their motor rating; categories AC-3, AC-1 and AC-5 of IEC 60947-4-1, figures memory of usual data
 * sheets.
 * Lamps and electronic gear count as motors do, on the safe side.
 */
const contactor = (motor: number, resistive: number, pullIn: number, hold: number): ContactorProfile => ({
  kind: 'contactor',
  id: `contactor-${motor}a`,
  name: `Contactor, ${motor} A motor, ${resistive} A resistive`,
  source: 'categories IEC 60947-4-1; figures memory of usual data sheets',
  amps: { resistive, motor, lamps: motor },
  contactVolts: 400,
  coil: { pullIn, hold },
})
export const CONTACTORS: readonly ContactorProfile[] = [
  contactor(9, 25, 70, 8),
  contactor(18, 32, 80, 9),
  contactor(32, 50, 200, 18),
]

export const MODULES: readonly ModuleProfile[] = [
  ...RELAY_MODULES,
  ...PARTS,
  ...SUPPLIES,
  ...FANS,
  ...STRIKES,
  ...CONTACTORS,
]
