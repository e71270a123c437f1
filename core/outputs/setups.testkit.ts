import { FANS } from '../boards'
import { usualFeed } from '../findings'
import { planAndWrite } from '../pins'
import {
  emptySite,
  newController,
  newFeed,
  newInput,
  newLoad,
  newPaired,
  newPulsed,
  newStepped,
  newSwitched,
  optoModule,
  parseSite,
  type Channel,
  type Controller,
  type Load,
  type LoadId,
  type PartId,
  type Site,
} from '../site'
import { addLinkWays, addWallWay } from '../ways'

/** Small sites as they are built at a bench, each with the wiring that it is about. */

type Supply = NonNullable<Controller['supply']>
const fedBy = (source: string, more: Partial<Supply> = {}): Supply => ({
  source,
  board: null,
  coils: null,
  own: null,
  reservoirMicrofarads: 0,
  coilsFromLogic: false,
  ...more,
})
export const part = (profile: string, name: string, fitted?: Controller['parts'][number]['fitted']) => ({
  id: name.toLowerCase().slice(0, 12) as PartId,
  profile,
  name,
  ...(fitted ? { fitted } : {}),
})

/** An empty site with one controller, fed and protected. */
export function bench(changes: Partial<Controller> = {}, volts: 120 | 230 = 230): { site: Site; box: Controller } {
  const site = emptySite('Bench')
  site.mains = volts === 230 ? { volts, hertz: 50, phases: 'one' } : { volts, hertz: 60, phases: 'split' }
  const board = changes.board ?? 'dual-core-wifi-30'
  const box = newController(site, 'Box', board, {
    module: { ...optoModule(4), chain: 'opto' },
    supply: fedBy('boxed-5v-3a'),
    mains: { ...usualFeed(site), fuseAmps: 10 },
    ...changes,
  })
  site.controllers.push(box)
  return { site, box }
}

export function hang<C extends Channel>(site: Site, channel: C, load: Partial<Load> | null): C {
  if (load) {
    const id = `${channel.id}-load`.slice(0, 24) as LoadId
    site.loads.push(newLoad(id, `Load of ${channel.name}`, load))
    channel.load = id
  }
  site.channels.push(channel)
  return channel
}

export function planned(site: Site): Site {
  for (const { id } of site.controllers) planAndWrite(site, id)
  const parsed = parseSite(JSON.parse(JSON.stringify(site)))
  if (!parsed.ok) throw parsed.error
  return parsed.value
}

type Build = (site: Site, box: Controller) => void
const made = (build: Build, changes: Partial<Controller> = {}, volts: 120 | 230 = 230) => {
  const { site, box } = bench(changes, volts)
  build(site, box)
  return planned(site)
}

const lamp: Build = (site, box) => {
  const channel = hang(site, newSwitched(site, 'Lamp', box), { type: 'led', watts: 20 })
  const input = newInput(site, 'Hall switch', box, 'rocker')
  site.inputs.push(input)
  addWallWay(site, channel, input)
}
const STRIKE = { type: 'coil', watts: 6, supply: 'low-voltage', suppression: 'diode' } as const
const strike =
  (lock: 'fail-safe' | 'fail-secure'): Build =>
  (site, box) => {
    const door = { lock, place: 'inside', closesUnattended: false, warningDevice: false } as const
    hang(site, newPulsed(site, 'Door', box, { door }), STRIKE)
  }
const shutter: Build = (site, box) =>
  void hang(site, newPaired(site, 'Shutter', box), { type: 'motor', watts: 120, suppression: 'snubber' })

const AWAY = { link: 'wifi', module: null, supply: null, mains: null } as const
const pair: Build = (site, box) => {
  const channel = hang(site, newSwitched(site, 'Lamp', box), { type: 'led', watts: 20 })
  site.controllers.push(newController(site, 'Radio', 'eight-pin-coprocessor', AWAY))
  addLinkWays(site, channel, 'serial')
  site.links[0]!.other = site.controllers[1]!.id
}

const transistor12V: Controller['module'] = {
  ...optoModule(2),
  input: 'transistor',
  active: 'high',
  coilVolts: 12,
  coilOhms: 400,
  coilJumper: 'none',
}

