import { produce } from 'immer'
import { describe, expect, it } from 'vitest'
import { compileController } from '../image'
import { planAndWrite } from '../pins'
import { BOARDS, FANS } from '../boards'
import { addAppWay, addWallWay } from '../ways'
import {
  applyOperations,
  newInput,
  newStepped,
  newSwitched,
  parseSite,
  plainCopy,
  type Input,
  type Site,
} from '../site'
import { checkSite, fixEdit, acceptEdit, isBlocking, NO_RECORD, type Finding } from '.'
import { cleanSite } from './cleanSite.testkit'

type Change = (site: Site) => void
const pin =
  (role: string, label: string): Change =>
  (s) => {
    s.controllers[0]!.pins[role] = { pin: label, locked: false }
  }
const both =
  (...changes: Change[]): Change =>
  (s) =>
    changes.forEach((change) => change(s))
const input =
  (changes: Partial<Input>): Change =>
  (s) => {
    Object.assign(s.inputs[0]!, changes)
  }
const widget =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.services[0]!.widgets[0]!, changes)
  }
const point =
  (changes: object, index = 0): Change =>
  (s) => {
    Object.assign(s.services[0]!.points[index]!, changes)
  }
const channel =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.channels[0]!, changes)
  }
/** The controller's board as a profile of the maker's own. */
const ownBoard =
  (changes: object): Change =>
  (s) => {
    const board = BOARDS.find(({ id }) => id === s.controllers[0]!.board)!
    s.profiles.boards.push({ ...plainCopy(board), id: 'mine', name: 'Mine', ...changes })
    s.controllers[0]!.board = 'mine'
  }
const controller =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.controllers[0]!, changes)
  }
const withoutWays =
  (kinds: string[]): Change =>
  (s) => {
    s.ways = s.ways.filter((w) => w.channel !== 'bench-lamp' || !kinds.includes(w.kind))
  }
const module =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.controllers[0]!.module!, changes)
  }
const load =
  (changes: object): Change =>
  (s) => {
    Object.assign(s.loads[0]!, changes)
  }
const supply =
  (changes: object): Change =>
  (s) => {
    s.controllers[0]!.supply = {
      source: 'boxed-5v-3a',
      board: null,
      coils: null,
      own: null,
      reservoirMicrofarads: 0,
      coilsFromLogic: false,
      ...changes,
    }
  }
const modem: Change = (s) => {
  s.controllers[0]!.parts.push({
    id: 'modem' as Site['controllers'][number]['parts'][number]['id'],
    profile: 'gsm-modem',
    name: 'Modem',
  })
}
const box =
  (moduleCubicCentimetres: number, breakerAmps = 15): Change =>
  (s) => {
    s.controllers[0]!.enclosure = {
      volumeCubicInches: 18,
      conductors: [{ awg: 14, count: 4 }],
      internalClamps: true,
      yokes: 1,
      groundingConductors: 2,
      moduleCubicCentimetres,
      breakerAmps,
    }
  }
/** A fan of four steps on a selector of three bits. */
const fan =
  (changes: object, table: (number | null)[] = [0, 1, 2, 3, 4, null, null, null]): Change =>
  (s) => {
    const corner = s.controllers[0]!
    const stepped = newStepped(s, 'Fan', corner, FANS[0]!, changes)
    s.channels.push(stepped)
    const knob = newInput(s, 'R1', corner, 'selector', { bits: 3, table })
    s.inputs.push(knob)
    addWallWay(s, stepped, knob)
    addAppWay(s, stepped)
    planAndWrite(s, corner.id)
  }
const single = 'single-core-wifi-16'

