import { planAndWrite } from '../core/pins'
import { moduleIn } from '../core/boards'
import { EXAMPLE_TEMPLATES } from '../core/outputs'
import {
  emptySite,
  freshId,
  newController,
  newFeed,
  newInput,
  newLoad,
  newPulsed,
  newStepped,
  newSwitched,
  optoModule,
  parseSite,
  type Controller,
  type GestureBinding,
  type Input,
  type Load,
  type LoadId,
  type Part,
  type RelayModule,
  type RoomId,
  type Rule,
  type Sensor,
  type ServiceProfile,
  type Site,
  type SupplyPlan,
  type SwitchedChannel,
} from '../core/site'
import {
  addAppWay,
  addControl,
  addGroup,
  addHubWay,
  addKey,
  addLinkWays,
  addModePoint,
  addRemoteWay,
  addRule,
  addSensorPoint,
  addVoiceWay,
  addWallWay,
  freeChar,
  usualBindings,
} from '../core/ways'
import { usualFeed } from '../core/findings'
import { SERVICE_KINDS } from '../core/services'

/** The demo sites, made up: a small studio, the same before anyone looked at it, and Fernhollow Pottery. */

interface Wish {
  name: string
  room: string
  load: Partial<Load> & { watts: number }
  wall?: Input['kind']
  bindings?: GestureBinding[]
  app?: boolean
  hub?: boolean
  channel?: Partial<SwitchedChannel>
}

function addRooms(site: Site, names: readonly string[]): void {
  const wall = { switching: 'one-way', glow: false, neutral: true } as const
  for (const name of names) site.rooms.push({ id: name.toLowerCase().replace(/ /g, '-') as RoomId, name, wall })
}

/** A module at whose inputs somebody has looked: the indicator stands apart from the opto’s LED. */
const lookedAt = (ways: number): RelayModule => ({ ...optoModule(ways), chain: 'opto' })

function addController(
  site: Site,
  name: string,
  board: string,
  changes: Partial<Controller>,
  wishes: readonly Wish[],
): void {
  const controller = newController(site, name, board, {
    module: lookedAt([2, 4, 8].find((ways) => ways >= wishes.length)!),
    ...changes,
  })
  site.controllers.push(controller)
  for (const wish of wishes) {
    const channel = newSwitched(site, wish.name, controller, { room: wish.room as RoomId, ...wish.channel })
    const load = newLoad(`${channel.id.slice(0, 18)}-load` as LoadId, wish.load.name ?? `${wish.name}, fitted`, {
      type: 'led',
      ...wish.load,
    })
    site.loads.push(load)
    channel.load = load.id
    site.channels.push(channel)
    if (wish.wall) {
      const number = site.inputs.length + 1
      const input = newInput(site, `S${number}`, controller, wish.wall, {
        room: channel.room,
        volts: controller.board === 'eight-bit-5v' ? 5 : 3.3,
      })
      site.inputs.push(input)
      addWallWay(site, channel, input, wish.bindings ?? usualBindings(wish.wall))
    }
    if (wish.app) addAppWay(site, channel)
    if (wish.hub) addHubWay(site, channel)
  }
  planAndWrite(site, controller.id)
}

/**
 * A fan on the contacts of a regulator profile, worked by a rotary selector (its wiring as found) or by push switches.
 */
function addFan(
  site: Site,
  controllerId: string,
  name: string,
  profile: string,
  load: Wish['load'],
  knob: { bits: number; table: (number | null)[] } | null,
): void {
  const controller = site.controllers.find((candidate) => candidate.id === controllerId)!
  const fan = moduleIn(site, 'fan-regulator', profile)!
  const channel = newStepped(site, name, controller, fan, { powerUp: knob ? { policy: 'wall' } : { policy: 'last' } })
  const fitted = newLoad(`${channel.id.slice(0, 18)}-load` as LoadId, load.name!, load)
  site.loads.push(fitted)
  channel.load = fitted.id
  site.channels.push(channel)
  const volts = controller.board === 'eight-bit-5v' ? 5 : 3.3
  if (knob) {
    const input = newInput(site, 'R1', controller, 'selector', { room: controller.room, volts, ...knob })
    site.inputs.push(input)
    addWallWay(site, channel, input)
    addAppWay(site, channel)
    addHubWay(site, channel)
  } else {
    for (const action of ['up', 'down'] as const) {
      const input = newInput(site, `S${site.inputs.length + 1}`, controller, 'momentary', {
        room: controller.room,
        volts,
      })
      site.inputs.push(input)
      addWallWay(site, channel, input, [{ gesture: 'press', action }])
    }
  }
  controller.module!.ways = 8
  planAndWrite(site, controller.id)
}

