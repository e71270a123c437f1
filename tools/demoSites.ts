import { planAndWrite } from '../core/bench'
import { moduleIn } from '../core/boards'
import { emptySite, newController, newInput, newLoad, newStepped, newSwitched, optoModule, parseSite, type Controller, type GestureBinding, type Input, type Load, type LoadId, type Part, type RoomId, type SupplyPlan, type Site, type SwitchedChannel } from '../core/site'
import { addAppWay, addHubWay, addWallWay, usualBindings } from '../core/ways'

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
  for (const name of names) site.rooms.push({ id: name.toLowerCase().replace(/ /g, '-') as RoomId, name })
}

function addController(site: Site, name: string, board: string, changes: Partial<Controller>, wishes: readonly Wish[]): void {
  const controller = newController(site, name, board, { module: optoModule(Math.max(2, wishes.length)), ...changes })
  site.controllers.push(controller)
  for (const wish of wishes) {
    const channel = newSwitched(site, wish.name, controller, { room: wish.room as RoomId, ...wish.channel })
    const load = newLoad(`${channel.id.slice(0, 18)}-load` as LoadId, wish.load.name ?? `${wish.name}, fitted`, { type: 'led', ...wish.load })
    site.loads.push(load)
    channel.load = load.id
    site.channels.push(channel)
    if (wish.wall) {
      const number = site.inputs.length + 1
      const input = newInput(site, `S${number}`, controller, wish.wall, { room: channel.room, volts: controller.board === 'eight-bit-5v' ? 5 : 3.3 })
      site.inputs.push(input)
      addWallWay(site, channel, input, wish.bindings ?? usualBindings(wish.wall))
    }
    if (wish.app) addAppWay(site, channel)
    if (wish.hub) addHubWay(site, channel)
  }
  planAndWrite(site, controller.id)
}

/** A fan on the contacts of a regulator profile, worked by a rotary selector (its wiring as found) or by push switches. */
function addFan(site: Site, controllerId: string, name: string, profile: string, load: Wish['load'], knob: { bits: number; table: (number | null)[] } | null): void {
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
      const input = newInput(site, `S${site.inputs.length + 1}`, controller, 'momentary', { room: controller.room, volts })
      site.inputs.push(input)
      addWallWay(site, channel, input, [{ gesture: 'press', action }])
    }
  }
  controller.module!.ways = 8
  planAndWrite(site, controller.id)
}

const supply = (source: string): SupplyPlan => ({ source, board: null, coils: null, own: null, reservoirMicrofarads: 0, coilsFromLogic: false })
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
  addController(site, 'Corner', 'dual-core-wifi-30', { room: 'studio' as RoomId }, [
    { name: 'Desk lamp', room: 'studio', load: { watts: 9, name: 'Desk LED lamp' }, wall: 'momentary', app: true, hub: true, channel: { powerUp: { policy: 'last' } } },
    { name: 'Easel lamp', room: 'studio', load: { watts: 14, name: 'Easel LED lamp' }, wall: 'rocker', app: true },
  ])
  return checked(site)
}

