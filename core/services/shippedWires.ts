import type { MqttWire } from '../site'

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