const supply = (source: string): SupplyPlan => ({
  source,
  board: null,
  coils: null,
  own: null,
  reservoirMicrofarads: 0,
  coilsFromLogic: false,
})
const part = (id: string, profile: string, name: string): Part => ({ id: id as Part['id'], profile, name })

function checked(site: Site): Site {
  const parsed = parseSite(site)
  if (!parsed.ok) throw parsed.error
  return parsed.value
}

/** The newcomer's example: one controller, two lamps. */
export function studioCorner(): Site {
  const site = emptySite('Studio corner')
  addRooms(site, ['Studio'])
  addController(site, 'Corner', 'dual-core-wifi-30', { room: 'studio' as RoomId, mains: usualFeed(site) }, [
    {
      name: 'Desk lamp',
      room: 'studio',
      load: { watts: 9, name: 'Desk LED lamp' },
      wall: 'momentary',
      app: true,
      hub: true,
      channel: { powerUp: { policy: 'last' } },
    },
    { name: 'Easel lamp', room: 'studio', load: { watts: 14, name: 'Easel LED lamp' }, wall: 'rocker', app: true },
  ])
  return checked(site)
}

/** The same kind of corner with deliberate mistakes, so that each severity has something to show. */
export function beforeReview(): Site {
  const site = emptySite('Before review')
  addRooms(site, ['Studio', 'Hall'])
  addController(site, 'Corner', 'single-core-wifi-16', { room: 'studio' as RoomId, outage: null }, [
    {
      name: 'Desk lamp',
      room: 'studio',
      load: { watts: 9, name: 'Desk LED lamp' },
      wall: 'momentary',
      app: true,
      hub: true,
    },
    {
      name: 'Easel lamp',
      room: 'studio',
      load: { watts: 14, name: 'Easel LED lamp', contact: 'neutral' },
      wall: 'rocker',
      app: true,
      hub: true,
    },
    {
      name: 'Hall lamp',
      room: 'hall',
      load: { watts: 40, name: 'Hall ceiling lamp', type: 'incandescent' },
      app: true,
    },
  ])
  const [corner] = site.controllers
  const [service] = site.services
  const [hub] = site.hubs
  corner!.module!.coilJumper = 'fitted' // D01
  corner!.pins['out:desk-lamp'] = { pin: 'D8', locked: false } // P03: must be low at start, the module rests it high
  corner!.pins['out:easel-lamp'] = { pin: '4', locked: false } // P11: GPIO 4 or D4?
  corner!.pins['out:hall-lamp'] = { pin: 'TX', locked: false } // P04, P05
  site.inputs[0]!.pull = 'none' // P07
  service!.points[1]!.vp = service!.points[0]!.vp // M01
  service!.points[2]!.max = 100 // M02
  service!.widgets[0]!.inverted = true // M03, with the driver's own inversion
  service!.widgets[2]!.kind = 'push' // M04
  hub!.entities[1]!.topic = hub!.entities[0]!.topic // M12
  const rocker = site.ways.find((way) => way.kind === 'wall' && way.channel === 'easel-lamp')
  if (rocker?.kind === 'wall') rocker.bindings = [{ gesture: 'press', action: 'toggle' }] // W02
  const hall = site.channels[2]!
  // B04; B01: no wall switch
  if (hall.kind === 'switched') hall.powerUp = { policy: 'service', waitMs: 15_000, otherwise: null }
  service!.host = 'https://app.invalid/v1/' // C02
  for (const [i, name] of ['relay two', 'relay to', 'hall_light'].entries())
    addVoiceWay(site, site.channels[i]!).name = name // N02, N04
  addRemoteWay(site, site.channels[0]!)
  site.remotes[0]!.keys[0]!.repeat = { policy: 'repeat', everyMs: 200 } // I02
  return checked(site)
}