/** The same kind of corner with deliberate mistakes, so that each severity has something to show. */
export function beforeReview(): Site {
  const site = emptySite('Before review')
  addRooms(site, ['Studio', 'Hall'])
  addController(site, 'Corner', 'single-core-wifi-16', { room: 'studio' as RoomId, outage: null }, [
    { name: 'Desk lamp', room: 'studio', load: { watts: 9, name: 'Desk LED lamp' }, wall: 'momentary', app: true, hub: true },
    { name: 'Easel lamp', room: 'studio', load: { watts: 14, name: 'Easel LED lamp', contact: 'neutral' }, wall: 'rocker', app: true, hub: true },
    { name: 'Hall lamp', room: 'hall', load: { watts: 40, name: 'Hall ceiling lamp', type: 'incandescent' }, app: true },
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
  site.channels[2]!.powerUp = { policy: 'service', waitMs: 15_000, otherwise: null } // B04; B01: no wall switch
  return checked(site)
}

/** Fernhollow Pottery, as far as the kinds of channel exist. */
export function fernhollow(): Site {
  const site = emptySite('Fernhollow Pottery')
  site.id = 'fernhollow' as Site['id']
  addRooms(site, ['Throwing room', 'Glaze room', 'Drying room', 'Shop window', 'Yard'])
  const last: Partial<SwitchedChannel> = { powerUp: { policy: 'last' } }
  addController(site, 'Throwing', 'dual-core-wifi-30', { room: 'throwing-room' as RoomId, supply: supply('boxed-5v-3a'), parts: [part('remote', 'infrared-receiver', 'Remote receiver'), part('air', 'temperature-humidity', 'Air sensor')], enclosure: { volumeCubicInches: 120, conductors: [{ awg: 14, count: 14 }], internalClamps: true, yokes: 0, groundingConductors: 7, moduleCubicCentimetres: 420, breakerAmps: 15 } }, [
    { name: 'Bench lights', room: 'throwing-room', load: { watts: 72, name: 'Bench LED battens' }, wall: 'rocker', app: true, hub: true, channel: { ...last, essential: true } },
    { name: 'Shelf lights', room: 'throwing-room', load: { watts: 18, name: 'Shelf LED strip driver' }, wall: 'rocker', app: true, hub: true, channel: last },
    { name: 'Wedging lamp', room: 'throwing-room', load: { watts: 60, name: 'Wedging-table halogen', type: 'incandescent' }, wall: 'momentary', app: true, hub: true },
    { name: 'Compressor socket', room: 'throwing-room', load: { watts: 750, name: 'Compressor', type: 'motor', contactor: true }, wall: 'momentary', app: true, channel: { minOffMs: 60_000, maxOnMs: 3_600_000 } },
    { name: 'Radio socket', room: 'throwing-room', load: { watts: 20, name: 'Radio', type: 'electronic' }, app: true, hub: true },
  ])
  addFan(site, 'throwing', 'Clay-dust fan', 'fan-capacitor-3', { watts: 45, name: 'Clay-dust fan motor', type: 'motor', suppression: 'snubber' }, { bits: 3, table: [0, 1, 2, 3, 4, null, null, null] })
  addController(site, 'Glaze', 'single-core-wifi-16', { room: 'glaze-room' as RoomId, supply: supply('boxed-5v-1a') }, [
    { name: 'Booth lights', room: 'glaze-room', load: { watts: 36, name: 'Booth LED panels' }, wall: 'rocker', bindings: [{ gesture: 'follow', action: 'follow' }], app: true, hub: true, channel: { powerUp: { policy: 'wall' }, essential: true } },
    { name: 'Booth extractor', room: 'glaze-room', load: { watts: 120, name: 'Extractor fan', type: 'motor' }, wall: 'momentary', app: true, hub: true },
    { name: 'Sink heater', room: 'glaze-room', load: { watts: 1500, name: 'Sink water heater', type: 'heater' }, wall: 'momentary', bindings: [{ gesture: 'press', action: 'on' }, { gesture: 'hold', action: 'off' }], app: true, channel: { maxOnMs: 2_700_000 } },
  ])
  addController(site, 'Yard', 'eight-bit-5v', { room: 'yard' as RoomId, link: 'none', serialLog: false, supply: { ...supply('boxed-12v-2a'), board: 'buck-5v-3a', own: 'buck-4v-3a', reservoirMicrofarads: 3_300 }, parts: [part('modem', 'gsm-modem', 'Modem'), part('dusk', 'light-sensor', 'Light sensor')], outage: null, module: { ...optoModule(2), active: 'high', input: 'transistor', coilVolts: 12, coilOhms: 400, coilJumper: 'none' } }, [
    { name: 'Yard lights', room: 'yard', load: { watts: 90, name: 'Yard LED floods' }, wall: 'rocker', channel: { maxOnMs: 14_400_000 } },
  ])
  addController(site, 'Drying', 'eight-bit-5v', { room: 'drying-room' as RoomId, link: 'none', supply: supply('phone-charger-2a'), parts: [part('radio', 'short-range-serial-5v', 'Link to the coprocessor'), part('air', 'temperature-humidity', 'Rack sensor')], outage: null, module: { ...optoModule(4), coilJumper: 'fitted' } }, [
    { name: 'Rack lights', room: 'drying-room', load: { watts: 24, name: 'Rack LED tubes' }, wall: 'rocker' },
    { name: 'Dehumidifier', room: 'drying-room', load: { watts: 260, name: 'Dehumidifier', type: 'motor', suppression: 'snubber' }, wall: 'momentary', channel: { minOffMs: 180_000, powerUp: { policy: 'last' } } },
  ])
  addFan(site, 'drying', 'Rack fan', 'fan-capacitor-2', { watts: 30, name: 'Rack fan motor', type: 'motor', suppression: 'snubber' }, null)
  addController(site, 'Window', 'small-risc-v-wifi', { room: 'shop-window' as RoomId, supply: supply('boxed-5v-1a') }, [
    { name: 'Window spots', room: 'shop-window', load: { watts: 40, name: 'Spot lamps' }, wall: 'rocker', app: true, hub: true, channel: { powerUp: { policy: 'on' }, essential: true } },
  ])
  const radioByHub = site.ways.find((way) => way.kind === 'hub' && way.channel === 'radio-socket')
  if (radioByHub?.kind === 'hub') radioByHub.feedback = 'silent'
  return checked(site)
}
