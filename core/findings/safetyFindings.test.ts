import { addControl, addVoiceWay } from '../ways'
import { both, corner, door, gate, appToGate, gatePoint, gateWidget, feed, hold, remote } from './changes.testkit'
import { sentences } from './sentences.testkit'

/** Doors, feeds, presses, and what must not happen by mistake. */
sentences([
  {
    id: 'W01',
    severity: 'warning',
    when: 'some quick presses are shorter than the settle time',
    has: (s) => {
      s.inputs[0]!.settleMs = 100
    },
    unless: 'none is',
    hasNot: (s) => {
      s.inputs[0]!.settleMs = 60
    },
    says: /of quick presses \(60 to 200 ms\) it misses 29 %/,
  },
  {
    id: 'W01',
    severity: 'error',
    when: 'every quick press is shorter than the settle time',
    has: (s) => {
      s.inputs[0]!.settleMs = 500
    },
    unless: 'the first edge counts',
    hasNot: both(
      (s) => {
        s.inputs[0]!.settleMs = 500
      },
      (s) => {
        s.inputs[0]!.settle = 'eager'
      },
    ),
    says: /misses 100 %/,
  },
  {
    id: 'W03',
    severity: 'warning',
    when: 'an old switch stays in parallel with the contact',
    has: (s) => {
      s.loads[0]!.parallelSwitch = true
    },
    unless: 'it is gone',
    hasNot: () => {},
    says: /stays in parallel with the contact/,
  },
  {
    id: 'H01',
    severity: 'danger',
    when: 'an outside door opens when power fails',
    has: door({ door: { lock: 'fail-safe', place: 'outside', closesUnattended: false, warningDevice: false } }),
    unless: 'it stays shut',
    hasNot: door(),
    says: /fail-safe strike on an outside door/,
  },
  {
    id: 'H01',
    severity: 'danger',
    when: 'an escape door stays shut when power fails',
    has: door({ door: { lock: 'fail-secure', place: 'escape', closesUnattended: false, warningDevice: false } }),
    unless: 'it opens',
    hasNot: door({ door: { lock: 'fail-safe', place: 'escape', closesUnattended: false, warningDevice: false } }),
    says: /fail-secure strike on an escape door/,
  },
  {
    id: 'H02',
    severity: 'danger',
    when: "a point's default opens a gate",
    has: door({}, both(appToGate, gatePoint({ default: 1 }))),
    unless: 'its default is rest',
    hasNot: door({}, appToGate),
    says: /has the default 1/,
  },
  {
    id: 'H02',
    severity: 'danger',
    when: 'a switch widget keeps a gate open',
    has: door({}, both(appToGate, gateWidget({ kind: 'switch' }))),
    unless: 'a gauge only shows it',
    hasNot: door({}, both(appToGate, gateWidget({ kind: 'gauge' }))),
    says: /keeps 1 after a pulse/,
  },
  {
    id: 'H03',
    severity: 'error',
    when: 'a door moves by app and nobody sees where it is',
    has: door({ door: { lock: 'none', place: 'outside', closesUnattended: false, warningDevice: false } }, appToGate),
    unless: 'only a switch moves it',
    hasNot: door({ door: { lock: 'none', place: 'outside', closesUnattended: false, warningDevice: false } }),
    says: /moves a door by app and has no position contact/,
  },
  {
    id: 'H04',
    severity: 'danger',
    when: 'a door may close unattended, and nothing warns',
    has: door({ door: { lock: 'none', place: 'inside', closesUnattended: true, warningDevice: false } }),
    unless: 'something does',
    hasNot: door({ door: { lock: 'none', place: 'inside', closesUnattended: true, warningDevice: true } }),
    says: /may close unattended/,
  },
  {
    id: 'H05',
    severity: 'danger',
    when: 'a gate opens by voice without a PIN',
    has: door(
      {},
      both(appToGate, (s) => {
        addVoiceWay(s, gate(s))
      }),
    ),
    unless: 'it asks for one',
    hasNot: door(
      {},
      both(appToGate, (s) => {
        addVoiceWay(s, gate(s)).pin = true
      }),
    ),
    says: /by voice without a spoken PIN/,
  },
  {
    id: 'H07',
    severity: 'note',
    when: 'nobody said what lock and door it is',
    has: door({ door: null }),
    unless: 'it is said',
    hasNot: door(),
    says: /is unknown|is not entered/,
  },
  {
    id: 'H08',
    severity: 'warning',
    when: 'a heater comes back as it was after a power cut',
    has: (s) => {
      s.loads[0]!.type = 'heater'
      const channel = s.channels[0]!
      if ('powerUp' in channel) {
        channel.powerUp = { policy: 'last' }
        channel.maxOnMs = 60_000
      }
    },
    unless: 'it stays off',
    hasNot: (s) => {
      s.loads[0]!.type = 'heater'
      const channel = s.channels[0]!
      if ('powerUp' in channel) channel.maxOnMs = 60_000
    },
    says: /its power-up policy is “last”/,
  },
  {
    id: 'B02',
    severity: 'error',
    when: 'the watch runs on the machine that it watches',
    has: feed((s) => {
      s.hubs[0]!.watch!.runsOn = 'hub machine'
    }),
    unless: 'it runs elsewhere',
    hasNot: feed(),
    says: /runs on the hub's own machine/,
  },
  {
    id: 'B03',
    severity: 'error',
    when: 'a feed has no heartbeat to watch',
    has: feed((s) => {
      s.hubs[0]!.watch = null
    }),
    unless: 'it has one',
    hasNot: feed(),
    says: /has no heartbeat/,
  },
  {
    id: 'B03',
    severity: 'error',
    when: 'a feed has no switch at its controller',
    has: feed((s) => {
      s.ways = s.ways.filter((way) => way.channel !== 'spots' || way.kind !== 'wall')
    }),
    unless: 'it has one',
    hasNot: feed(),
    says: /its controller has no switch/,
  },
  {
    id: 'B03',
    severity: 'error',
    when: 'a feed has no hub',
    has: feed((s) => {
      s.ways = s.ways.filter((way) => way.channel !== 'spots' || way.kind !== 'hub')
    }),
    unless: 'it has one',
    hasNot: feed(),
    says: /no hub has it/,
  },
  {
    id: 'B07',
    severity: 'warning',
    when: 'an essential channel hangs on one switch',
    has: (s) => {
      s.channels[0]!.essential = true
      s.ways = s.ways.filter((way) => way.channel !== s.channels[0]!.id || way.kind === 'wall')
    },
    unless: 'it has a way beside it',
    hasNot: (s) => {
      s.channels[0]!.essential = true
    },
    says: /nobody can turn it on when this fails: Switch S1 or Wire to S1\. About \d+ h per year/,
  },
  {
    id: 'B05',
    severity: 'danger',
    when: 'a strike is on a pin that is not at rest at start',
    has: both(door(), (s) => {
      corner(s).pins['out:gate'] = { pin: 'D14', locked: false }
    }),
    unless: 'its pin is',
    hasNot: both(door(), (s) => {
      corner(s).pins['out:gate'] = { pin: 'D27', locked: false }
    }),
    says: /is on D14, which changes while the board starts/,
  },
  {
    id: 'B05',
    severity: 'error',
    when: 'a short hold forgets the credentials',
    has: hold(2000),
    unless: 'a hold of 5 s does',
    hasNot: hold(5000),
    says: /S1 hold after 2000 ms deletes the credentials; it needs a hold of 5 s or more/,
  },
  {
    id: 'B05',
    severity: 'error',
    when: 'a press forgets the credentials',
    has: hold(8000, 'press'),
    unless: 'a long hold does',
    hasNot: hold(8000),
    says: /S1 press deletes the credentials/,
  },
  {
    id: 'B05',
    severity: 'error',
    when: 'one press of a remote forgets the credentials',
    has: remote(undefined, (s) => {
      const [far] = s.remotes
      const source = { kind: 'remote' as const, remote: far!.id, key: far!.keys[0]!.id }
      addControl(s, { kind: 'controller', controller: s.controllers[0]!.id, source, action: 'reset' })
    }),
    unless: 'it only asks for a report',
    hasNot: remote(undefined, (s) => {
      const [far] = s.remotes
      const source = { kind: 'remote' as const, remote: far!.id, key: far!.keys[0]!.id }
      addControl(s, { kind: 'controller', controller: s.controllers[0]!.id, source, action: 'report' })
    }),
    says: /The key “Bench lamp” deletes the credentials; it needs a hold of 5 s or more at a switch/,
  },
  {
    id: 'W07',
    severity: 'error',
    when: 'the first edge of a switch opens a gate',
    has: door({}, (s) => {
      s.inputs.at(-1)!.settle = 'eager'
    }),
    unless: 'it counts when it has settled',
    hasNot: door(),
    says: /Gate button counts at its first edge and pulses Gate/,
  },
])
