import type { HookWire } from '../../../../core/site'
import type { FieldRow } from '../../../parts/form'
import { groupsOf, LINES, lines, rowsOf, valueRows } from './wireForm'

/** The fields of a wire of calls. */
const { text, number, tick, choice } = rowsOf<HookWire>()
const calls = ({ call }: HookWire) => call !== null
const FIRST = {
  ...{ host: '{host}', port: 80, tls: false, headers: ['Authorization: Bearer {credential:access-key}'] },
  request: { method: 'POST' as const, path: '/{controller}/{key}', body: '{value}' },
}

const ROWS: readonly FieldRow<HookWire>[] = [
  number(
    'Port of the controller',
    ({ port }) => port,
    (wire, typed) => void (wire.port = typed),
    {
      ...{ least: 1, most: 65_535 },
    },
  ),
  text(
    'Key of the calls',
    ({ key }) => key,
    (wire, typed) => void (wire.key = typed),
  ),
  choice<'head' | 'path'>('Key is in', { read: ({ keyIn }) => keyIn, write: (wire, at) => void (wire.keyIn = at) }, [
    ['head', 'the header X-Key'],
    ['path', 'the path'],
  ]),
  text(
    'Call path',
    ({ path }) => path,
    (wire, typed) => void (wire.path = typed),
  ),
  ...valueRows<HookWire>(),
  tick('Controller reports changes', {
    read: calls,
    write: (wire, on) => void (wire.call = on ? structuredClone(FIRST) : null),
  }),
  text(
    'Report address',
    ({ call }) => call?.host ?? '',
    ({ call }, typed) => call && (call.host = typed),
    calls,
  ),
  number(
    'Report port',
    ({ call }) => call?.port ?? 80,
    ({ call }, typed) => call && (call.port = typed),
    {
      ...{ least: 1, most: 65_535, when: calls },
    },
  ),
  text(
    'Report headers',
    ({ call }) => call?.headers.join(' | ') ?? '',
    ({ call }, typed) => call && (call.headers = lines(typed)),
    calls,
    LINES,
  ),
  text(
    'Report path',
    ({ call }) => call?.request.path ?? '',
    ({ call }, typed) => call && (call.request.path = typed),
    calls,
  ),
  text(
    'Report body',
    ({ call }) => call?.request.body ?? '',
    ({ call }, typed) => call && (call.request.body = typed),
    calls,
  ),
]

export const HOOK_GROUPS = groupsOf(ROWS, [
  ['Calls to the controller', 'Port of the controller'],
  ['Values', 'Values are'],
  ['Reports of the controller', 'Controller reports changes'],
])
