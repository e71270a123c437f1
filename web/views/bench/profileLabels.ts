/**
 * The words of a profile's form: what a value is called, its unit, what it means, and the group in which it stands.
 * A value without a row here is left to the JSON.
 */
export interface ProfileLabel {
  readonly label: string
  readonly unit?: string
  readonly help?: string
  /** words of its choices, where it is one of a few */
  readonly choices?: Readonly<Record<string, string>>
  readonly wide?: true
}

type Group = readonly [name: string, fields: Readonly<Record<string, ProfileLabel>>]

const NAME: Group = [
  'Profile',
  {
    name: { label: 'Name', wide: true },
    source: { label: 'Source of the figures', help: 'data sheet, standard, common practice, or memory', wide: true },
  },
]

const WIFI = { wifi: 'Wi-Fi', none: 'none of its own' }
const LEVELS = { low: 'low closes', high: 'high closes' }

const BOARD: readonly Group[] = [
  NAME,
  [
    'Board',
    {
      logicVolts: { label: 'Logic level', unit: 'V', help: 'what a high pin gives and may take' },
      link: { label: 'Network', choices: WIFI },
      port: { label: 'Firmware port', help: 'how its firmware is compiled', wide: true },
      firmwareAfterMs: { label: 'Firmware starts after', unit: 'ms', help: 'from power until its outputs are written' },
      storeEndurance: {
        label: 'Store endurance',
        unit: 'writes',
        help: 'writes that the store for last states stands',
      },
      serialPorts: { label: 'Serial ports', help: 'the one of the log among them' },
    },
  ],
  [
    'Pins',
    {
      'pinMilliamps.recommended': { label: 'Current per pin, recommended', unit: 'mA' },
      'pinMilliamps.absolute': { label: 'Current per pin, maximum', unit: 'mA' },
      'pinMilliamps.total': { label: 'Current of all pins, maximum', unit: 'mA' },
      'internalPullKiloohms.least': { label: 'Internal pull, minimum', unit: 'kΩ' },
      'internalPullKiloohms.most': { label: 'Internal pull, maximum', unit: 'kΩ' },
      inputHigh: { label: 'Reads high from', unit: 'part of logic level', help: 'not given: 0.7' },
    },
  ],
  [
    'Supply',
    {
      'supplyVolts.least': { label: 'Supply pin, minimum', unit: 'V' },
      'supplyVolts.most': { label: 'Supply pin, maximum', unit: 'V' },
      'drawMilliamps.idle': { label: 'Draw, radio idle', unit: 'mA' },
      'drawMilliamps.peak': { label: 'Draw, radio peak', unit: 'mA' },
      'regulator.kind': {
        label: 'Regulator',
        choices: { linear: 'linear', buck: 'buck', none: 'none' },
        help: 'what makes the logic level on the board',
      },
      'regulator.milliamps': { label: 'Regulator, maximum', unit: 'mA' },
      'regulator.degreesPerWatt': { label: 'Regulator heating', unit: '°C per W' },
      lowRailMilliamps: { label: '3.3 V pin gives', unit: 'mA' },
    },
  ],
  [
    'Box',
    {
      'boxed.relaysBy': { label: 'Relays driven by', choices: { gpio: 'pins', serial: 'frames over serial' } },
      'boxed.externalSwitches': { label: 'External switches can be relied on' },
      'boxed.switchesAtMains': { label: 'Switch terminals are at mains potential' },
      'boxed.note': { label: 'Caution', wide: true },
    },
  ],
]

