import type { ChannelId, ControllerId, InputId, LoadId, RoomId, SiteId } from './ids'
import type { Channel, SteppedChannel } from './channels'
import { KINDS, type ChannelOf, type CommonShape } from './kinds'
import { plainCopy } from './plain'
import type { Controller, Input, Load, RelayModule, RockerInput, Site } from './schema'
import { SITE_VERSION } from './limits'
import { freshId, idFromName } from './names'

/** An empty site. */
export function emptySite(
  name: string,
  taken: Iterable<string> = [],
  mains: Site['mains'] = { volts: 230, hertz: 50, phases: 'one' },
): Site {
  return {
    format: 'vestibule-site',
    version: SITE_VERSION,
    id: idFromName<string>(name, taken, 'site') as SiteId,
    name,
    mains: { ...mains },
    rooms: [],
    controllers: [],
    channels: [],
    groups: [],
    inputs: [],
    sensors: [],
    loads: [],
    services: [],
    hubs: [],
    remotes: [],
    links: [],
    rules: [],
    ways: [],
    controls: [],
    templates: [],
    day: { changes: 20 },
    accepted: [],
    prices: {},
    profiles: { boards: [], modules: [], services: [] },
  }
}

/** The usual low-active opto relay module with its jumper removed, as a 3.3 V board wants it (common practice). */
export const optoModule = (ways: number): RelayModule => ({
  ways,
  active: 'low',
  input: 'opto',
  coilVolts: 5,
  coilOhms: 70,
  coilJumper: 'removed',
  inputOhms: 1_000,
  driver: 'module',
  contactAmps: 10,
  contactVolts: 250,
})

/** A controller with the defaults of docs/behaviour.md. */
export function newController(site: Site, name: string, board: string, changes: Partial<Controller> = {}): Controller {
  return {
    id: freshId(site.controllers, name, 'controller') as ControllerId,
    name,
    room: null,
    board,
    module: optoModule(2),
    serialLog: true,
    link: 'wifi',
    modem: null,
    auto: { start: 'auto', hand: 'yield', yieldMinutes: 30 },
    outage: 'local',
    staggerMs: 150,
    storeMs: 2000,
    minReportMs: 200,
    heartbeatS: 300,
    sensorS: 60,
    parts: [],
    supply: null,
    enclosure: null,
    mains: null,
    pins: {},
    ...changes,
  }
}

/** A channel of any kind, with the usual answers and the level that its module wants. */
export function newChannel<Name extends Channel['kind']>(
  site: Site,
  name: string,
  controller: Controller,
  kind: Name,
  changes: Partial<ChannelOf<Name>> = {},
): ChannelOf<Name> {
  const common: CommonShape = {
    id: idFromName<ChannelId>(
      name,
      site.channels.map((channel) => channel.id),
      'channel',
    ),
    name,
    controller: controller.id,
    room: controller.room,
    load: null,
    active: controller.module?.active ?? 'high',
    essential: false,
  }
  return { ...KINDS[kind].begin(common), ...changes } as ChannelOf<Name>
}

type Maker<Name extends Channel['kind']> = (
  site: Site,
  name: string,
  controller: Controller,
  changes?: Partial<ChannelOf<Name>>,
) => ChannelOf<Name>
const maker =
  <Name extends Channel['kind']>(kind: Name): Maker<Name> =>
  (site, name, controller, changes) =>
    newChannel(site, name, controller, kind, changes)

export const newSwitched = maker('switched')
export const newPulsed = maker('pulsed')
export const newPaired = maker('paired')
export const newFeed = maker('feed')

/** A stepped channel on a fan regulator's contacts (profile: contacts, patterns, what must never be, gap). */
export const newStepped = (
  site: Site,
  name: string,
  controller: Controller,
  fan: Pick<SteppedChannel, 'contacts' | 'patterns' | 'never' | 'gapMs' | 'capacitors'>,
  changes: Partial<SteppedChannel> = {},
): SteppedChannel =>
  newChannel(site, name, controller, 'stepped', {
    contacts: fan.contacts,
    patterns: plainCopy(fan.patterns),
    never: plainCopy(fan.never),
    gapMs: fan.gapMs,
    ...(fan.capacitors ? { capacitors: [...fan.capacitors] } : {}),
    ...changes,
  })

/** A switch to ground with the board's own pull-up, settled in 25 ms. */
export function newInput(
  site: Site,
  name: string,
  controller: Controller,
  kind: Input['kind'],
  changes: Partial<
    Pick<
      RockerInput,
      'room' | 'pull' | 'sense' | 'settle' | 'settleMs' | 'closedLevel' | 'volts' | 'cableMetres' | 'bounceMs'
    >
  > & { id?: string; holdMs?: number; bits?: number; table?: (number | null)[] } = {},
): Input {
  const { id, holdMs = 800, bits = 2, table, ...rest } = changes
  const shape = {
    id: (id ?? freshId(site.inputs, name, 'switch')) as InputId,
    name,
    controller: controller.id,
    room: controller.room as RoomId | null,
    closedLevel: 'low' as const,
    pull: 'internal' as const,
    sense: 'digital' as const,
    settle: 'settle' as const,
    settleMs: 25,
    cableMetres: 3,
    bounceMs: null,
    volts: 3.3 as const,
    ...rest,
  }
  if (kind === 'momentary') return { kind, ...shape, holdMs }
  if (kind === 'selector')
    return { kind, ...shape, bits, table: table ?? Array.from({ length: 2 ** bits }, (_, code) => code) }
  return { kind, ...shape }
}

/** A load with the usual answers; what is not known yet is said so. */
export const newLoad = (id: LoadId, name: string, changes: Partial<Omit<Load, 'id' | 'name'>> = {}): Load => ({
  id,
  name,
  type: 'unknown',
  watts: 0,
  supply: 'mains',
  volts: 12,
  current: 'dc',
  feed: { from: 'own' },
  contact: 'line',
  continuous: false,
  suppression: 'none',
  contactor: null,
  sharesBox: false,
  parallelSwitch: false,
  ...changes,
})