export const SETUPS: Readonly<Record<string, () => Site>> = {
  lamp: () => made(lamp),
  'heater with contactor': () =>
    made(
      (site, box) =>
        void hang(site, newSwitched(site, 'Heater', box, { maxOnMs: 3_600_000 }), {
          type: 'heater',
          watts: 3_500,
          contactor: 'contactor-9a',
          suppression: 'snubber',
        }),
    ),
  'capacitor fan': () =>
    made(
      (site, box) =>
        void hang(site, newStepped(site, 'Fan', box, FANS[0]!), { type: 'motor', watts: 45, suppression: 'snubber' }),
    ),
  'fail-secure strike': () => made(strike('fail-secure')),
  'fail-safe strike': () => made(strike('fail-safe')),
  'button input of an opener': () =>
    made((site, box) => void hang(site, newPulsed(site, 'Garage', box), { supply: 'dry' })),
  shutter: () => made(shutter),
  feed: () => made((site, box) => void hang(site, newFeed(site, 'Spots', box), { type: 'led', watts: 40 })),
  'boxed module': () => made(lamp, { board: 'boxed-two-relay-r2', module: null, supply: null }),
  'boxed module behind a wall switch': () => made(lamp, { board: 'boxed-in-wall', module: null, supply: null }),
  modem: () =>
    made(lamp, {
      board: 'eight-bit-5v',
      link: 'modem',
      modem: { apn: 'things.invalid', joinS: 30 },
      serialLog: false,
      module: transistor12V,
      supply: fedBy('boxed-12v-2a', { board: 'buck-5v-3a', own: 'buck-4v-3a', reservoirMicrofarads: 2_200 }),
      parts: [part('gsm-modem', 'Modem', ['level-shifter']), part('small-display', 'Display')],
    }),
  pair: () =>
    made(pair, {
      board: 'eight-bit-5v',
      link: 'none',
      serialLog: false,
      parts: [part('short-range-serial-5v', 'Line'), part('buzzer', 'Buzzer', ['transistor'])],
    }),
  'bare relays': () =>
    made(lamp, { module: { ...optoModule(1), active: 'high', input: 'transistor', driver: 'transistor-and-diode' } }),
  'long sensor cable': () =>
    made((site, box) => {
      lamp(site, box)
      Object.assign(site.inputs[0]!, { cableMetres: 20, pull: 'fitted' })
      box.parts.push(part('temperature-humidity', 'Air'), part('status-light', 'Light'), part('tilt-sensor', 'Tilt'))
    }),
  'loads of different supplies': () =>
    made((site, box) => {
      hang(site, newSwitched(site, 'Strip', box), { type: 'led', watts: 24, supply: 'low-voltage', volts: 24 })
      const feed = { from: 'shared', name: 'Garden supply' } as const
      for (const name of ['Pond', 'Path'])
        hang(site, newSwitched(site, name, box), { type: 'led', watts: 10, supply: 'low-voltage', current: 'ac', feed })
      hang(site, newSwitched(site, 'Flash', box), {
        type: 'led',
        watts: 2,
        supply: 'low-voltage',
        volts: 5,
        feed: { from: 'controller' },
      })
    }),
  'a site of 120 V': () =>
    made(
      (site, box) => {
        lamp(site, box)
        shutter(site, box)
      },
      {},
      120,
    ),
  'a heater between two lines': () =>
    made(
      (site, box) =>
        void hang(site, newSwitched(site, 'Dryer', box, { maxOnMs: 3_600_000 }), {
          type: 'heater',
          watts: 3_000,
          acrossLines: true,
          contactor: 'contactor-25a',
          suppression: 'snubber',
        }),
      {},
      120,
    ),
  'a strip on a supply that another relay switches': () =>
    made((site, box) => {
      const feed = { from: 'load', load: 'adapter-load' as LoadId } as const
      hang(site, newSwitched(site, 'Strip', box), { type: 'led', watts: 24, supply: 'low-voltage', volts: 24, feed })
      hang(site, newSwitched(site, 'Adapter', box), { type: 'electronic', watts: 60 })
    }),
  'an old switch beside the contact': () =>
    made((site, box) => {
      hang(site, newSwitched(site, 'Hall', box), { type: 'led', watts: 20, parallelSwitch: true })
    }),
  'the board’s own button': () =>
    made(
      (site, box) => {
        lamp(site, box)
        Object.assign(site.inputs[0]!, { ofBoard: true })
      },
      { board: 'single-core-wifi-16' },
    ),
  'a load that nobody named': () => made((site, box) => void hang(site, newSwitched(site, 'Thing', box), null)),
}
