import { FIRST_WIRES } from '../../../../core/services'
import type { HttpWire } from '../../../../core/site'
import type { FieldRow } from '../../../parts/form'
import { groupsOf, LINES, lines, placeRows, pointer, rowsOf, valueRows, WHOLE } from './wireForm'

/** The fields of a wire of requests. */
const METHODS = (['PUT', 'POST', 'PATCH', 'GET'] as const).map((method) => [method, method] as const)
type Method = (typeof METHODS)[number][0]

const { text, number, tick, choice } = rowsOf<HttpWire>()
const writes = ({ write }: HttpWire) => write !== null
const reads = ({ read }: HttpWire) => read !== null

const ROWS: readonly FieldRow<HttpWire>[] = [
  ...placeRows<HttpWire>(),
  text(
    'Headers',
    ({ headers }) => headers.join(' | '),
    (wire, typed) => void (wire.headers = lines(typed)),
    undefined,
    LINES,
  ),
  ...valueRows<HttpWire>(),
  tick('Controller writes', {
    read: writes,
    write: (wire, on) => void (wire.write = on ? structuredClone(FIRST_WIRES.http.write) : null),
  }),
  choice<Method>(
    'Write method',
    { read: ({ write }) => write?.method ?? 'PUT', write: ({ write }, method) => write && (write.method = method) },
    METHODS,
    { when: writes },
  ),
  text(
    'Write path',
    ({ write }) => write?.path ?? '',
    ({ write }, typed) => write && (write.path = typed),
    writes,
  ),
  text(
    'Write body',
    ({ write }) => write?.body ?? '',
    ({ write }, typed) => write && (write.body = typed),
    writes,
  ),
  tick('Controller reads', {
    read: reads,
    write: (wire, on) => void (wire.read = on ? structuredClone(FIRST_WIRES.http.read) : null),
  }),
  text(
    'Read path',
    ({ read }) => read?.path ?? '',
    ({ read }, typed) => read && (read.path = typed),
    reads,
  ),
  choice<'all' | 'each'>(
    'One read is for',
    { read: ({ read }) => read?.of ?? 'all', write: ({ read }, of) => read && (read.of = of) },
    [
      ['all', 'all points'],
      ['each', 'each point'],
    ],
    { when: reads },
  ),
  text(
    'Value in answer',
    ({ read }) => read?.value ?? '',
    ({ read }, typed) => read && (read.value = pointer(typed)),
    reads,
    WHOLE,
  ),
  number(
    'Read interval (ms)',
    ({ read }) => read?.everyMs ?? 5_000,
    ({ read }, typed) => read && (read.everyMs = typed),
    { least: 500, most: 86_400_000, when: reads },
  ),
]

export const HTTP_GROUPS = groupsOf(ROWS, [
  ['Connection', 'Address'],
  ['Values', 'Values are'],
  ['Writing', 'Controller writes'],
  ['Reading', 'Controller reads'],
])