/** Each finding with a site that has it and the nearest that has not. */
const CASES: { id: string; severity: string; board?: string; has: Change; hasNot: Change; says: RegExp }[] = [
  {
    id: 'P01',
    severity: 'error',
    has: (s) => pin('out:bench-lamp', s.controllers[0]!.pins['out:shelf-lamp']!.pin)(s),
    hasNot: () => {},
    says: /is given to Bench lamp and Shelf lamp/,
  },
  {
    id: 'P02',
    severity: 'error',
    has: pin('out:bench-lamp', 'D34'),
    hasNot: pin('out:bench-lamp', 'D33'),
    says: /GPIO 34 can only be read/,
  },
  {
    id: 'P03',
    severity: 'error',
    has: pin('out:bench-lamp', 'D12'),
    hasNot: both(pin('out:bench-lamp', 'D12'), (s) => {
      s.controllers[0]!.module!.active = 'high'
      s.channels.forEach((c) => {
        c.active = 'high'
      })
    }),
    says: /GPIO 12 must be low while the board starts; the relay module rests it high/,
  },
  {
    id: 'P03',
    severity: 'error',
    board: single,
    has: pin('in:s1', 'D3'),
    hasNot: pin('in:s1', 'D5'),
    says: /must be high while the board starts; S1, closed at start, holds it low/,
  },
  {
    id: 'P04',
    severity: 'warning',
    has: pin('out:bench-lamp', 'D14'),
    hasNot: pin('out:bench-lamp', 'D5'),
    says: /GPIO 14 is pulsing for about 60 ms at start/,
  },
  {
    id: 'P05',
    severity: 'error',
    has: pin('out:bench-lamp', 'TX0'),
    hasNot: both(pin('out:bench-lamp', 'TX0'), controller({ serialLog: false })),
    says: /carries the serial log, which is on/,
  },
  {
    id: 'P06',
    severity: 'error',
    has: pin('out:bench-lamp', 'GPIO6'),
    hasNot: pin('out:bench-lamp', 'GPIO5'),
    says: /GPIO 6 belongs to the flash memory/,
  },
  {
    id: 'P07',
    severity: 'error',
    has: pin('in:s1', 'D34'),
    hasNot: both(pin('in:s1', 'D34'), input({ pull: 'fitted' })),
    says: /GPIO 34 has no internal pull-up and none is fitted/,
  },
  {
    id: 'P07',
    severity: 'error',
    has: input({ pull: 'none' }),
    hasNot: input({ pull: 'internal' }),
    says: /has no pull switched on/,
  },
  {
    id: 'P08',
    severity: 'error',
    has: both(input({ sense: 'analogue', pull: 'fitted' }), pin('in:s1', 'D4')),
    hasNot: both(input({ sense: 'analogue', pull: 'fitted' }), pin('in:s1', 'D32')),
    says: /second analogue bank/,
  },
  {
    id: 'P09',
    severity: 'error',
    board: single,
    has: addChannels(9),
    hasNot: addChannels(3),
    says: /only \d+ can carry them|no free pin/,
  },
  {
    id: 'P10',
    severity: 'danger',
    has: input({ volts: 5 }),
    hasNot: input({ volts: 3.3 }),
    says: /brings 5 V to .* the board stands 3.3 V/,
  },
  {
    id: 'P11',
    severity: 'warning',
    board: single,
    has: pin('out:bench-lamp', '4'),
    hasNot: pin('out:bench-lamp', 'GPIO4'),
    says: /"4" is read as GPIO 4, printed D2; it could also mean D4, which is GPIO 2/,
  },
  {
    id: 'P12',
    severity: 'error',
    has: both(input({ sense: 'analogue', pull: 'fitted' }), pin('in:s1', 'D23')),
    hasNot: both(input({ sense: 'analogue', pull: 'fitted' }), pin('in:s1', 'D35')),
    says: /does not give an analogue reading/,
  },
  {
    id: 'P13',
    severity: 'error',
    has: (s) => {
      delete s.controllers[0]!.pins['in:s1']
    },
    hasNot: () => {},
    says: /1 of 4 roles have no pin yet: S1/,
  },
  {
    id: 'P14',
    severity: 'error',
    has: pin('out:bench-lamp', 'D99'),
    hasNot: pin('out:bench-lamp', 'D26'),
    says: /"D99" is no pin of the/,
  },
  {
    id: 'D01',
    severity: 'danger',
    has: (s) => {
      s.controllers[0]!.module!.coilJumper = 'fitted'
    },
    hasNot: (s) => {
      s.controllers[0]!.module!.coilJumper = 'removed'
    },
    says: /leaves 1.7 V across it, the knee is near 1 V: 0.5\d mA/,
  },
  {
    id: 'D01',
    severity: 'error',
    has: (s) => {
      s.controllers[0]!.module!.coilJumper = 'fitted'
      s.loads.forEach((l) => {
        l.supply = 'low-voltage'
      })
    },
    hasNot: (s) => {
      s.controllers[0]!.module!.active = 'high'
      s.controllers[0]!.module!.coilJumper = 'fitted'
    },
    says: /release margin -0.7 V/,
  },
  {
    id: 'D02',
    severity: 'error',
    has: module({ inputOhms: 4_700 }),
    hasNot: module({ inputOhms: 1_000 }),
    says: /Through 4.7 kΩ the opto gets 0.1\d mA/,
  },
  {
    id: 'D03',
    severity: 'error',
    has: supply({ coilsFromLogic: true }),
    hasNot: supply({}),
    says: /143 mA of coils hang on the board's 3.3 V regulator/,
  },
  {
    id: 'D04',
    severity: 'error',
    has: module({ driver: 'none' }),
    hasNot: module({ driver: 'transistor-and-diode' }),
    says: /A coil of 69 mA hangs on a pin that gives 20 mA. Fit an NPN transistor with 680 Ω/,
  },
  {
    id: 'D04',
    severity: 'error',
    has: module({ driver: 'transistor-only' }),
    hasNot: module({ driver: 'module' }),
    says: /There is no diode across the coil/,
  },
  {
    id: 'D05',
    severity: 'danger',
    has: module({ driver: 'none' }),
    hasNot: module({ driver: 'transistor-and-diode' }),
    says: /71.4 mA a pin, over the absolute 40 mA/,
  },
  {
    id: 'S01',
    severity: 'error',
    has: supply({ source: 'usb-port' }),
    hasNot: supply({ source: 'boxed-5v-1a' }),
    says: /USB 2.0 port gives 500 mA; steady .* peak 6\d\d mA/,
  },
  {
    id: 'S01',
    severity: 'warning',
    has: both(supply({ source: 'boxed-5v-1a' }), (s) => {
      s.controllers[0]!.module!.coilOhms = 40
    }),
    hasNot: supply({ source: 'boxed-5v-3a' }),
    says: /% in hand, 25 % are wanted/,
  },
  {
    id: 'S02',
    severity: 'danger',
    has: supply({ source: 'boxed-12v-2a', board: 'buck-5v-3a' }),
    hasNot: supply({ source: 'boxed-12v-2a', board: 'buck-5v-3a', coils: 'buck-5v-3a' }),
    says: /for 5 V, their rail has 12 V/,
  },
  {
    id: 'S03',
    severity: 'error',
    has: both(supply({ source: 'boxed-5v-3a' }), modem),
    hasNot: both(supply({ source: 'boxed-5v-3a', reservoirMicrofarads: 3_300 }), modem),
    says: /the rail has no reservoir \(0 µF\)/,
  },
  {
    id: 'S03',
    severity: 'warning',
    has: both(
      supply({
        source: 'boxed-12v-5a',
        board: 'buck-5v-3a',
        coils: 'buck-5v-3a',
        own: 'buck-4v-3a',
        reservoirMicrofarads: 1_000,
      }),
      modem,
    ),
    hasNot: supply({ source: 'boxed-12v-5a', board: 'buck-5v-3a', coils: 'buck-5v-3a', own: 'buck-4v-3a' }),
    says: /falls 1.15 V/,
  },
  {
    id: 'S04',
    severity: 'warning',
    has: supply({ source: 'laptop-charger' }),
    hasNot: supply({ source: 'boxed-5v-3a' }),
    says: /only to a device that asks/,
  },
  {
    id: 'S05',
    severity: 'warning',
    has: supply({ source: 'boxed-12v-2a', board: 'linear-5v-1a', coils: 'linear-5v-1a' }),
    hasNot: supply({ source: 'boxed-12v-2a', board: 'buck-5v-3a', coils: 'buck-5v-3a' }),
    says: /turns \S+ W to heat/,
  },
  {
    id: 'S06',
    severity: 'warning',
    has: both(supply({ source: 'boxed-5v-1a' }), controller({ staggerMs: 0 }), (s) => {
      s.controllers[0]!.module!.coilOhms = 40
      for (const c of s.channels) if ('powerUp' in c) c.powerUp = { policy: 'on' }
    }),
    hasNot: both(supply({ source: 'boxed-5v-1a' }), (s) => {
      for (const c of s.channels) if ('powerUp' in c) c.powerUp = { policy: 'on' }
    }),
    says: /are drawn at once, of 1000 mA/,
  },
  {
    id: 'T06',
    severity: 'warning',
    board: 'eight-bit-5v',
    has: (s) => {
      for (const c of s.channels) if ('powerUp' in c) c.powerUp = { policy: 'last' }
    },
    hasNot: channel({ powerUp: { policy: 'last' } }),
    says: /40 writes a day: 100,000 writes last 6.85 years/,
  },
  {
    id: 'T06',
    severity: 'warning',
    board: 'eight-bit-5v',
    has: both(channel({ powerUp: { policy: 'last' } }), (s) => void (s.day.changes = 28)),
    hasNot: both(channel({ powerUp: { policy: 'last' } }), (s) => void (s.day.changes = 27)),
    says: /1 stored channel at 28 changes a day is 28 writes a day: 100,000 writes last 9.78 years/,
  },
  {
    id: 'T02',
    severity: 'note',
    has: ownBoard({ settings: [] }),
    hasNot: ownBoard({}),
    says: /The profile of Mine names no setting of its board package/,
  },
  {
    id: 'T03',
    severity: 'warning',
    has: ownBoard({ programming: [] }),
    hasNot: ownBoard({}),
    says: /The profile of Mine does not say how the board is brought into programming/,
  },
  {
    id: 'L01',
    severity: 'danger',
    has: load({ type: 'heater', watts: 3000 }),
    hasNot: load({ type: 'heater', watts: 2000 }),
    says: /takes 13 A \(AC-1\); the contact may carry 10 A/,
  },
  {
    id: 'L02',
    severity: 'warning',
    has: load({ type: 'incandescent', watts: 600 }),
    hasNot: load({ type: 'incandescent', watts: 300 }),
    says: /draws about 39.1 A/,
  },
  {
    id: 'L03',
    severity: 'warning',
    has: load({ type: 'heater', watts: 2000, continuous: true }),
    hasNot: load({ type: 'heater', watts: 1800, continuous: true }),
    says: /counted at 125 % it is 109 %/,
  },
  {
    id: 'L05',
    severity: 'note',
    has: load({ type: 'unknown' }),
    hasNot: load({ type: 'electronic' }),
    says: /is not said/,
  },
  {
    id: 'L07',
    severity: 'warning',
    has: load({ type: 'motor', watts: 120 }),
    hasNot: load({ type: 'motor', watts: 120, suppression: 'snubber' }),
    says: /100 Ω with 100 nF, X2/,
  },
  {
    id: 'L08',
    severity: 'danger',
    has: load({ sharesBox: true }),
    hasNot: load({ sharesBox: false }),
    says: /share a box with another supply/,
  },
  { id: 'L09', severity: 'error', has: box(40), hasNot: box(0), says: /18.44 in³ of 18 in³/ },
  { id: 'L10', severity: 'warning', has: box(0, 20), hasNot: box(0, 15), says: /AWG 14 behind a 20 A breaker/ },
  {
    id: 'F01',
    severity: 'error',
    has: fan({}, [0, 1, 2, null, 4, null, null, null]),
    hasNot: fan({}, [0, 1, 2, 3, 4, null, null, null]),
    says: /gives the levels 0, 1, 2, 4; 3 has no code. Smallest rewiring: level 3: join bits 1 and 2/,
  },
  {
    id: 'F02',
    severity: 'warning',
    has: fan({}, [0, 1, 2, 3, 4, 4, null, null]),
    hasNot: fan({}, [0, 1, 2, 3, 4, null, null, null]),
    says: /codes 4, 5 all mean level 4/,
  },
  {
    id: 'F03',
    severity: 'danger',
    has: fan({ patterns: [[], [0], [1], [0, 1], [0, 2]] }),
    hasNot: fan({}),
    says: /level 4 of Fan closes contacts 1, 3 together/,
  },
  { id: 'F04', severity: 'error', has: fan({ gapMs: 0 }), hasNot: fan({}), says: /in the same instant/ },
  {
    id: 'F05',
    severity: 'warning',
    has: both(fan({}), (s) => {
      s.services[0]!.points[2]!.max = 2
    }),
    hasNot: fan({}),
    says: /3 positions \(0–2 by 1\), Fan has 5 levels/,
  },
  {
    id: 'M02',
    severity: 'warning',
    has: both(fan({}), (s) => {
      s.services[0]!.points[2]!.max = 100
    }),
    hasNot: fan({}),
    says: /101 positions\), Fan has 5: 96 of 101/,
  },
  {
    id: 'W04',
    severity: 'error',
    has: input({ bounceMs: 30 }),
    hasNot: input({ bounceMs: 20 }),
    says: /bounce for 30 ms; it is settled in 25 ms/,
  },
  {
    id: 'W05',
    severity: 'warning',
    has: input({ cableMetres: 12 }),
    hasNot: both(input({ cableMetres: 12 }), input({ pull: 'fitted' })),
    says: /12 m .* Fit 1.5 kΩ/,
  },
  {
    id: 'W06',
    severity: 'error',
    board: single,
    has: controller({ board: 'boxed-two-relay-r1', pins: {} }),
    hasNot: controller({ board: 'boxed-two-relay-r2', pins: {} }),
    says: /external switches are unreliable/,
  },
  {
    id: 'L04',
    severity: 'danger',
    has: (s) => {
      s.loads[0]!.contact = 'neutral'
    },
    hasNot: (s) => {
      s.loads[0]!.contact = 'neutral'
      s.loads[0]!.supply = 'low-voltage'
    },
    says: /switches the neutral of Bench lamp LED/,
  },
  {
    id: 'L06',
    severity: 'warning',
    has: (s) => {
      s.loads[0]!.type = 'heater'
    },
    hasNot: both(
      (s) => {
        s.loads[0]!.type = 'heater'
      },
      channel({ maxOnMs: 60_000 }),
    ),
    says: /heats with 9 W/,
  },
  {
    id: 'M01',
    severity: 'error',
    has: point({ vp: 1 }, 1),
    hasNot: point({ vp: 9 }, 1),
    says: /vp1 stands for both Bench lamp and Shelf lamp/,
  },
  {
    id: 'M02',
    severity: 'warning',
    has: point({ max: 100 }),
    hasNot: point({ max: 100, step: 100 }),
    says: /0–100 by 1 \(101 positions\), Bench lamp has 2: 99 of 101/,
  },
  {
    id: 'M03',
    severity: 'error',
    has: widget({ inverted: true }),
    hasNot: widget({ inverted: false }),
    says: /inverted in the widget and again in the output driver/,
  },
  {
    id: 'M03',
    severity: 'error',
    has: channel({ active: 'high' }),
    hasNot: channel({ active: 'low' }),
    says: /The module closes on low, Bench lamp is driven to close on high/,
  },
  {
    id: 'M03',
    severity: 'warning',
    has: both(widget({ inverted: true }), channel({ active: 'high' })),
    hasNot: () => {},
    says: /inverted in the widget, not in the output driver/,
  },
  {
    id: 'M04',
    severity: 'warning',
    has: widget({ kind: 'push' }),
    hasNot: widget({ kind: 'value' }),
    says: /sends 1 while held and 0 when let go/,
  },
  {
    id: 'M05',
    severity: 'warning',
    has: (s) => {
      const way = s.ways.find((w) => w.kind === 'app')!
      if (way.kind === 'app') way.feedback = 'silent'
    },
    hasNot: () => {},
    says: /Bench lamp by app: the controller does not report/,
  },
  {
    id: 'M06',
    severity: 'warning',
    has: both(point({ default: 1 }), controller({ outage: 'service' })),
    hasNot: point({ default: 1 }),
    says: /vp1 has the default 1/,
  },
  {
    id: 'M07',
    severity: 'error',
    has: point({ access: 'read' }),
    hasNot: both(point({ access: 'read' }), widget({ kind: 'value' })),
    says: /its widget writes it, the point is read-only/,
  },
  {
    id: 'M11',
    severity: 'error',
    has: withoutWays(['wall', 'app', 'hub']),
    hasNot: withoutWays(['app', 'hub']),
    says: /Bench lamp has no way in/,
  },
  {
    id: 'M12',
    severity: 'error',
    has: (s) => {
      s.hubs[0]!.entities[1]!.topic = 'bench-lamp'
    },
    hasNot: (s) => {
      s.hubs[0]!.entities[1]!.topic = 'shelf'
    },
    says: /is already the topic of Bench lamp/,
  },
  {
    id: 'M12',
    severity: 'error',
    has: (s) => {
      s.hubs[0]!.entities[0]!.topic = 'bench/#'
    },
    hasNot: (s) => {
      s.hubs[0]!.entities[0]!.topic = 'bench'
    },
    says: /is not of a-z/,
  },
  {
    id: 'M12',
    severity: 'error',
    has: (s) => {
      s.hubs[0]!.entities[0]!.topic = 'status'
    },
    hasNot: (s) => {
      s.hubs[0]!.entities[0]!.topic = 'states'
    },
    says: /word of the topic scheme/,
  },
  {
    id: 'W02',
    severity: 'error',
    has: (s) => {
      const way = s.ways.find((w) => w.kind === 'wall')!
      if (way.kind === 'wall') way.bindings = [{ gesture: 'flip', action: 'toggle' }]
    },
    hasNot: (s) => {
      const way = s.ways.find((w) => w.kind === 'wall')!
      if (way.kind === 'wall') way.bindings = [{ gesture: 'hold', action: 'off' }]
    },
    says: /S1 is a momentary; it never makes "flip"/,
  },
  {
    id: 'B01',
    severity: 'warning',
    has: withoutWays(['wall']),
    hasNot: withoutWays(['app']),
    says: /worked only by app and hub: 2 of 2 ways need the network/,
  },
  {
    id: 'B01',
    severity: 'error',
    has: both(withoutWays(['wall']), channel({ essential: true })),
    hasNot: channel({ essential: true }),
    says: /2 of 2/,
  },
  {
    id: 'B04',
    severity: 'warning',
    has: channel({ powerUp: { policy: 'service', waitMs: 15_000, otherwise: null } }),
    hasNot: channel({ powerUp: { policy: 'service', waitMs: 15_000, otherwise: 'off' } }),
    says: /waits 15 s for the service, and nothing says what then/,
  },
  {
    id: 'B06',
    severity: 'note',
    has: controller({ outage: null }),
    hasNot: controller({ outage: 'service' }),
    says: /does not say whether the wall or the service wins/,
  },
]

