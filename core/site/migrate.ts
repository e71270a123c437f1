import { withPort } from '../boards'

/**
 * Brings a document of an older version up to the present shape, one version at a time. Each step is a pure function
 * over plain data that trusts nothing: what it does not find in the place it expects it leaves for the schema to
 * refuse.
 */

type Plain = Record<string, unknown>

const isPlain = (value: unknown): value is Plain => typeof value === 'object' && value !== null && !Array.isArray(value)

const each = (value: unknown, change: (item: Plain) => Plain): unknown =>
  Array.isArray(value) ? value.map((item) => (isPlain(item) ? change(item) : item)) : value

/** 1 → 2: more kinds of channel, way and service; what is new starts empty, so that nothing changes its meaning. */
function fromVersion1(site: Plain): Plain {
  const profiles = isPlain(site['profiles']) ? { ...site['profiles'], services: [] } : site['profiles']
  return {
    ...site,
    version: 2,
    controllers: each(site['controllers'], (controller) => ({
      ...controller,
      modem: null,
      auto: { start: 'auto', hand: 'yield', yieldMinutes: 30 },
      sensorS: 60,
    })),
    loads: each(site['loads'], (load) => ({ ...load, parallelSwitch: false })),
    services: each(site['services'], (service) => ({
      ...service,
      host: '',
      rulesOpen: null,
      points: each(service['points'], (point) => ({
        ...point,
        carries: { kind: 'channel' },
        update: { policy: 'change' },
      })),
      widgets: each(service['widgets'], (widget) => ({ ...widget, labels: null, width: 'full' })),
    })),
    hubs: each(site['hubs'], (hub) => ({ ...hub, host: '', watch: null })),
    groups: [],
    sensors: [],
    remotes: [],
    links: [],
    rules: [],
    controls: [],
    templates: [],
    day: { changes: 20 },
    profiles,
  }
}

/** 2 → 3: a board's profile says which port it is built with, so that a maker's copy keeps it. */
function fromVersion2(site: Plain): Plain {
  const { profiles } = site
  if (!isPlain(profiles)) return { ...site, version: 3 }
  return { ...site, version: 3, profiles: { ...profiles, boards: each(profiles['boards'], withPort) } }
}

const AWG = [14, 12, 10, 8, 6]

/** The breaker that stood with the box: it belongs to the feed, with the thinnest conductor that was named. */
function feedOf(box: unknown): Plain | null {
  if (!isPlain(box) || typeof box['breakerAmps'] !== 'number') return null
  const named = (Array.isArray(box['conductors']) ? box['conductors'] : []).flatMap((one: unknown) =>
    isPlain(one) && one['count'] !== 0 && AWG.includes(Number(one['awg'])) ? [Number(one['awg'])] : [],
  )
  return {
    breakerAmps: box['breakerAmps'],
    residualCurrent: 'unknown',
    fuseAmps: null,
    conductor: { by: 'awg', awg: Math.max(...named, 0) || 14 },
  }
}

function withFeed(controller: Plain): Plain {
  const box = controller['enclosure']
  if (!isPlain(box)) return { ...controller, mains: null }
  const { breakerAmps: _, ...enclosure } = box
  return { ...controller, enclosure, mains: feedOf(box) }
}

/**
 * 3 → 4: the breaker stands with the feed of a controller; a contactor is one of a profile; a low-voltage load says its
 * volts, and hangs on a supply of its own, as was assumed.
 */
function fromVersion3(site: Plain): Plain {
  return {
    ...site,
    version: 4,
    controllers: each(site['controllers'], withFeed),
    loads: each(site['loads'], (load) => ({
      ...load,
      volts: 12,
      current: 'dc',
      feed: { from: 'own' },
      contactor: load['contactor'] === true ? 'contactor-9a' : null,
    })),
  }
}

/** What credentials of services were called, and are now: by what they are for. */
export const RENAMED_SECRETS: Readonly<Record<string, string>> = {
  'template-id': 'board-pattern',
  'device-token': 'board-key',
  'thing-id': 'board-id',
  'secret-key': 'once-key',
  'web-key': 'store-key',
  'app-key': 'account-key',
  'app-secret': 'signing-key',
  'api-key': 'hub-key',
  'hook-key': 'call-key',
}
/** The labels that stood beside them, where the maker has not written another. */
const RENAMED_LABELS: Readonly<Record<string, string>> = {
  'Template id': 'Board pattern',
  'Device token': 'Board key',
  'Thing id': 'Board id',
  'Secret key': 'Board key, shown once',
  'Store host': 'Store address',
  'Web key': 'Store key',
  'App key': 'Account key',
  'App secret': 'Signing key',
  'Key of the hub’s interface': 'Key between hub and controller',
  'Hook key': 'Key of the calls',
}
const renamed = (names: Readonly<Record<string, string>>, name: unknown): unknown =>
  typeof name === 'string' ? (names[name] ?? name) : name

/** 4 → 5: the phases of the mains are said; credentials of services are called by what they are for. */
function fromVersion4(site: Plain): Plain {
  const { mains, profiles } = site
  const secrets = (kind: Plain): Plain => ({
    ...kind,
    secrets: each(kind['secrets'], (secret) => ({
      ...secret,
      id: renamed(RENAMED_SECRETS, secret['id']),
      label: renamed(RENAMED_LABELS, secret['label']),
    })),
  })
  return {
    ...site,
    version: 5,
    mains: isPlain(mains) ? { ...mains, phases: 'one' } : mains,
    profiles: isPlain(profiles) ? { ...profiles, services: each(profiles['services'], secrets) } : profiles,
  }
}

const STEPS: Record<number, (site: Plain) => Plain> = {
  1: fromVersion1,
  2: fromVersion2,
  3: fromVersion3,
  4: fromVersion4,
}

/** The document in the present version, or as it came where no step leads on. */
export function migrate(data: unknown): unknown {
  let site = data
  for (let steps = 0; steps < 100; steps++) {
    if (!isPlain(site) || typeof site['version'] !== 'number') return site
    const step = STEPS[site['version']]
    if (!step) return site
    site = step(site)
  }
  return site
}
