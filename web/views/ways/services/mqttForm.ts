import type { MqttWire } from '../../../../core/site'
import type { FieldRow } from '../../../parts/form'
import { placeRows, pointer, rowsOf, valueRows } from './wireForm'

/** The fields of a wire over MQTT. */
const { text, number, tick, choice } = rowsOf<MqttWire>()
const status = { topic: '{controller}/status', online: 'online', offline: 'offline', retain: false }

export const MQTT_ROWS: readonly FieldRow<MqttWire>[] = [
  ...placeRows<MqttWire>(),
  text(
    'Client id',
    ({ client }) => client,
    (wire, typed) => void (wire.client = typed),
  ),
  text(
    'User',
    ({ user }) => user,
    (wire, typed) => void (wire.user = typed),
  ),
  text(
    'Password',
    ({ password }) => password,
    (wire, typed) => void (wire.password = typed),
  ),
  number(
    'Keep-alive (s)',
    ({ keepAliveS }) => keepAliveS,
    (wire, typed) => void (wire.keepAliveS = typed),
    {
      ...{ least: 5, most: 1_200 },
    },
  ),
  ...valueRows<MqttWire>(),
  text(
    'State topic',
    ({ say }) => say.topic,
    (wire, typed) => void (wire.say.topic = typed),
  ),
  text(
    'State payload',
    ({ say }) => say.payload,
    (wire, typed) => void (wire.say.payload = typed),
  ),
  choice<'0' | '1'>(
    'State QoS',
    {
      read: ({ say }) => String(say.qos) as '0' | '1',
      write: (wire, qos) => void (wire.say.qos = qos === '1' ? 1 : 0),
    },
    [
      ['0', '0, at most once'],
      ['1', '1, at least once'],
    ],
  ),
  tick('State retained', { read: ({ say }) => say.retain, write: (wire, on) => void (wire.say.retain = on) }),
  text(
    'Command topic',
    ({ ask }) => ask.topic,
    (wire, typed) => void (wire.ask.topic = typed),
  ),
  text(
    'Value in command',
    ({ ask }) => ask.value ?? '',
    (wire, typed) => void (wire.ask.value = pointer(typed)),
  ),
  tick('Service stores values', {
    read: ({ held }) => held !== null,
    write: (wire, on) => void (wire.held = on ? { topic: '{controller}/{key}/stored', value: null } : null),
  }),
  text(
    'Stored value topic',
    ({ held }) => held?.topic ?? '',
    ({ held }, typed) => held && (held.topic = typed),
    ({ held }) => held !== null,
  ),
  text(
    'Value in stored message',
    ({ held }) => held?.value ?? '',
    ({ held }, typed) => held && (held.value = pointer(typed)),
    ({ held }) => held !== null,
  ),
  tick('Commands are numbered', {
    read: ({ count }) => count !== null,
    write: (wire, on) => void (wire.count = on ? { topic: '{controller}/count', value: null } : null),
  }),
  text(
    'Last number topic',
    ({ count }) => count?.topic ?? '',
    ({ count }, typed) => count && (count.topic = typed),
    ({ count }) => count !== null,
  ),
  text(
    'Number in message',
    ({ count }) => count?.value ?? '',
    ({ count }, typed) => count && (count.value = pointer(typed)),
    ({ count }) => count !== null,
  ),
  tick('Online status', {
    read: (wire) => wire.status !== null,
    write: (wire, on) => void (wire.status = on ? { ...status } : null),
  }),
  text(
    'Status topic',
    (wire) => wire.status?.topic ?? '',
    (wire, typed) => wire.status && (wire.status.topic = typed),
    (wire) => wire.status !== null,
  ),
  text(
    'Online word',
    (wire) => wire.status?.online ?? '',
    (wire, typed) => wire.status && (wire.status.online = typed),
    (wire) => wire.status !== null,
  ),
  text(
    'Offline word',
    (wire) => wire.status?.offline ?? '',
    (wire, typed) => wire.status && (wire.status.offline = typed),
    (wire) => wire.status !== null,
  ),
  tick('Log messages', {
    read: ({ log }) => log !== null,
    write: (wire, on) => void (wire.log = on ? '{controller}/log' : null),
  }),
  text(
    'Log topic',
    ({ log }) => log ?? '',
    (wire, typed) => void (wire.log = typed),
    ({ log }) => log !== null,
  ),
  tick('Messages are signed', {
    read: ({ sign }) => sign !== undefined,
    write: (wire, on) => {
      if (on) wire.sign = { key: '{credential:access-key}', over: '{topic} {payload}' }
      else delete wire.sign
    },
  }),
  text(
    'Signing key',
    ({ sign }) => sign?.key ?? '',
    ({ sign }, typed) => sign && (sign.key = typed),
    ({ sign }) => sign !== undefined,
  ),
  text(
    'Signed text',
    ({ sign }) => sign?.over ?? '',
    ({ sign }, typed) => sign && (sign.over = typed),
    ({ sign }) => sign !== undefined,
  ),
]