function addChannels(count: number): Change {
  return (s) => {
    for (let i = 0; i < count; i++) s.channels.push(newSwitched(s, `More ${i}`, s.controllers[0]!))
  }
}

const changed = (board: string | undefined, change: Change): Site => {
  const site = produce(cleanSite(board), (draft) => void change(draft as Site))
  const parsed = parseSite(site)
  if (!parsed.ok) throw parsed.error
  return site
}
const ofId = (findings: readonly Finding[], id: string) => findings.filter((finding) => finding.id === id)

describe('the clean sites have no finding at all', () => {
  it.each(['dual-core-wifi-30', 'single-core-wifi-16'])('%s', (board) =>
    expect(checkSite(cleanSite(board))).toEqual([]),
  )
  it('eight-bit-5v, once it has a coprocessor for the network', () => {
    const site = cleanSite('eight-bit-5v', { link: 'none' })
    const [first, ...more] = checkSite(site)
    expect(first).toMatchObject({
      id: 'M17',
      what: expect.stringContaining('Bench lamp, Shelf lamp are to be worked by app or hub') as string,
    })
    expect(more).toEqual([])
    expect(checkSite(applyOperations(site, fixEdit(site, first!, first!.fixes[0]!).patch))).toEqual([])
  })
})

describe.each(CASES)('$id $severity', ({ id, severity, board, has, hasNot, says }) => {
  it('a site that has it', () => {
    const list = ofId(checkSite(changed(board, has)), id)
    expect(list.length).toBeGreaterThan(0)
    expect(list[0]!.severity).toBe(severity)
    expect(list[0]!.what).toMatch(says)
  })
  it('the nearest site that has not', () => expect(ofId(checkSite(changed(board, hasNot)), id)).toEqual([]))
  it('each fix takes it away and leaves a legal site', () => {
    const site = changed(board, has)
    const finding = ofId(checkSite(site), id)[0]!
    for (const fix of finding.fixes) {
      const edit = fixEdit(site, finding, fix)
      const mended = applyOperations(site, edit.patch)
      expect(edit.patch.length).toBeGreaterThan(0)
      expect(parseSite(mended).ok).toBe(true)
      expect(ofId(checkSite(mended), id).filter((f) => f.what === finding.what)).toEqual([])
    }
  })
})