/** Fernhollow Pottery: every kind of channel and of way. */
export function fernhollow(): Site {
  const site = emptySite('Fernhollow Pottery')
  site.id = 'fernhollow' as Site['id']
  addRooms(site, ['Throwing room', 'Glaze room', 'Drying room', 'Shop window', 'Yard'])
  site.profiles.services.push(
    paidPlan('datapoint', { devices: 10, points: 40, widgets: 40, messagesMonth: 500_000 }),
    paidPlan('voice-bridge', { devices: 12 }),
  )
  throwingRoom(site)
  glazeRoom(site)
  yard(site)
  dryingRoom(site)
  shopWindow(site)
  spokenNames(site)
  groupsAndControls(site)
  site.templates.push(...EXAMPLE_TEMPLATES.map((template) => structuredClone(template)))
  const radioByHub = site.ways.find((way) => way.kind === 'hub' && way.channel === 'radio-socket')
  if (radioByHub?.kind === 'hub') radioByHub.feedback = 'silent'
  for (const controller of site.controllers) planAndWrite(site, controller.id)
  return checked(site)
}

const last: Partial<SwitchedChannel> = { powerUp: { policy: 'last' } }
const find = <T extends { id: string }>(list: readonly T[], id: string): T => list.find((item) => item.id === id)!

/** A shipped kind with the limits of the plan that the pottery pays for. */
function paidPlan(id: string, limits: Partial<ServiceProfile['limits']>): ServiceProfile {
  const kind = structuredClone(find(SERVICE_KINDS, id))
  return { ...kind, name: `${kind.name}, paid plan`, limits: { ...kind.limits, ...limits } }
}

function addSensor(
  site: Site,
  controller: string,
  part: string,
  name: string,
  quantity: Sensor['quantity'],
  unit: string,
  deadBand: number,
): Sensor {
  const sensor: Sensor = {
    id: freshId(site.sensors, name, 'sensor') as Sensor['id'],
    name,
    controller: controller as Sensor['controller'],
    part: part as Part['id'],
    quantity,
    unit,
    everyMs: 10_000,
    deadBand,
    staleMs: null,
  }
  site.sensors.push(sensor)
  return sensor
}

function throwingRoom(site: Site): void {
  addController(
    site,
    'Throwing',
    'dual-core-wifi-30',
    {
      room: 'throwing-room' as RoomId,
      supply: supply('boxed-5v-3a'),
      parts: [
        part('remote', 'infrared-receiver', 'Remote receiver'),
        part('air', 'temperature-humidity', 'Air sensor'),
      ],
      mains: usualFeed(site),
      enclosure: {
        volumeCubicInches: 120,
        conductors: [{ awg: 14, count: 14 }],
        internalClamps: true,
        yokes: 0,
        groundingConductors: 7,
        moduleCubicCentimetres: 420,
      },
    },
    [
      {
        name: 'Bench lights',
        room: 'throwing-room',
        load: { watts: 72, name: 'Bench LED battens' },
        wall: 'rocker',
        app: true,
        hub: true,
        channel: { ...last, essential: true },
      },
      {
        name: 'Shelf lights',
        room: 'throwing-room',
        load: { watts: 18, name: 'Shelf LED strip driver' },
        wall: 'rocker',
        app: true,
        hub: true,
        channel: last,
      },
      {
        name: 'Wedging lamp',
        room: 'throwing-room',
        load: { watts: 60, name: 'Wedging-table halogen', type: 'incandescent' },
        wall: 'momentary',
        app: true,
        hub: true,
      },
      {
        name: 'Compressor socket',
        room: 'throwing-room',
        load: { watts: 750, name: 'Compressor', type: 'motor', contactor: 'contactor-9a', suppression: 'snubber' },
        wall: 'momentary',
        app: true,
        channel: { minOffMs: 60_000, maxOnMs: 3_600_000 },
      },
      {
        name: 'Radio socket',
        room: 'throwing-room',
        load: { watts: 20, name: 'Radio', type: 'electronic' },
        app: true,
        hub: true,
      },
    ],
  )
  addFan(
    site,
    'throwing',
    'Clay-dust fan',
    'fan-capacitor-3',
    { watts: 45, name: 'Clay-dust fan motor', type: 'motor', suppression: 'snubber' },
    { bits: 3, table: [0, 1, 2, 3, 4, null, null, null] },
  )
  const channel = (id: string) => find(site.channels, id)
  for (const id of ['bench-lights', 'shelf-lights', 'wedging-lamp', 'radio-socket', 'clay-dust-fan'])
    addRemoteWay(site, channel(id))
  const remote = site.remotes[0]!
  addKey(site, remote, 'All off')
  const air = addSensor(site, 'throwing', 'air', 'Throwing air', 'temperature', '°C', 0.5)
  addSensorPoint(site, air)
  site.rules.push({
    kind: 'schedule',
    id: 'radio-evening' as Rule['id'],
    name: 'Radio off in the evening',
    channel: channel('radio-socket').id,
    days: [0, 1, 2, 3, 4, 5, 6],
    minute: 1_290,
    action: 'off',
    level: null,
  })
  for (const id of ['bench-lights', 'clay-dust-fan']) addLinkWays(site, channel(id), 'nearby')
}

