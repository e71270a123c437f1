import type { MqttWire } from '../../../../core/site'
import type { FieldRow } from '../../../parts/form'
import { groupsOf, placeRows, pointer, rowsOf, valueRows, WHOLE } from './wireForm'

/** The fields of a wire over MQTT. */
const { text, number, tick, choice } = rowsOf<MqttWire>()
const status = { topic: '{controller}/status', online: 'online', offline: 'offline', retain: false }

const ROWS: readonly FieldRow<MqttWire>[] = [
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
    'Report topic',
    ({ say }) => say.topic,
    (wire, typed) => void (wire.say.topic = typed),
  ),
  text(
    'Report payload',
    ({ say }) => say.payload,
    (wire, typed) => void (wire.say.payload = typed),
  ),
  choice<'0' | '1'>(
    'Report QoS',
    {
      read: ({ say }) => String(say.qos) as '0' | '1',
      write: (wire, qos) => void (wire.say.qos = qos === '1' ? 1 : 0),
    },
    [
      ['0', '0, at most once'],
      ['1', '1, at least once'],
    ],
  ),
  tick('Reports are retained', { read: ({ say }) => say.retain, write: (wire, on) => void (wire.say.retain = on) }),
  text(
    'Set topic',
    ({ ask }) => ask.topic,
    (wire, typed) => void (wire.ask.topic = typed),
  ),
  text(
    'Value in set message',
    ({ ask }) => ask.value ?? '',
    (wire, typed) => void (wire.ask.value = pointer(typed)),
    undefined,
    WHOLE,
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
    WHOLE,
  ),
  tick('Set messages are numbered', {
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
    WHOLE,
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

export const MQTT_GROUPS = groupsOf(ROWS, [
  ['Connection', 'Address'],
  ['Values', 'Values are'],
  ['Reports of the controller', 'Report topic'],
  ['Set by a person', 'Set topic'],
  ['Stored values', 'Service stores values'],
  ['Numbers against repeats', 'Set messages are numbered'],
  ['Online status', 'Online status'],
  ['Log', 'Log messages'],
  ['Signature', 'Messages are signed'],
])