const MODULES: Readonly<Record<string, readonly Group[]>> = {
  'relay-module': [
    NAME,
    [
      'Inputs',
      {
        ways: { label: 'Relays' },
        input: { label: 'Input', choices: { opto: 'optocoupler', transistor: 'transistor' } },
        active: { label: 'Active level', choices: LEVELS },
        coilJumper: { label: 'Has a coil-supply jumper', help: 'it joins the supply of coils and inputs' },
      },
    ],
    [
      'Relays',
      {
        coilVolts: { label: 'Coil', unit: 'V' },
        coilOhms: { label: 'Coil resistance', unit: 'Ω' },
        contactAmps: { label: 'Contact, resistive load', unit: 'A', help: 'as printed on the relay' },
        contactVolts: { label: 'Contact', unit: 'V' },
      },
    ],
  ],
  part: [
    NAME,
    [
      'Part',
      {
        rail: {
          label: 'Supplied from',
          choices: { logic: 'logic level', '5V': '5 V', own: 'a supply of its own', none: 'no supply wire' },
        },
        'supplyVolts.least': { label: 'Supply, minimum', unit: 'V' },
        'supplyVolts.most': { label: 'Supply, maximum', unit: 'V' },
        'draw.idle': { label: 'Draw, idle', unit: 'mA' },
        'draw.peak': { label: 'Draw, peak', unit: 'mA' },
        burstMs: { label: 'Length of a peak', unit: 'ms', help: '0: no peaks' },
        pinMilliamps: { label: 'Draw from its signal pin', unit: 'mA' },
        pullOhms: { label: 'Own pull-up', unit: 'Ω' },
        'gives.pins': { label: 'Pins that it adds' },
      },
    ],
    [
      'Modem: commands for a connection',
      {
        'dialogue.baud': {
          label: 'Speed',
          unit: 'baud',
          choices: { '9600': '9600', '19200': '19200', '38400': '38400', '57600': '57600' },
        },
        'dialogue.open': { label: 'Open command', help: '{address} and {port} are filled in' },
        'dialogue.opened': { label: 'Opened: line starts with' },
        'dialogue.send': { label: 'Send command', help: '{length} is the number of bytes' },
        'dialogue.prompt': { label: 'Prompt for data' },
        'dialogue.sent': { label: 'Sent: line starts with' },
        'dialogue.arrives': { label: 'Data: line starts with', help: 'its last number says how many bytes follow' },
        'dialogue.close': { label: 'Close command' },
        'dialogue.closed': { label: 'Closed: line starts with' },
        'dialogue.most': { label: 'Most per send', unit: 'bytes' },
      },
    ],
  ],
  supply: [
    NAME,
    [
      'Supply',
      {
        role: { label: 'Role', choices: { source: 'from mains or USB', converter: 'from another rail' } },
        type: {
          label: 'Type',
          choices: {
            'usb-port': 'USB port',
            charger: 'charger',
            'negotiating-charger': 'charger that negotiates',
            boxed: 'boxed supply',
            buck: 'buck converter',
            linear: 'linear regulator',
          },
        },
        volts: { label: 'Output', unit: 'V' },
        milliamps: { label: 'Maximum', unit: 'mA' },
        efficiency: { label: 'Efficiency', unit: '0–1' },
        degreesPerWatt: { label: 'Heating', unit: '°C per W' },
      },
    ],
  ],
  'fan-regulator': [
    NAME,
    [
      'Regulator',
      {
        contacts: { label: 'Contacts' },
        gapMs: { label: 'Gap between levels', unit: 'ms', help: 'all contacts open, before others close' },
      },
    ],
  ],
  strike: [
    NAME,
    [
      'Strike',
      {
        behaviour: {
          label: 'Without power it is',
          choices: {
            'fail-safe': 'unlocked (fail-safe)',
            'fail-secure-held': 'locked; open while powered',
            'fail-secure-memory': 'locked; a pulse opens it for one pass',
          },
        },
        volts: { label: 'Coil', unit: 'V' },
        milliamps: { label: 'Draw', unit: 'mA' },
        pulseMs: { label: 'Usual pulse', unit: 'ms' },
      },
    ],
  ],
  contactor: [
    NAME,
    [
      'Ratings (IEC 60947-4-1)',
      {
        'amps.resistive': { label: 'Resistive loads, AC-1', unit: 'A' },
        'amps.motor': { label: 'Motors, AC-3', unit: 'A' },
        'amps.lamps': { label: 'Lamps and electronics', unit: 'A' },
        contactVolts: { label: 'Contact', unit: 'V' },
      },
    ],
    [
      'Coil',
      {
        'coil.pullIn': { label: 'Pulling in', unit: 'VA' },
        'coil.hold': { label: 'Held', unit: 'VA' },
      },
    ],
  ],
}

/** The groups of a profile's form. */
export const groupsFor = (kind: string | undefined): readonly Group[] =>
  kind === undefined ? BOARD : (MODULES[kind] ?? [NAME])
