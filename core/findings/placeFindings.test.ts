import { both, controller, load, pin, single, supply, type Change } from './changes.testkit'
import { sentences, type Sentence } from './sentences.testkit'
import { addGroup, addGroupEntity, addGroupName, addGroupPoint, addWallWay, firstVoiceService } from '../ways'
import { newInput, newSwitched, plainCopy, type OldWiring, type RoomId, type Site } from '../site'
import { newController } from '../site'
import { planAndWrite } from '../pins'
import { BOARDS } from '../boards'

/** What the place brings, what a board has of its own, and ways to groups: each fault beside its nearest neighbour. */

const wall =
  (changes: Partial<OldWiring>): Change =>
  (s) => {
    s.rooms[0]!.wall = { switching: 'one-way', glow: false, neutral: true, ...changes }
    s.inputs[0]!.room = s.rooms[0]!.id
    s.controllers[0]!.room = s.rooms[0]!.id as RoomId
  }
const rocker =
  (gesture: 'follow' | 'flip'): Change =>
  (s) => {
    const { id, name, room } = s.inputs[0]!
    s.inputs[0] = { ...newInput(s, name, s.controllers[0]!, 'rocker'), id, room }
    const way = s.ways.find((one) => one.kind === 'wall')!
    if (way.kind === 'wall')
      way.bindings = [gesture === 'follow' ? { gesture, action: 'follow' } : { gesture, action: 'toggle' }]
  }
const secondSwitch: Change = (s) => {
  s.channels.forEach((channel, i) => {
    const second = newInput(s, `S${8 + i}`, s.controllers[0]!, s.inputs[i]!.kind)
    s.inputs.push(second)
    addWallWay(s, channel, second)
  })
  planAndWrite(s, 'corner')
}
const boxed: Change = (s) => {
  Object.assign(s.controllers[0]!, { board: 'boxed-in-wall', module: null, supply: null, pins: {} })
}
const FRAMES = {
  baud: 19_200,
  relays: [
    { off: 'a5 01 00 a6', on: 'a5 01 01 a7' },
    { off: 'a5 02 00 a7', on: 'a5 02 01 a8' },
  ],
}
/** The box of which a second chip works the relays, with what its maker has read off its line. */
const told =
  (frames: typeof FRAMES | undefined, serialLog: boolean): Change =>
  (s) => {
    const shipped = BOARDS.find(({ id }) => id === 'boxed-two-relay-r1')!
    s.profiles.boards.push({
      ...plainCopy(shipped),
      id: 'mine',
      boxed: { ...plainCopy(shipped.boxed!), ...(frames ? { frames } : {}) },
    })
    Object.assign(s.controllers[0]!, { board: 'mine', module: null, supply: null, pins: {}, serialLog })
    for (const channel of s.channels) channel.active = 'high'
    s.ways = s.ways.filter(({ kind }) => kind !== 'wall')
    s.inputs = []
    planAndWrite(s, 'corner')
  }
const split: Change = (s) => {
  Object.assign(s.mains, { volts: 120, hertz: 60, phases: 'split' })
}
const across = both(split, load({ acrossLines: true }))
const watts =
  (each: number): Change =>
  (s) =>
    s.loads.forEach((one) => Object.assign(one, { watts: each, type: 'heater' }))
const ownButton =
  (label: string): Change =>
  (s) => {
    s.inputs[0]!.ofBoard = true
    s.controllers[0]!.pins[`in:${s.inputs[0]!.id}`] = { pin: label, locked: true }
  }
const evening =
  (...more: ((site: Site) => void)[]): Change =>
  (s) => {
    addGroup(
      s,
      'Evening',
      s.channels.map(({ id }) => id),
    )
    for (const one of more) one(s)
  }
const evenings = (s: Site) => s.groups.find(({ id }) => id === 'evening')!
const elsewhere = (s: Site): void => {
  const attic = newController(s, 'Attic', 'dual-core-wifi-30')
  s.controllers.push(attic)
  const lamp = newSwitched(s, 'Attic lamp', attic)
  s.channels.push(lamp)
  evenings(s).members.push(lamp.id)
}
const point = (on: string) => (s: Site) => {
  const target = s.controllers.find(({ id }) => id === on)!
  addGroupPoint(s, evenings(s), target.id)
}