function glazeRoom(site: Site): void {
  addController(
    site,
    'Glaze',
    'single-core-wifi-16',
    {
      room: 'glaze-room' as RoomId,
      supply: supply('boxed-5v-1a'),
      parts: [part('air', 'temperature-humidity', 'Booth air sensor')],
      mains: usualFeed(site),
    },
    [
      {
        name: 'Booth lights',
        room: 'glaze-room',
        load: { watts: 36, name: 'Booth LED panels' },
        wall: 'rocker',
        bindings: [{ gesture: 'follow', action: 'follow' }],
        app: true,
        hub: true,
        channel: { powerUp: { policy: 'wall' }, essential: true },
      },
      {
        name: 'Booth extractor',
        room: 'glaze-room',
        load: { watts: 120, name: 'Extractor fan', type: 'motor' },
        wall: 'momentary',
        app: true,
        hub: true,
      },
      {
        name: 'Sink heater',
        room: 'glaze-room',
        load: { watts: 1500, name: 'Sink water heater', type: 'heater' },
        wall: 'momentary',
        bindings: [
          { gesture: 'press', action: 'on' },
          { gesture: 'hold', action: 'off' },
        ],
        app: true,
        channel: { maxOnMs: 2_700_000 },
      },
    ],
  )
  const air = addSensor(site, 'glaze', 'air', 'Booth humidity', 'humidity', '%', 2)
  addSensorPoint(site, air)
  addModePoint(site, find(site.controllers, 'glaze'))
  addRule(site, find(site.channels, 'booth-extractor'))
}

function yard(site: Site): void {
  addController(
    site,
    'Yard',
    'eight-bit-5v',
    {
      room: 'yard' as RoomId,
      link: 'modem',
      mains: { ...usualFeed(site), fuseAmps: 2 },
      modem: { apn: 'things.invalid', joinS: 30 },
      serialLog: false,
      outage: 'local',
      supply: { ...supply('boxed-12v-2a'), board: 'buck-5v-3a', own: 'buck-4v-3a', reservoirMicrofarads: 3_300 },
      parts: [
        { ...part('modem', 'gsm-modem', 'Modem'), fitted: ['level-shifter'] },
        part('dusk', 'light-sensor', 'Light sensor'),
      ],
      heartbeatS: 3_600,
      sensorS: 900,
      module: {
        ...optoModule(4),
        active: 'high',
        input: 'transistor',
        coilVolts: 12,
        coilOhms: 400,
        coilJumper: 'none',
      },
    },
    [
      {
        name: 'Yard lights',
        room: 'yard',
        load: { watts: 90, name: 'Yard LED floods' },
        wall: 'rocker',
        app: true,
        channel: { maxOnMs: 50_400_000 },
      },
    ],
  )
  const controller = find(site.controllers, 'yard')
  const strike = newPulsed(site, 'Gate strike', controller, {
    room: 'yard' as RoomId,
    pulseMs: 3_000,
    lockoutMs: 5_000,
    door: { lock: 'fail-secure', place: 'outside', closesUnattended: false, warningDevice: false },
    // an empty relay between it and the mains of the lights
    relay: 3,
  })
  const fitted = newLoad('gate-strike-load' as LoadId, 'Strike of the yard gate, 12 V', {
    type: 'coil',
    watts: 6,
    supply: 'low-voltage',
    feed: { from: 'controller' },
    suppression: 'diode',
  })
  site.loads.push(fitted)
  strike.load = fitted.id
  site.channels.push(strike)
  const key = newInput(site, 'Key switch', controller, 'momentary', {
    room: 'yard' as RoomId,
    volts: 5,
    cableMetres: 4,
  })
  site.inputs.push(key)
  addWallWay(site, strike, key)
  addAppWay(site, strike)
  addSensor(site, 'yard', 'dusk', 'Yard daylight', 'light', '%', 5)
  addRule(site, find(site.channels, 'yard-lights'))
}

