import type { HookWire, HttpWire, MqttWire } from '../site'

/**
 * The wires of kinds that ship: of our own design, spoken by our stand-ins. A maker whose service wants something else
 * corrects them once, in the site's own copy of the kind.
 */

/** A broker of the service, one point a topic, plain numbers; a wish is "value count". */
export const DATAPOINT_WIRE: MqttWire = {
  transport: 'mqtt',
  host: '{host}',
  port: 18_901,
  tls: false,
  client: '{controller}',
  user: '{credential:board-pattern}',
  password: '{credential:board-key}',
  keepAliveS: 60,
  status: { topic: 'entry/status', online: 'online', offline: 'offline', retain: false },
  log: 'entry/log',
  value: { form: 'number' },
  say: { topic: 'point/{number}/is', payload: '{value}', qos: 1, retain: false },
  ask: { topic: 'point/{number}/ask', value: null },
  held: { topic: 'point/{number}/kept', value: null },
  count: { topic: 'entry/count', value: null },
}

/** A broker of the service, JSON documents by the variables' names; a wish bears its count beside its value. */
export const VARIABLE_WIRE: MqttWire = {
  transport: 'mqtt',
  host: '{host}',
  port: 18_902,
  tls: false,
  client: '{controller}',
  user: '{credential:board-id}',
  password: '{credential:once-key}',
  keepAliveS: 60,
  status: null,
  log: null,
  value: { form: 'number' },
  say: { topic: 'boards/{credential:board-id}/said', payload: '{"{key}":{value}}', qos: 1, retain: false },
  ask: { topic: 'boards/{credential:board-id}/wish', value: '/{key}' },
  held: { topic: 'boards/{credential:board-id}/last', value: '/{key}' },
  count: { topic: 'boards/{credential:board-id}/count', value: '/count' },
}

/** A tree of keys, a branch a controller: written when something changes, read as a whole every two seconds. */
export const ROOM_STORE_WIRE: HttpWire = {
  transport: 'http',
  host: '{credential:host}',
  port: 18_903,
  tls: false,
  headers: ['Authorization: Bearer {credential:store-key}'],
  value: { form: 'number' },
  write: { method: 'PUT', path: '/rooms/{controller}/{key}', body: '{value}' },
  read: { path: '/rooms/{controller}', of: 'all', value: '/{key}', everyMs: 2_000 },
}

/** A broker that knows a device by the name and the PIN of its pairing; a JSON document for each setting. */
export const PROVISIONED_WIRE: MqttWire = {
  transport: 'mqtt',
  host: '{host}',
  port: 18_904,
  tls: false,
  client: '{controller}',
  user: '{credential:pairing-name}',
  password: '{credential:pairing-pin}',
  keepAliveS: 60,
  status: { topic: 'device/state', online: '{"online":true}', offline: '{"online":false}', retain: false },
  log: 'device/log',
  value: { form: 'number' },
  say: { topic: 'settings/{key}/is', payload: '{"value":{value}}', qos: 1, retain: false },
  ask: { topic: 'settings/{key}/want', value: '/value' },
  held: { topic: 'settings/{key}/kept', value: '/value' },
  count: { topic: 'settings/count', value: '/count' },
}

/** A bridge between a voice service and the controller: an id a lamp, and every message signed. */
export const VOICE_BRIDGE_WIRE: MqttWire = {
  transport: 'mqtt',
  host: '{host}',
  port: 18_905,
  tls: false,
  client: '{controller}',
  user: '{controller}',
  password: '{credential:account-key}',
  keepAliveS: 60,
  status: { topic: 'bridge/{controller}', online: 'online', offline: 'offline', retain: false },
  log: null,
  value: { form: 'number' },
  say: { topic: 'lamps/{key}/is', payload: '{value}', qos: 1, retain: false },
  ask: { topic: 'lamps/{key}/do', value: null },
  held: null,
  count: { topic: 'lamps/{controller}/count', value: null },
  sign: { key: '{credential:signing-key}', over: '{topic} {payload}' },
}

/** A hub that knows each controller by a file of its own, with a key in it; words for what is on or off. */
export const DEVICE_FILE_WIRE: MqttWire = {
  transport: 'mqtt',
  host: '{host}',
  port: 18_906,
  tls: false,
  client: '{controller}',
  user: '{controller}',
  password: '{credential:hub-key}',
  keepAliveS: 30,
  status: { topic: '{controller}/link', online: 'here', offline: 'gone', retain: false },
  log: '{controller}/log',
  value: { form: 'number' },
  say: { topic: '{controller}/{key}/state', payload: '{value}', qos: 1, retain: false },
  ask: { topic: '{controller}/{key}/command', value: null },
  held: null,
  count: { topic: '{controller}/count', value: null },
}

/** A hub that calls the controller's own endpoints with its setup code, and is told of changes with the same. */
export const COMMISSIONING_WIRE: HookWire = {
  transport: 'hook',
  port: 8_390,
  key: '{credential:setup-code}',
  keyIn: 'head',
  value: { form: 'number' },
  path: '/endpoints/{number}/{value}',
  call: {
    host: '{host}',
    port: 18_907,
    tls: false,
    headers: ['X-Key: {credential:setup-code}'],
    request: { method: 'POST', path: '/controllers/{controller}/endpoints/{number}', body: '{value}' },
  },
}

/** Addresses on the controller with a key in each, and an address of the bridge that is told of changes. */
export const WEB_HOOK_WIRE: HookWire = {
  transport: 'hook',
  port: 8_391,
  key: '{credential:call-key}',
  keyIn: 'path',
  value: { form: 'number' },
  path: '/do/{key}/{value}',
  call: {
    host: '{credential:host}',
    port: 18_908,
    tls: false,
    headers: ['Authorization: Bearer {credential:call-key}'],
    request: { method: 'POST', path: '/told/{controller}/{key}', body: '{"value":{value}}' },
  },
}
