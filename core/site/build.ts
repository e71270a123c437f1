import type { ChannelId, ControllerId, InputId, LoadId, RoomId, SiteId } from './ids'
import type { Channel, FeedChannel, PairedChannel, PulsedChannel, SteppedChannel, SwitchedChannel } from './channels'
import type { Controller, Input, Load, RelayModule, RockerInput, Site } from './schema'
import { SITE_VERSION } from './limits'
import { idFromName } from './names'

/** An empty site. */
export function emptySite(name: string, taken: Iterable<string> = []): Site {
  return {
    format: 'vestibule-site',
    version: SITE_VERSION,
    id: idFromName<string>(name, taken, 'site') as SiteId,
    name,
    mains: { volts: 230, hertz: 50 },
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
    id: idFromName<string>(
      name,
      site.controllers.map((c) => c.id),
      'controller',
    ) as ControllerId,
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
    pins: {},
    ...changes,
  }
}

/** What every kind of channel has. */
const channelShape = (site: Site, name: string, controller: Controller) => ({
  id: idFromName<string>(
    name,
    site.channels.map((c) => c.id),
    'channel',
  ) as ChannelId,
  name,
  controller: controller.id,
  room: controller.room,
  load: null,
  active: controller.module?.active ?? ('high' as const),
  essential: false,
})

/** A switched channel, off after a power cut, closing with the level its module wants. */
export function newSwitched(
  site: Site,
  name: string,
  controller: Controller,
  changes: Partial<SwitchedChannel> = {},
): SwitchedChannel {
  return {
    kind: 'switched',
    ...channelShape(site, name, controller),
    maxOnMs: null,
    minOffMs: null,
    powerUp: { policy: 'off' },
    ...changes,
  }
}

/** A pulse of half a second, of which nobody knows yet what it opens. */
export const newPulsed = (
  site: Site,
  name: string,
  controller: Controller,
  changes: Partial<PulsedChannel> = {},
): PulsedChannel => ({
  kind: 'pulsed',
  ...channelShape(site, name, controller),
  pulseMs: 500,
  lockoutMs: 2_000,
  contact: null,
  contactMeans: 'closed',
  door: null,
  ...changes,
})

/** Two interlocked outputs with half a second between them. */
export const newPaired = (
  site: Site,
  name: string,
  controller: Controller,
  changes: Partial<PairedChannel> = {},
): PairedChannel => ({
  kind: 'paired',
  ...channelShape(site, name, controller),
  labels: ['up', 'down'],
  deadMs: 500,
  runMs: 60_000,
  ...changes,
})

/** A relay that feeds smart lamps. */
export const newFeed = (
  site: Site,
  name: string,
  controller: Controller,
  changes: Partial<FeedChannel> = {},
): FeedChannel => ({ kind: 'feed', ...channelShape(site, name, controller), ...changes })

/** A channel of any kind, with the usual answers; a stepped one as a fan of two steps. */
export function newChannel(site: Site, name: string, controller: Controller, kind: Channel['kind']): Channel {
  switch (kind) {
    case 'switched':
      return newSwitched(site, name, controller)
    case 'stepped':
      return newStepped(site, name, controller, { contacts: 2, patterns: [[], [0], [1]], never: [[0, 1]], gapMs: 30 })
    case 'pulsed':
      return newPulsed(site, name, controller)
    case 'paired':
      return newPaired(site, name, controller)
    case 'feed':
      return newFeed(site, name, controller)
  }
}

/** A stepped channel on a fan regulator's contacts (profile: contacts, patterns, what must never be, gap). */
export function newStepped(
  site: Site,
  name: string,
  controller: Controller,
  fan: { contacts: number; patterns: number[][]; never: number[][]; gapMs: number },
  changes: Partial<SteppedChannel> = {},
): SteppedChannel {
  return {
    ...newSwitched(site, name, controller),
    kind: 'stepped',
    contacts: fan.contacts,
    patterns: structuredClone(fan.patterns),
    never: structuredClone(fan.never),
    gapMs: fan.gapMs,
    wrap: false,
    onLevel: 1,
    ...changes,
  }
}

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
    id: (id ??
      idFromName<string>(
        name,
        site.inputs.map((i) => i.id),
        'switch',
      )) as InputId,
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
  contact: 'line',
  continuous: false,
  suppression: 'none',
  contactor: false,
  sharesBox: false,
  parallelSwitch: false,
  ...changes,
})
