import { addRule } from '../ways'
import { both, widget, point, channel, controller, withoutWays, type Change } from './changes.testkit'
import { sentences } from './sentences.testkit'

const timetabled: Change = (s) => void addRule(s, s.channels[0]!, 'schedule')

/** What a way says against what its channel does, and what is left when the network is gone. */
sentences([
  {
    id: 'M01',
    severity: 'error',
    when: 'two channels share a point',
    has: point({ vp: 1 }, 1),
    unless: 'each has its own',
    hasNot: point({ vp: 9 }, 1),
    says: /vp1 stands for both Bench lamp and Shelf lamp/,
  },
  {
    id: 'M02',
    severity: 'warning',
    when: 'a point of 0–100 works a lamp',
    has: point({ max: 100 }),
    unless: 'it steps by 100',
    hasNot: point({ max: 100, step: 100 }),
    says: /0–100 by 1 \(101 positions\), Bench lamp has 2: 99 of 101/,
  },
  {
    id: 'M03',
    severity: 'error',
    when: 'a signal is inverted in the widget and again in the driver',
    has: widget({ inverted: true }),
    unless: 'only in the driver',
    hasNot: widget({ inverted: false }),
    says: /inverted in the widget and again in the output driver/,
  },
  {
    id: 'M03',
    severity: 'error',
    when: 'the driver closes on high, the module on low',
    has: channel({ active: 'high' }),
    unless: 'both close on low',
    hasNot: channel({ active: 'low' }),
    says: /The module closes on low, Bench lamp is driven to close on high/,
  },
  {
    id: 'M03',
    severity: 'error',
    when: 'the driver closes the wrong way round, and a widget hides it',
    has: both(widget({ inverted: true }), channel({ active: 'high' })),
    unless: 'the driver alone inverts it',
    hasNot: () => {},
    says: /driven to close on high. .* hides it, since it is inverted in the widget/,
  },
  {
    id: 'M04',
    severity: 'warning',
    when: 'a push widget works a lamp that stays on',
    has: widget({ kind: 'push' }),
    unless: 'a value shows it',
    hasNot: widget({ kind: 'value' }),
    says: /sends 1 while held and 0 when let go/,
  },
  {
    id: 'M05',
    severity: 'warning',
    when: 'a screen is never told',
    has: (s) => {
      const way = s.ways.find((w) => w.kind === 'app')!
      if (way.kind === 'app') way.feedback = 'silent'
    },
    unless: 'it is told',
    hasNot: () => {},
    says: /Bench lamp by app: the controller does not report/,
  },
  {
    id: 'M06',
    severity: 'warning',
    when: "a point's default would turn a lamp on when the service wins",
    has: both(point({ default: 1 }), controller({ outage: 'service' })),
    unless: 'the wall wins',
    hasNot: point({ default: 1 }),
    says: /vp1 has the default 1/,
  },
  {
    id: 'M07',
    severity: 'error',
    when: 'a widget writes what may only be read',
    has: point({ access: 'read' }),
    unless: 'it only shows it',
    hasNot: both(point({ access: 'read' }), widget({ kind: 'value' })),
    says: /its widget writes, the point is read-only/,
  },
  {
    id: 'M11',
    severity: 'error',
    when: 'a channel has no way in',
    has: withoutWays(['wall', 'app', 'hub']),
    unless: 'it has a switch',
    hasNot: withoutWays(['app', 'hub']),
    says: /Bench lamp has no way in/,
  },
  {
    id: 'M12',
    severity: 'error',
    when: 'two entities have one topic',
    has: (s) => {
      s.hubs[0]!.entities[1]!.topic = 'bench-lamp'
    },
    unless: 'each has its own',
    hasNot: (s) => {
      s.hubs[0]!.entities[1]!.topic = 'shelf'
    },
    says: /is already the topic of Bench lamp/,
  },
  {
    id: 'M12',
    severity: 'error',
    when: 'a topic holds a wildcard',
    has: (s) => {
      s.hubs[0]!.entities[0]!.topic = 'bench/#'
    },
    unless: 'it holds none',
    hasNot: (s) => {
      s.hubs[0]!.entities[0]!.topic = 'bench'
    },
    says: /is not of a-z/,
  },
  {
    id: 'M12',
    severity: 'error',
    when: 'a topic is a word of the scheme',
    has: (s) => {
      s.hubs[0]!.entities[0]!.topic = 'status'
    },
    unless: 'it is none',
    hasNot: (s) => {
      s.hubs[0]!.entities[0]!.topic = 'states'
    },
    says: /word of the topic scheme/,
  },
  {
    id: 'W02',
    severity: 'error',
    when: 'a momentary is bound to a flip, which it never makes',
    has: (s) => {
      const way = s.ways.find((w) => w.kind === 'wall')!
      if (way.kind === 'wall') way.bindings = [{ gesture: 'flip', action: 'toggle' }]
    },
    unless: 'it is bound to a hold',
    hasNot: (s) => {
      const way = s.ways.find((w) => w.kind === 'wall')!
      if (way.kind === 'wall') way.bindings = [{ gesture: 'hold', action: 'off' }]
    },
    says: /S1 is a momentary; it cannot make "flip"/,
  },
  {
    id: 'B01',
    severity: 'warning',
    when: 'only app and hub work a lamp',
    has: withoutWays(['wall']),
    unless: 'a switch does too',
    hasNot: withoutWays(['app']),
    says: /worked only by app and hub: 2 of 2 ways need the network/,
  },
  {
    id: 'B01',
    severity: 'error',
    when: 'the same, of a lamp that is essential',
    has: both(withoutWays(['wall']), channel({ essential: true })),
    unless: 'it has all its ways',
    hasNot: channel({ essential: true }),
    says: /2 of 2/,
  },
  {
    id: 'B04',
    severity: 'warning',
    when: 'a channel waits for the service and no fallback is chosen',
    has: channel({ powerUp: { policy: 'service', waitMs: 15_000, otherwise: null } }),
    unless: 'it is said',
    hasNot: channel({ powerUp: { policy: 'service', waitMs: 15_000, otherwise: 'off' } }),
    says: /waits 15 s for the service, and no fallback is chosen/,
  },
  {
    id: 'B04',
    severity: 'warning',
    when: 'a channel waits for the clock and no fallback is chosen',
    has: both(timetabled, channel({ powerUp: { policy: 'timetable', waitMs: 15_000, otherwise: null } })),
    unless: 'it is said',
    hasNot: both(timetabled, channel({ powerUp: { policy: 'timetable', waitMs: 15_000, otherwise: 'off' } })),
    says: /waits 15 s for the clock, and no fallback is chosen/,
  },
  {
    id: 'B08',
    severity: 'warning',
    when: 'the power-up asks a timetable, and no schedule works the channel',
    has: channel({ powerUp: { policy: 'timetable', waitMs: 15_000, otherwise: 'off' } }),
    unless: 'there is one',
    hasNot: both(timetabled, channel({ powerUp: { policy: 'timetable', waitMs: 15_000, otherwise: 'off' } })),
    says: /follows its schedule, and it has no schedule/,
  },
  {
    id: 'B06',
    severity: 'note',
    when: 'nobody said who wins after an outage',
    has: controller({ outage: null }),
    unless: 'it is said',
    hasNot: controller({ outage: 'service' }),
    says: /does not say who wins, wall or service/,
  },
  {
    id: 'M18',
    severity: 'warning',
    when: 'a channel is renamed to a name that stands already',
    has: channel({ name: 'Shelf lamp' }),
    unless: 'its name is its own',
    hasNot: channel({ name: 'Shelf light' }),
    says: /^Two channels are called Shelf lamp: bench-lamp and shelf-lamp/,
  },
  {
    id: 'W08',
    severity: 'warning',
    when: 'a switch works nothing',
    has: withoutWays(['wall']),
    unless: 'it works a lamp',
    hasNot: withoutWays(['hub']),
    says: /^S1 has a pin and works no channel and no controller/,
  },
])