function dryingRoom(site: Site): void {
  addController(
    site,
    'Drying',
    'eight-bit-5v',
    {
      room: 'drying-room' as RoomId,
      link: 'none',
      serialLog: false,
      supply: supply('phone-charger-2a'),
      parts: [
        part('radio', 'short-range-serial-5v', 'Link to the coprocessor'),
        part('air', 'temperature-humidity', 'Rack sensor'),
      ],
      outage: null,
      mains: usualFeed(site),
      module: { ...lookedAt(4), coilJumper: 'fitted' },
    },
    [
      { name: 'Rack lights', room: 'drying-room', load: { watts: 24, name: 'Rack LED tubes' }, wall: 'rocker' },
      {
        name: 'Dehumidifier',
        room: 'drying-room',
        load: { watts: 260, name: 'Dehumidifier', type: 'motor', suppression: 'snubber' },
        wall: 'momentary',
        channel: { minOffMs: 180_000, powerUp: { policy: 'last' } },
      },
    ],
  )
  addFan(
    site,
    'drying',
    'Rack fan',
    'fan-capacitor-2',
    { watts: 30, name: 'Rack fan motor', type: 'motor', suppression: 'snubber' },
    null,
  )
  const coprocessor = newController(site, 'Drying radio', 'eight-pin-coprocessor', {
    room: 'drying-room' as RoomId,
    module: null,
    serialLog: false,
    supply: null,
  })
  site.controllers.push(coprocessor)
  for (const id of ['rack-lights', 'dehumidifier', 'rack-fan']) addLinkWays(site, find(site.channels, id), 'serial')
  site.links.at(-1)!.other = coprocessor.id
  site.links.at(-1)!.name = 'Drying line'
  addSensor(site, 'drying', 'air', 'Rack humidity', 'humidity', '%', 2)
  addRule(site, find(site.channels, 'dehumidifier'))
}

function shopWindow(site: Site): void {
  addController(
    site,
    'Window',
    'small-risc-v-wifi',
    { room: 'shop-window' as RoomId, supply: supply('boxed-5v-1a'), mains: usualFeed(site), module: lookedAt(4) },
    [],
  )
  const controller = find(site.controllers, 'window')
  const spots = newFeed(site, 'Window spots', controller, { essential: true })
  const opener = newPulsed(site, 'Shutter opener', controller, {
    pulseMs: 600,
    lockoutMs: 15_000,
    relay: 3,
    door: { lock: 'none', place: 'outside', closesUnattended: false, warningDevice: true },
  })
  for (const [channel, name, watts, more] of [
    [spots, 'Smart spot lamps', 40, { type: 'led' }],
    [opener, 'Roller shutter operator, start input', 0, { supply: 'dry' }],
  ] as const) {
    const load = newLoad(`${channel.id.slice(0, 18)}-load` as LoadId, name, { watts, ...more })
    site.loads.push(load)
    channel.load = load.id
    site.channels.push(channel)
  }
  const inputs = [
    newInput(site, 'Window switch', controller, 'momentary'),
    newInput(site, 'Shutter button', controller, 'momentary'),
    newInput(site, 'Shutter contact', controller, 'contact'),
  ]
  site.inputs.push(...inputs)
  opener.contact = inputs[2]!.id
  addWallWay(site, spots, inputs[0]!)
  addWallWay(site, opener, inputs[1]!)
  addHubWay(site, spots)
  addHubWay(site, opener)
}

/** Names that are spoken: those that must not be, such as the compressor, have none. */
function spokenNames(site: Site): void {
  const names: Record<string, string> = {
    'bench-lights': 'throwing bench',
    'wedging-lamp': 'wedging lamp',
    'radio-socket': 'radio',
    'clay-dust-fan': 'dust fan',
    'booth-lights': 'glaze booth',
    'booth-extractor': 'extractor',
  }
  for (const [channel, name] of Object.entries(names)) addVoiceWay(site, find(site.channels, channel)).name = name
}

function groupsAndControls(site: Site): void {
  const group = addGroup(site, 'Throwing room, all', [
    'bench-lights',
    'shelf-lights',
    'wedging-lamp',
    'radio-socket',
    'clay-dust-fan',
  ])
  const remote = site.remotes[0]!
  addControl(site, {
    kind: 'group',
    group: group.id,
    source: { kind: 'remote', remote: remote.id, key: find(remote.keys, 'all-off').id },
    action: 'off',
  })
  const line = site.links.find((link) => link.kind === 'serial')!
  const drying = find(site.controllers, 'drying').id
  addControl(site, {
    kind: 'controller',
    controller: drying,
    source: { kind: 'link', link: line.id, char: freeChar(site, drying) },
    action: 'auto',
  })
  addControl(site, {
    kind: 'controller',
    controller: drying,
    source: { kind: 'link', link: line.id, char: freeChar(site, drying).toLowerCase() },
    action: 'manual',
  })
}
