import { addChannels, both, channel, ownBoard, controller, module, supply, modem } from './changes.testkit'
import { sentences } from './sentences.testkit'

/** Drive, supply, and what the firmware is made with. */
sentences([
  {
    id: 'D01',
    severity: 'danger',
    when: '5 V module, 3.3 V pins, jumper fitted: the opto never lets go of a mains load',
    has: (s) => {
      s.controllers[0]!.module!.coilJumper = 'fitted'
    },
    unless: 'the jumper is off',
    hasNot: (s) => {
      s.controllers[0]!.module!.coilJumper = 'removed'
    },
    says: /leaves 1.7 V across it, the knee is near 1 V: 0.5\d mA/,
  },
  {
    id: 'D01',
    severity: 'error',
    when: 'the same, where all loads are low-voltage',
    has: (s) => {
      s.controllers[0]!.module!.coilJumper = 'fitted'
      s.loads.forEach((l) => {
        l.supply = 'low-voltage'
      })
    },
    unless: 'the module closes on high',
    hasNot: (s) => {
      s.controllers[0]!.module!.active = 'high'
      s.controllers[0]!.module!.coilJumper = 'fitted'
    },
    says: /release margin -0.7 V/,
  },
  {
    id: 'D02',
    severity: 'error',
    when: "the opto's resistor lets too little through",
    has: module({ inputOhms: 10_000 }),
    unless: 'it is the usual one',
    hasNot: module({ inputOhms: 1_000 }),
    says: /Through 10 kΩ the opto gets 0.2\d mA/,
  },
  {
    id: 'D03',
    severity: 'error',
    when: "coils hang on the board's regulator",
    has: supply({ coilsFromLogic: true }),
    unless: 'they hang on the supply',
    hasNot: supply({}),
    says: /143 mA of coils are on the board's 3.3 V regulator/,
  },
  {
    id: 'D04',
    severity: 'error',
    when: 'a bare coil hangs on a pin',
    has: module({ driver: 'none' }),
    unless: 'a transistor and a diode stand between',
    hasNot: module({ driver: 'transistor-and-diode' }),
    says: /A coil of 69 mA is on a pin that gives 20 mA. Fit an NPN transistor with 680 Ω/,
  },
  {
    id: 'D04',
    severity: 'error',
    when: 'no diode stands across the coil',
    has: module({ driver: 'transistor-only' }),
    unless: 'the module has its own',
    hasNot: module({ driver: 'module' }),
    says: /There is no diode across the coil/,
  },
  {
    id: 'D05',
    severity: 'danger',
    when: "a coil takes more than the pin's absolute limit",
    has: module({ driver: 'none' }),
    unless: 'a transistor takes it',
    hasNot: module({ driver: 'transistor-and-diode' }),
    says: /71.4 mA a pin, over the absolute 40 mA/,
  },
  {
    id: 'D06',
    severity: 'error',
    when: 'a module of two is asked for three relays',
    has: both(addChannels(1), module({ ways: 2 })),
    unless: 'it is a module of four',
    hasNot: both(addChannels(1), module({ ways: 4 })),
    says: /^3 of 2 relays of the module at Corner are used/,
  },
  {
    id: 'S01',
    severity: 'error',
    when: 'a USB port is asked for more than it gives',
    has: supply({ source: 'usb-port' }),
    unless: 'a boxed supply of 1 A gives it',
    hasNot: supply({ source: 'boxed-5v-1a' }),
    says: /USB 2.0 port gives 500 mA; steady .* peak 6\d\d mA/,
  },
  {
    id: 'S01',
    severity: 'warning',
    when: 'less than a quarter of the supply is in hand',
    has: both(supply({ source: 'boxed-5v-1a' }), (s) => {
      s.controllers[0]!.module!.coilOhms = 40
    }),
    unless: '3 A are in hand',
    hasNot: supply({ source: 'boxed-5v-3a' }),
    says: /% headroom, 25 % recommended/,
  },
  {
    id: 'S02',
    severity: 'danger',
    when: 'coils of 5 V are on a rail of 12 V',
    has: supply({ source: 'boxed-12v-2a', board: 'buck-5v-3a' }),
    unless: 'a converter feeds them',
    hasNot: supply({ source: 'boxed-12v-2a', board: 'buck-5v-3a', coils: 'buck-5v-3a' }),
    says: /for 5 V, their supply has 12 V/,
  },
  {
    id: 'S03',
    severity: 'error',
    when: "a modem's bursts find no reservoir",
    has: both(supply({ source: 'boxed-5v-3a' }), modem),
    unless: '10,000 µF are fitted',
    hasNot: both(supply({ source: 'boxed-5v-3a', reservoirMicrofarads: 10_000 }), modem),
    says: /the rail has no reservoir/,
  },
  {
    id: 'S03',
    severity: 'warning',
    when: "a reservoir is too small for a modem's bursts",
    has: both(
      supply({
        source: 'boxed-12v-5a',
        board: 'buck-5v-3a',
        coils: 'buck-5v-3a',
        own: 'linear-5v-1a',
        reservoirMicrofarads: 1_000,
      }),
      modem,
    ),
    unless: 'no modem hangs on it',
    hasNot: supply({ source: 'boxed-12v-5a', board: 'buck-5v-3a', coils: 'buck-5v-3a', own: 'buck-4v-3a' }),
    says: /falls 1.79 V/,
  },
  {
    id: 'S04',
    severity: 'warning',
    when: 'the supply gives its volts only to a device that requests it',
    has: supply({ source: 'laptop-charger' }),
    unless: 'it gives them to anybody',
    hasNot: supply({ source: 'boxed-5v-3a' }),
    says: /only to a device that requests it/,
  },
  {
    id: 'S05',
    severity: 'warning',
    when: 'a linear regulator turns watts to heat',
    has: supply({ source: 'boxed-12v-2a', board: 'linear-5v-1a', coils: 'linear-5v-1a' }),
    unless: 'a switching one does it',
    hasNot: supply({ source: 'boxed-12v-2a', board: 'buck-5v-3a', coils: 'buck-5v-3a' }),
    says: /turns \S+ W to heat/,
  },
  {
    id: 'S06',
    severity: 'warning',
    when: 'all coils start at once beyond the supply',
    has: both(supply({ source: 'boxed-5v-1a' }), controller({ staggerMs: 0 }), (s) => {
      s.controllers[0]!.module!.coilOhms = 40
      for (const c of s.channels) if ('powerUp' in c) c.powerUp = { policy: 'on' }
    }),
    unless: 'they start one after another',
    hasNot: both(supply({ source: 'boxed-5v-1a' }), (s) => {
      for (const c of s.channels) if ('powerUp' in c) c.powerUp = { policy: 'on' }
    }),
    says: /are drawn at once; the supply gives 1000 mA/,
  },
  {
    id: 'T06',
    severity: 'warning',
    board: 'eight-bit-5v',
    when: 'two stored channels wear the memory out within ten years',
    has: (s) => {
      for (const c of s.channels) if ('powerUp' in c) c.powerUp = { policy: 'last' }
    },
    unless: 'one is stored',
    hasNot: channel({ powerUp: { policy: 'last' } }),
    says: /40 writes per day: 100,000 writes last 6.85 years/,
  },
  {
    id: 'T06',
    severity: 'warning',
    board: 'eight-bit-5v',
    when: '28 changes per day of a stored channel are too many',
    has: both(channel({ powerUp: { policy: 'last' } }), (s) => void (s.day.changes = 28)),
    unless: '27 are not',
    hasNot: both(channel({ powerUp: { policy: 'last' } }), (s) => void (s.day.changes = 27)),
    says: /1 stored channel at 28 changes per day is 28 writes per day: 100,000 writes last 9.78 years/,
  },
  {
    id: 'T02',
    severity: 'note',
    when: 'an own profile lists no board package settings',
    has: ownBoard({ settings: [] }),
    unless: 'it names them',
    hasNot: ownBoard({}),
    says: /The profile of Mine lists no board package settings/,
  },
  {
    id: 'T03',
    severity: 'warning',
    when: 'an own profile does not say how the board is programmed',
    has: ownBoard({ programming: [] }),
    unless: 'it says so',
    hasNot: ownBoard({}),
    says: /The profile of Mine has no programming steps/,
  },
])
