import { idFromName, ServiceProfile, type MqttWire, type Secret, type Site, type Wire } from '../site'
import { keepServiceKind, NO_LIMITS, serviceKindIn, serviceKindsOf } from './serviceKinds'

/**
 * Kinds of the maker's own: what a service holds, which credentials it wants and how it is reached, written once. They
 * leave and come as a file of our own form (docs/formats.md).
 */

/** An MQTT wire to begin with: one topic a point, plain numbers, one key. */
const FIRST_WIRE: MqttWire = {
  transport: 'mqtt',
  host: '{host}',
  port: 1_883,
  tls: false,
  client: '{controller}',
  user: '{controller}',
  password: '{credential:access-key}',
  keepAliveS: 60,
  status: null,
  log: null,
  value: { form: 'number' },
  say: { topic: '{controller}/{key}/is', payload: '{value}', qos: 1, retain: false },
  ask: { topic: '{controller}/{key}/set', value: null },
  held: null,
  count: null,
}

/** Examples of each transport to begin with. */
export const FIRST_WIRES: { readonly [T in Exclude<Wire['transport'], 'own'>]: Extract<Wire, { transport: T }> } = {
  mqtt: FIRST_WIRE,
  http: {
    transport: 'http',
    host: '{host}',
    port: 80,
    tls: false,
    headers: ['Authorization: Bearer {credential:access-key}'],
    value: { form: 'number' },
    write: { method: 'PUT', path: '/{controller}/{key}', body: '{value}' },
    read: { path: '/{controller}', of: 'all', value: '/{key}', everyMs: 5_000 },
  },
  hook: {
    transport: 'hook',
    port: 8_080,
    key: '{credential:access-key}',
    keyIn: 'head',
    value: { form: 'number' },
    path: '/{key}/{value}',
    call: null,
  },
}

export const ACCESS_KEY: Secret = {
  ...{ id: 'access-key', label: 'Access key', per: 'device', shape: 'key', secret: true, shownOnce: false },
}

/** A kind of the maker's own, with a wire to begin with. Changes a draft; gives its id. */
export function addServiceKind(site: Site, name: string, family: ServiceProfile['family']): string {
  const id = idFromName<string>(
    name.slice(0, 32),
    serviceKindsOf(site).map((kind) => kind.id),
    'kind',
  )
  keepServiceKind(site, {
    ...{ id, name: name.trim() || 'own kind', family, pointWord: 'point', holds: ['points with a name and a range'] },
    ...{ limits: NO_LIMITS, reconnect: 'sends nothing', secrets: [ACCESS_KEY], steps: [], wire: FIRST_WIRE },
  })
  return id
}

/** Adds a credential to a kind. Changes a draft. */
export function addSecret(site: Site, kind: string, label: string): void {
  const profile = serviceKindIn(site, kind)
  if (!profile || label.trim() === '') return
  const taken = profile.secrets.map((secret) => secret.id)
  // room for the number that makes it the only one
  const id = idFromName<string>(label.slice(0, 20), taken, 'key')
  keepServiceKind(site, { ...profile, secrets: [...profile.secrets, { ...ACCESS_KEY, id, label: label.trim() }] })
}

export function removeSecret(site: Site, kind: string, id: string): void {
  const profile = serviceKindIn(site, kind)
  if (profile) keepServiceKind(site, { ...profile, secrets: profile.secrets.filter((secret) => secret.id !== id) })
}

const FORM = 'vestibule-service-kind'

/** A kind as a file. */
export const serviceKindFile = (kind: ServiceProfile): string => `${JSON.stringify({ [FORM]: 1, kind }, null, 2)}\n`

/** Reads such a file; bad input is refused whole, with one line that says what is wrong. */
export function readServiceKindFile(text: string): { readonly kind: ServiceProfile } | { readonly wrong: string } {
  let data: unknown
  try {
    data = JSON.parse(text)
  } catch {
    return { wrong: 'The file is not JSON. Export a kind to see its form.' }
  }
  if (typeof data !== 'object' || data === null || (data as Record<string, unknown>)[FORM] !== 1)
    return { wrong: `The file is no service kind: “${FORM}”: 1 is missing.` }
  const parsed = ServiceProfile.safeParse((data as { kind?: unknown }).kind)
  if (parsed.success) return { kind: parsed.data }
  const { path, message } = parsed.error.issues[0]!
  return { wrong: `kind.${path.join('.')}: ${message}. Correct the file and import it again.` }
}