describe('T04', () => {
  const site = cleanSite()
  it('a board that runs other tables', () =>
    expect(
      ofId(checkSite(site, { ...NO_RECORD, flashed: [{ controller: 'corner', hash: '0123456789ab' }] }), 'T04')[0],
    ).toMatchObject({ severity: 'note' }))
  it('a board that runs these', () =>
    expect(
      checkSite(site, {
        ...NO_RECORD,
        flashed: [{ controller: 'corner', hash: compileController(site, 'corner').hash }],
      }),
    ).toEqual([]))
})

describe('accepting', () => {
  const site = changed(undefined, widget({ kind: 'push' }))
  const finding = checkSite(site)[0]!
  const accepted = applyOperations(site, acceptEdit(site, finding, 'a doorbell lamp').patch)
  it('keeps the finding, with its reason', () =>
    expect(checkSite(accepted)[0]).toMatchObject({ id: 'M04', accepted: 'a doorbell lamp' }))
  it('lapses when the facts change', () => {
    const later = produce(accepted, (draft) => {
      draft.services[0]!.points[0]!.max = 5
    })
    expect(ofId(checkSite(later), 'M04')[0]!.accepted).toBeUndefined()
  })
  it('an accepted danger does not block', () => {
    const danger = changed(undefined, input({ volts: 5 }))
    expect(isBlocking(checkSite(danger))).toBe(true)
    expect(
      isBlocking(
        checkSite(applyOperations(danger, acceptEdit(danger, checkSite(danger)[0]!, 'a divider is fitted').patch)),
      ),
    ).toBe(false)
  })
})
