import { Wire, type HttpWire, type MqttWire, type WireValue } from '../../../../core/site'
import { fieldsOf, type FieldRow } from '../../../parts/form'

/** The fields of each transport's wire, as data. What the schema refuses is said beside the field. */

type Read<W> = (wire: W) => string
type Write<W> = (wire: W, text: string) => void

/** What the schema says of the wire as it would be; null: nothing. */
const checked =
  <W extends Wire>(write: Write<W>) =>
  (text: string, wire: W): string | null => {
    const next = structuredClone(wire)
    write(next, text.trim())
    const parsed = Wire.safeParse(next)
    return parsed.success ? null : parsed.error.issues[0]!.message
  }

/** Fields that belong together, under a heading. */
export interface FieldGroup<W> {
  readonly title: string
  readonly rows: readonly FieldRow<W>[]
}

/** Cuts a form into groups: each begins with the field that is named. */
export function groupsOf<W>(
  rows: readonly FieldRow<W>[],
  heads: readonly (readonly [title: string, first: string])[],
): readonly FieldGroup<W>[] {
  const starts = heads.map(([, first]) => rows.findIndex(({ key }) => key === first))
  return heads.map(([title], i) => ({ title, rows: rows.slice(starts[i], starts[i + 1]) }))
}

/** What an empty place means. */
export const WHOLE = 'empty: the whole message; else a place in a document, as /lamp'
export const LINES = 'one or more, with | between'

export function rowsOf<W extends Wire>() {
  const field = fieldsOf<W>()
  const text = (
    label: string,
    read: Read<W>,
    write: Write<W>,
    when?: (wire: W) => boolean,
    hint?: string,
  ): FieldRow<W> =>
    field.text(
      label,
      { read, write },
      { mono: true, check: checked(write), ...(when ? { when } : {}), ...(hint ? { hint } : {}) },
    )
  const number = (
    label: string,
    read: (wire: W) => number,
    write: (wire: W, value: number) => void,
    more: { least: number; most: number; when?: (wire: W) => boolean },
  ): FieldRow<W> => field.number(label, { read, write }, more)
  return { ...field, text, number }
}

const FORMS: { readonly [F in WireValue['form']]: Extract<WireValue, { form: F }> } = {
  number: { form: 'number' },
  words: { form: 'words', off: 'off', on: 'on' },
  range: { form: 'range', least: 0, most: 100 },
}

/** How a value looks on the wire: the same for all transports. */
export function valueRows<W extends Wire & { value: WireValue }>(): FieldRow<W>[] {
  const { choice } = rowsOf<W>()
  return [
    choice(
      'Values are',
      { read: ({ value }) => value.form, write: (wire, next) => void (wire.value = structuredClone(FORMS[next])) },
      [
        ['number', 'the point’s own numbers'],
        ['words', 'two words'],
        ['range', 'another range'],
      ],
    ),
    ...wordRows<W>(),
    ...rangeRows<W>(),
  ]
}

function wordRows<W extends Wire & { value: WireValue }>(): FieldRow<W>[] {
  const { text } = rowsOf<W>()
  const word = (label: string, at: 'off' | 'on'): FieldRow<W> =>
    text(
      label,
      ({ value }) => (value.form === 'words' ? value[at] : ''),
      ({ value }, typed) => value.form === 'words' && (value[at] = typed),
      ({ value }) => value.form === 'words',
    )
  return [word('Word for off', 'off'), word('Word for on', 'on')]
}

function rangeRows<W extends Wire & { value: WireValue }>(): FieldRow<W>[] {
  const { number } = rowsOf<W>()
  const bound = (label: string, at: 'least' | 'most'): FieldRow<W> =>
    number(
      label,
      ({ value }) => (value.form === 'range' ? value[at] : 0),
      ({ value }, typed) => value.form === 'range' && (value[at] = typed),
      { least: 0, most: 9_999, when: ({ value }) => value.form === 'range' },
    )
  return [bound('Lowest value', 'least'), bound('Highest value', 'most')]
}

/** Where it is. */
export function placeRows<W extends MqttWire | HttpWire>(): FieldRow<W>[] {
  const { text, number, tick } = rowsOf<W>()
  return [
    text(
      'Address',
      ({ host }) => host,
      (wire, typed) => void (wire.host = typed),
    ),
    number(
      'Port',
      ({ port }) => port,
      (wire, typed) => void (wire.port = typed),
      { least: 1, most: 65_535 },
    ),
    tick('TLS', { read: ({ tls }) => tls, write: (wire, on) => void (wire.tls = on) }),
  ]
}

export const pointer = (text: string): string | null => (text === '' ? null : text)

/** Lines of a head stand behind one another with a bar between: no line has one. */
export const lines = (text: string): string[] =>
  text
    .split('|')
    .map((line) => line.trim())
    .filter(Boolean)
