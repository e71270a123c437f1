import { newPaired } from '../site'
import { addAppWay, addHubWay, addLinkWays, addModePoint, addSensor, addSensorPoint } from '../ways'
import { both, plan, corner, door, appToGate, gateWidget, kind, voice, twin, pair } from './changes.testkit'
import { sentences } from './sentences.testkit'

/** Services: their plans, their words, the lines between boards. */
sentences([
  {
    id: 'M04',
    severity: 'warning',
    when: 'a switch widget works a pulse and stays on',
    has: door({}, both(appToGate, gateWidget({ kind: 'switch' }))),
    unless: 'a push does it',
    hasNot: door({}, appToGate),
    says: /is a switch: it stays on 1 after a pulse/,
  },
  {
    id: 'M04',
    severity: 'warning',
    when: 'a switch widget works a shutter, which has three commands',
    has: (s) => {
      const channel = newPaired(s, 'Shutter', corner(s))
      s.channels.push(channel)
      addAppWay(s, channel)
      s.services[0]!.widgets.at(-1)!.kind = 'switch'
      plan(s)
    },
    unless: 'three pushes do it',
    hasNot: (s) => {
      const channel = newPaired(s, 'Shutter', corner(s))
      s.channels.push(channel)
      addAppWay(s, channel)
      plan(s)
    },
    says: /has three: up, stop, down/,
  },
  {
    id: 'M08',
    severity: 'error',
    when: 'two points are needed where the plan allows one',
    has: kind('datapoint', { points: 1 }),
    unless: 'it allows two',
    hasNot: kind('datapoint', { points: 2 }),
    says: /needs 2 points on Corner; the plan of a datapoint app service allows 1/,
  },
  {
    id: 'M08',
    severity: 'error',
    when: 'two widgets are needed where the plan allows one',
    has: kind('datapoint', { widgets: 1 }),
    unless: 'it allows two',
    hasNot: kind('datapoint', { widgets: 2 }),
    says: /needs 2 widgets for Corner/,
  },
  {
    id: 'M08',
    severity: 'error',
    when: 'two spoken names are needed where the plan allows one',
    has: both(kind('voice-bridge', { devices: 1 }), voice('bench lamp', 'shelf rail')),
    unless: 'it allows two',
    hasNot: both(kind('voice-bridge', { devices: 2 }), voice('bench lamp', 'shelf rail')),
    says: /needs 2 devices; the plan of a voice bridge allows 1/,
  },
  {
    id: 'M08',
    severity: 'warning',
    when: 'names are longer than the plan allows',
    has: kind('datapoint', { nameLength: 9 }),
    unless: 'they are just as long',
    hasNot: kind('datapoint', { nameLength: 10 }),
    says: /have more than 9 characters/,
  },
  {
    id: 'M08',
    severity: 'error',
    when: 'nobody knows the kind of a service',
    has: (s) => {
      s.services[0]!.kind = 'nobody-knows'
    },
    unless: 'it is a known one',
    hasNot: () => {},
    says: /There is no kind "nobody-knows"/,
  },
  {
    id: 'M09',
    severity: 'error',
    when: "a month's messages are more than the plan allows",
    has: (s) => {
      s.day.changes = 2_000
    },
    unless: 'the channels change seldom',
    hasNot: (s) => {
      s.day.changes = 20
    },
    says: /At 2000 changes per channel per day App service carries .* messages per month, 100,000 are allowed\. Most of it/,
  },
  {
    id: 'M09',
    severity: 'warning',
    when: "a month's bytes are many for a modem",
    has: (s) => {
      corner(s).link = 'modem'
      corner(s).modem = { apn: 'things', joinS: 30 }
      s.day.changes = 5_000
    },
    unless: 'the channels change seldom',
    hasNot: (s) => {
      corner(s).link = 'modem'
      corner(s).modem = { apn: 'things', joinS: 30 }
    },
    says: /MB per month \(30 days\) over its modem/,
  },
  {
    id: 'M10',
    severity: 'warning',
    when: 'a channel changes faster than the service takes values',
    has: kind('datapoint', { updateMs: 1000 }),
    unless: 'the service takes them as fast',
    hasNot: kind('datapoint', { updateMs: 200 }),
    says: /may change every 200 ms; the service takes one value every 1000 ms/,
  },
  {
    id: 'M13',
    severity: 'error',
    when: 'a line has two speeds at its two ends',
    has: twin(19200),
    unless: 'it has one',
    hasNot: twin(9600),
    says: /9600 baud at one end, 19200 at the other/,
  },
  {
    id: 'M14',
    severity: 'error',
    when: 'a spoken name leads nowhere',
    has: both(voice('bench lamp'), (s) => {
      const way = s.ways.at(-1)!
      if (way.kind === 'voice') way.through = null
    }),
    unless: 'an entity carries it',
    hasNot: voice('bench lamp'),
    says: /has no point and no entity/,
  },
  {
    id: 'M15',
    severity: 'error',
    when: 'a character asks a channel for what it does not know',
    has: (s) => {
      addLinkWays(s, s.channels[0]!, 'serial')
      const way = s.ways.at(-1)!
      if (way.kind === 'link') way.action = 'pulse'
    },
    unless: 'it asks for what it knows',
    hasNot: (s) => addLinkWays(s, s.channels[0]!, 'serial'),
    says: /is switched; it has no action “pulse”/,
  },
  {
    id: 'M19',
    severity: 'error',
    when: 'a mode stands on the phone of a board that a coprocessor stands for',
    has: both(pair, (s) => void addModePoint(s, corner(s))),
    unless: 'the board is on the network itself',
    hasNot: (s) => void addModePoint(s, corner(s)),
    says: /shows a mode of Corner, which is reached through a coprocessor, whose line tells the levels of channels/,
  },
  {
    id: 'M19',
    severity: 'error',
    when: 'a reading stands on the phone of a board without a network',
    has: (s) => {
      addSensorPoint(s, addSensor(s, 'corner'))
      corner(s).link = 'none'
    },
    unless: 'it has one',
    hasNot: (s) => void addSensorPoint(s, addSensor(s, 'corner')),
    says: /shows a reading of Corner, which has no network/,
  },
  {
    id: 'M17',
    severity: 'error',
    when: 'app or hub are asked of a board without a network',
    has: (s) => {
      addHubWay(s, s.channels[0]!)
      corner(s).link = 'none'
    },
    unless: 'the board has one',
    hasNot: (s) => {
      addHubWay(s, s.channels[0]!)
    },
    says: /Corner has no network, and no coprocessor/,
  },
  {
    id: 'M17',
    severity: 'error',
    when: 'a coprocessor has no character for what the hub may ask',
    has: both(pair, (s) => {
      s.ways = s.ways.filter((way) => way.kind !== 'link' || way.action !== 'off')
    }),
    unless: 'it has one for each',
    hasNot: pair,
    says: /Radio connects Corner to the network, and its line has no character for “off” of Bench lamp/,
  },
  {
    id: 'M16',
    severity: 'error',
    when: 'one character means two things on a controller',
    has: (s) => {
      addLinkWays(s, s.channels[0]!, 'serial')
      addLinkWays(s, s.channels[1]!, 'nearby')
      const way = s.ways.at(-1)!
      if (way.kind === 'link') way.char = 'A'
    },
    unless: 'each means one',
    hasNot: (s) => {
      addLinkWays(s, s.channels[0]!, 'serial')
      addLinkWays(s, s.channels[1]!, 'nearby')
    },
    says: /“A” means .* on Corner/,
  },
  {
    id: 'C02',
    severity: 'error',
    when: 'a host is written with scheme, path and slash',
    has: (s) => {
      s.services[0]!.host = 'https://app.invalid/'
    },
    unless: 'it is written alone',
    hasNot: (s) => {
      s.services[0]!.host = 'app.invalid'
    },
    says: /scheme removed, path and slash removed/,
  },
  {
    id: 'C05',
    severity: 'danger',
    when: 'a store is open to all',
    has: (s) => {
      s.services[0]!.rulesOpen = true
    },
    unless: 'it is closed',
    hasNot: (s) => {
      s.services[0]!.rulesOpen = false
    },
    says: /Anyone who knows its host/,
  },
])