const ROWS: Sentence[] = [
  {
    id: 'W09',
    severity: 'error',
    when: 'one of two switches is followed',
    has: both(wall({ switching: 'two-way' }), rocker('follow'), secondSwitch),
    unless: 'it toggles',
    hasNot: both(wall({ switching: 'two-way' }), rocker('flip'), secondSwitch),
    says: /two switches work the lamp there; .* follows S1/,
  },
  {
    id: 'W10',
    severity: 'warning',
    when: 'a lamp with two switches has one input',
    has: wall({ switching: 'intermediate' }),
    unless: 'it has two',
    hasNot: both(wall({ switching: 'two-way' }), secondSwitch),
    says: /three switches or more .* one input, S1/,
  },
  {
    id: 'W11',
    severity: 'warning',
    when: 'a glow lamp stays beside the contact',
    has: both(wall({ glow: true }), load({ parallelSwitch: true })),
    unless: 'it is on an input',
    hasNot: wall({ glow: true }),
    says: /has a glow lamp, and stays beside the contact/,
  },
  {
    id: 'W11',
    severity: 'error',
    when: 'a glow lamp is at a terminal that stands at mains',
    has: both(wall({ glow: true }), boxed),
    unless: 'the switch has none',
    hasNot: both(wall({}), boxed),
    says: /switch terminal of .* stands at mains/,
  },
  {
    id: 'L22',
    severity: 'error',
    when: 'the box has no neutral',
    has: both(wall({ neutral: false }), supply({})),
    unless: 'it has one',
    hasNot: both(wall({}), supply({})),
    says: /no neutral in the box where Corner/,
  },
  {
    id: 'L23',
    severity: 'error',
    when: 'a load hangs between two lines of one',
    has: load({ acrossLines: true, contactor: 'contactor-25a' }),
    unless: 'there are two',
    hasNot: both(across, load({ contactor: 'contactor-25a' })),
    says: /one line of 230 V/,
  },
  {
    id: 'L24',
    severity: 'danger',
    when: 'a relay opens one of two lines',
    has: across,
    unless: 'a contactor opens both',
    hasNot: both(across, load({ contactor: 'contactor-25a' })),
    says: /between two lines, 240 V/,
  },
  {
    id: 'L25',
    severity: 'note',
    when: 'two heaters of 1.4 kW hang on relays of 10 A',
    has: watts(1_400),
    unless: 'they are of 1 kW',
    hasNot: watts(1_000),
    says: /take 12.2 A together; .* 10 A of one relay/,
  },
  {
    id: 'L26',
    severity: 'note',
    when: 'a strip hangs on a supply that another channel switches',
    has: load({ supply: 'low-voltage', feed: { from: 'load', load: 'shelf-load' } }),
    unless: 'it has its own',
    hasNot: load({ supply: 'low-voltage', feed: { from: 'own' } }),
    says: /hangs on Shelf lamp LED, which Shelf lamp switches/,
  },
  {
    id: 'L27',
    severity: 'error',
    when: 'it hangs on itself',
    has: load({ supply: 'low-voltage', feed: { from: 'load', load: 'bench-load' } }),
    unless: 'another channel switches it',
    hasNot: load({ supply: 'low-voltage', feed: { from: 'load', load: 'shelf-load' } }),
    says: /no other channel of its controller switches/,
  },
  {
    id: 'P20',
    severity: 'error',
    when: 'a relay hangs on the pin of the status light',
    has: both(controller({ statusLight: true }), pin('out:bench-lamp', 'D2')),
    unless: 'it hangs elsewhere',
    hasNot: both(controller({ statusLight: true }), pin('out:bench-lamp', 'D27')),
    says: /drives the status light and Bench lamp/,
  },
  {
    id: 'P21',
    severity: 'warning',
    when: 'a board without a known light is to show its link',
    has: controller({ statusLight: true, board: 'm0-plus-wifi', pins: {} }),
    unless: 'it has one',
    hasNot: controller({ statusLight: true }),
    says: /has no known light/,
  },
  {
    id: 'P22',
    severity: 'error',
    when: 'the board’s own button is said to be on another pin',
    has: ownButton('D5'),
    unless: 'it is where the button is',
    hasNot: ownButton('D3'),
    says: /the button FLASH .* is on D5/,
    board: single,
  },
  {
    id: 'P06',
    severity: 'error',
    when: 'a relay hangs on a line of the flash memory',
    has: both(controller({ board: 'single-core-wifi-30' }), pin('out:bench-lamp', 'SD3')),
    unless: 'its two-line mode is chosen',
    hasNot: both(controller({ board: 'single-core-wifi-30', twoLineFlash: true }), pin('out:bench-lamp', 'SD3')),
    says: /GPIO 10 is a line of the flash memory, unless its two-line mode/,
    board: single,
  },
  {
    id: 'P18',
    severity: 'error',
    when: 'nobody knows how the relays of a box are told',
    has: told(undefined, false),
    unless: 'its profile holds their frames',
    hasNot: told(FRAMES, false),
    says: /are on no pin: a second chip drives them/,
  },
  {
    id: 'P23',
    severity: 'error',
    when: 'the log is on the line that tells the relays',
    has: told(FRAMES, true),
    unless: 'it is silent',
    hasNot: told(FRAMES, false),
    says: /writes its log to the serial line that drives the relays/,
  },
  {
    id: 'M20',
    severity: 'error',
    when: 'a channel has the topic of a group',
    has: evening(
      (s) => addGroupEntity(s, evenings(s)),
      (s) => (s.hubs[0]!.entities[0]!.topic = 'evening'),
    ),
    unless: 'it has another',
    hasNot: evening((s) => addGroupEntity(s, evenings(s))),
    says: /topic “evening”, which the group Evening has too/,
  },
  {
    id: 'M21',
    severity: 'warning',
    when: 'a group has members where it has no point',
    has: evening(elsewhere, point('corner')),
    unless: 'each controller has one',
    hasNot: evening(elsewhere, point('corner'), point('attic')),
    says: /no point of it is on Attic/,
  },
  {
    id: 'M22',
    severity: 'error',
    when: 'a group’s name goes by nothing',
    has: evening((s) => addGroupName(evenings(s), firstVoiceService(s))),
    unless: 'the group has an entity',
    hasNot: evening(
      (s) => addGroupEntity(s, evenings(s)),
      (s) => addGroupName(evenings(s), firstVoiceService(s)),
    ),
    says: /“evening” needs a point of Evening, which has none/,
  },
  {
    id: 'M23',
    severity: 'error',
    when: 'a scene asks for a level that a lamp does not have',
    has: evening((s) => (evenings(s).levels = { 'bench-lamp': 4 })),
    unless: 'it has it',
    hasNot: evening((s) => (evenings(s).levels = { 'bench-lamp': 0 })),
    says: /sets Bench lamp to level 4; its highest is 1/,
  },
]

sentences(ROWS)
