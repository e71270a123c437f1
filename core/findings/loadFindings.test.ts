import { both, input, channel, controller, load, fan, mainsFeed, single } from './changes.testkit'
import { sentences } from './sentences.testkit'

/** Loads, contacts, boxes, fans, and the leads of switches. */
sentences([
  {
    id: 'L01',
    severity: 'danger',
    when: 'a heater of 3 kW is on a contact of 10 A',
    has: load({ type: 'heater', watts: 3000 }),
    unless: 'it is of 2 kW',
    hasNot: load({ type: 'heater', watts: 2000 }),
    says: /takes 13 A \(AC-1\); the contact may carry 10 A/,
  },
  {
    id: 'L02',
    severity: 'warning',
    when: "a lamp's inrush is more than the contact closes on",
    has: load({ type: 'incandescent', watts: 600 }),
    unless: 'it is one of 60 W behind a supply of 12 V, which limits it',
    hasNot: load({ type: 'incandescent', watts: 60, supply: 'low-voltage' }),
    says: /draws about 39.1 A/,
  },
  {
    id: 'L03',
    severity: 'warning',
    when: 'a load of hours is over 80 % of the contact',
    has: load({ type: 'heater', watts: 2000, continuous: true }),
    unless: 'it is just under',
    hasNot: load({ type: 'heater', watts: 1800, continuous: true }),
    says: /counted at 125 % it is 109 %/,
  },
  {
    id: 'L05',
    severity: 'note',
    when: 'nobody said what the load is',
    has: load({ type: 'unknown' }),
    unless: 'it is said',
    hasNot: load({ type: 'electronic' }),
    says: /is unknown|is not entered/,
  },
  {
    id: 'L07',
    severity: 'warning',
    when: 'a motor has no suppression across its contact',
    has: load({ type: 'motor', watts: 120 }),
    unless: 'a snubber is fitted',
    hasNot: load({ type: 'motor', watts: 120, suppression: 'snubber' }),
    says: /100 Ω with 100 nF, X2/,
  },
  {
    id: 'L08',
    severity: 'danger',
    when: 'a load shares its box with another supply',
    has: load({ sharesBox: true }),
    unless: 'it has its box alone',
    hasNot: load({ sharesBox: false }),
    says: /share a box with another supply/,
  },
  {
    id: 'L10',
    severity: 'danger',
    when: '14 AWG is behind a breaker of 20 A',
    has: mainsFeed({ breakerAmps: 20, conductor: { by: 'awg', awg: 14 } }),
    unless: 'the breaker is of 15 A',
    hasNot: mainsFeed({ breakerAmps: 15, conductor: { by: 'awg', awg: 14 } }),
    says: /AWG 14 carries 15 A at most \(NEC 310.16 and 240.4\(D\); local code decides\); it is behind a 20 A/,
  },
  {
    id: 'F01',
    severity: 'error',
    when: 'a level has no code on the selector',
    has: fan({}, [0, 1, 2, null, 4, null, null, null]),
    unless: 'each has one',
    hasNot: fan({}, [0, 1, 2, 3, 4, null, null, null]),
    says: /gives the levels 0, 1, 2, 4; 3 has no code. Smallest rewiring: level 3: join bits 1 and 2/,
  },
  {
    id: 'F02',
    severity: 'warning',
    when: 'two codes mean one level',
    has: fan({}, [0, 1, 2, 3, 4, 4, null, null]),
    unless: 'each code has its own',
    hasNot: fan({}, [0, 1, 2, 3, 4, null, null, null]),
    says: /codes 4, 5 all mean level 4/,
  },
  {
    id: 'F03',
    severity: 'danger',
    when: 'a level joins contacts that must not close together',
    has: fan({ patterns: [[], [0], [1], [0, 1], [0, 2]] }),
    unless: "the pattern is the regulator's",
    hasNot: fan({}),
    says: /level 4 of Fan closes contacts 1, 3 together/,
  },
  {
    id: 'F04',
    severity: 'error',
    when: 'a fan changes steps in no time',
    has: fan({ gapMs: 0 }),
    unless: 'it keeps its gap',
    hasNot: fan({}),
    says: /at the moment/,
  },
  {
    id: 'F05',
    severity: 'warning',
    when: 'a point has fewer positions than the fan has levels',
    has: both(fan({}), (s) => {
      s.services[0]!.points[2]!.max = 2
    }),
    unless: 'it has as many',
    hasNot: fan({}),
    says: /3 positions \(0–2 by 1\), Fan has 5 levels/,
  },
  {
    id: 'W04',
    severity: 'error',
    when: 'contacts bounce for longer than they are settled',
    has: input({ bounceMs: 30 }),
    unless: 'they bounce for less',
    hasNot: input({ bounceMs: 20 }),
    says: /bounces for 30 ms \(measured\); its settle time is 25 ms/,
  },
  {
    id: 'W05',
    severity: 'warning',
    when: "a lead of 12 m hangs on the board's own pull",
    has: input({ cableMetres: 12 }),
    unless: 'a pull is fitted',
    hasNot: both(input({ cableMetres: 12 }), input({ pull: 'fitted' })),
    says: /12 m .* Fit 1.5 kΩ/,
  },
  {
    id: 'W06',
    severity: 'error',
    board: single,
    when: 'switches hang on the boxed board of the first revision',
    has: controller({ board: 'boxed-two-relay-r1', pins: {} }),
    unless: 'it is of the second',
    hasNot: controller({ board: 'boxed-two-relay-r2', pins: {} }),
    says: /external switches are unreliable/,
  },
  {
    id: 'L04',
    severity: 'danger',
    when: 'the neutral of a mains load is switched',
    has: (s) => {
      s.loads[0]!.contact = 'neutral'
    },
    unless: 'the load is low-voltage',
    hasNot: (s) => {
      s.loads[0]!.contact = 'neutral'
      s.loads[0]!.supply = 'low-voltage'
    },
    says: /switches the neutral of Bench lamp LED/,
  },
  {
    id: 'L06',
    severity: 'warning',
    when: 'a heater has no limit',
    has: (s) => {
      s.loads[0]!.type = 'heater'
    },
    unless: 'it has one',
    hasNot: both(
      (s) => {
        s.loads[0]!.type = 'heater'
      },
      channel({ maxOnMs: 60_000 }),
    ),
    says: /heats with 9 W/,
  },
  {
    id: 'M02',
    severity: 'warning',
    when: 'a point has far more positions than the fan has levels',
    has: both(fan({}), (s) => {
      s.services[0]!.points[2]!.max = 100
    }),
    unless: 'it has as many',
    hasNot: fan({}),
    says: /101 positions\), Fan has 5: 96 of 101/,
  },
])
