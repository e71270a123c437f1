import { Fragment, type ReactNode } from 'react'
import type { Change } from '../store/useChange'
import { ChoiceField, NumberField, TextField, TickField } from './fields'

/** One field of a form, as data: where it stands, when it is there, and what it shows of a thing. */
export interface FieldRow<T> {
  readonly key: string
  /** classes of its place in the form's grid */
  readonly place?: string
  readonly when?: (of: T) => boolean
  readonly show: (of: T, change: Change<T>) => ReactNode
}

/** What stands on the screen, or how it follows from the thing. */
type Said<T> = string | ((of: T) => string)
const said = <T,>(words: Said<T>, of: T): string => (typeof words === 'function' ? words(of) : words)

/** A member of the thing, or how a value is read from it and written to it. */
type At<T, V> = KeysWith<T, V> | { readonly read: (of: T) => V; readonly write: (of: T, value: V) => void }
type KeysWith<T, V> = { [K in keyof T]-?: T[K] extends V ? K : never }[keyof T] & string

const access = <T, V>(at: At<T, V>): { read: (of: T) => V; write: (of: T, value: V) => void } =>
  typeof at === 'object'
    ? at
    : {
        read: (of) => of[at] as V,
        write: (of, value) => {
          of[at] = value as T[typeof at]
        },
      }

interface More<T> {
  /** what an undo says has changed; the label in small letters where not said */
  readonly what?: string
  readonly unit?: Said<T>
  readonly hint?: Said<T>
  readonly place?: string
  readonly when?: (of: T) => boolean
}
interface TextMore<T> extends More<T> {
  readonly check?: (text: string, of: T) => string | null
  readonly mono?: boolean
}
interface NumberMore<T> extends More<T> {
  readonly least: number | ((of: T) => number)
  readonly most: number | ((of: T) => number)
}
type Choices<V extends string> = readonly (readonly [V, string])[]

const bound = <T,>(least: number | ((of: T) => number), of: T): number =>
  typeof least === 'function' ? least(of) : least

/** The words around a field, and what an edit of it is called. */
function around<T>(label: Said<T>, of: T, { what, unit, hint }: More<T>) {
  const words = said(label, of)
  const more = { ...(unit ? { unit: said(unit, of) } : {}), ...(hint ? { hint: said(hint, of) } : {}) }
  return { what: what ?? words.toLowerCase(), words: { label: words, ...more } }
}

const placed = <T,>(label: Said<T>, { place, when, what }: More<T>) => ({
  key: typeof label === 'string' ? label : (what ?? label.toString()),
  ...(place ? { place } : {}),
  ...(when ? { when } : {}),
})

function text<T>(label: Said<T>, at: At<T, string>, more: TextMore<T> = {}): FieldRow<T> {
  const { read, write } = access(at)
  const { check, mono } = more
  return {
    ...placed(label, more),
    show: (of, change) => {
      const { what, words } = around(label, of, more)
      const checked = check ? { check: (typed: string) => check(typed, of) } : {}
      const keep = (typed: string) => change(what, (target) => write(target, typed))
      return <TextField {...words} {...checked} {...(mono ? { mono } : {})} value={read(of)} onKeep={keep} />
    },
  }
}

function number<T>(label: Said<T>, at: At<T, number>, more: NumberMore<T>): FieldRow<T> {
  const { read, write } = access(at)
  return {
    ...placed(label, more),
    show: (of, change) => {
      const { what, words } = around(label, of, more)
      const bounds = { least: bound(more.least, of), most: bound(more.most, of) }
      const keep = (value: number) => change(what, (target) => write(target, value))
      return <NumberField {...words} {...bounds} value={read(of)} onKeep={keep} />
    },
  }
}

function choice<T, V extends string>(
  label: Said<T>,
  at: At<T, V>,
  choices: Choices<V> | ((of: T) => Choices<V>),
  more: More<T> = {},
): FieldRow<T> {
  const { read, write } = access<T, V>(at)
  return {
    ...placed(label, more),
    show: (of, change) => {
      const { what, words } = around(label, of, more)
      const offered = typeof choices === 'function' ? choices(of) : choices
      const keep = (value: V) => change(what, (target) => write(target, value))
      return <ChoiceField<V> {...words} value={read(of)} choices={offered} onKeep={keep} />
    },
  }
}

function tick<T>(label: Said<T>, at: At<T, boolean>, more: More<T> = {}): FieldRow<T> {
  const { read, write } = access(at)
  return {
    ...placed(label, more),
    show: (of, change) => {
      const { what, words } = around(label, of, more)
      const keep = (value: boolean) => change(what, (target) => write(target, value))
      return <TickField label={words.label} value={read(of)} onKeep={keep} />
    },
  }
}

/** Words between the fields. */
const note = <T,>(words: Said<T>, more: Pick<More<T>, 'place' | 'when'> = {}): FieldRow<T> => ({
  ...placed(words, { what: 'note', ...more }),
  show: (of) => <p className="text-note text-soft">{said(words, of)}</p>,
})

/** The fields that a form over a `T` can have. */
export const fieldsOf = <T,>() => ({
  text: text<T>,
  number: number<T>,
  choice: <V extends string>(...row: Parameters<typeof choice<T, V>>) => choice<T, V>(...row),
  tick: tick<T>,
  note: note<T>,
})

/** The fields of a form, in the grid that stands around them. */
export function Fields<T>({ rows, of, change }: { rows: readonly FieldRow<T>[]; of: T; change: Change<T> }) {
  return rows.map(({ key, place, when, show }) => {
    if (when && !when(of)) return null
    const field = show(of, change)
    return place ? (
      <div key={key} className={place}>
        {field}
      </div>
    ) : (
      <Fragment key={key}>{field}</Fragment>
    )
  })
}

/** A text that must not be empty. */
export const needsName = (text: string): string | null => (text.trim() ? null : 'enter a name')
