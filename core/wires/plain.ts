import type { PlainSign } from './sign'
import type { HearRow, HookLink, HttpLink, LinkWire, MqttLink, OwnLink, SayRow, SignTable, Text } from './types'

/** Tables with their secrets filled in. */
type Filled<T> = {
  readonly [K in keyof T]: T[K] extends Text
    ? string
    : T[K] extends Text | null
      ? string | null
      : T[K] extends readonly Text[]
        ? readonly string[]
        : T[K]
}
export type PlainSay = Filled<SayRow>
export type PlainHear = Filled<HearRow>
interface Rows {
  readonly says: readonly PlainSay[]
  readonly hears: readonly PlainHear[]
}
export type PlainLink =
  | Pick<OwnLink, 'transport' | 'id'>
  | ({
      readonly transport: 'mqtt'
      readonly id: string
      readonly status: (Omit<NonNullable<MqttLink['status']>, 'topic'> & { readonly topic: string }) | null
      readonly log: string | null
      readonly count: { readonly topic: string; readonly pointer: string | null } | null
      readonly sign: PlainSign | null
      /** topics that are heard, each once, in the order of the rows; the count first */
      readonly filters: readonly string[]
    } & Rows)
  | ({
      readonly transport: 'http'
      readonly id: string
      readonly method: string
      readonly read: HttpLink['read']
    } & Rows)
  | ({
      readonly transport: 'hook'
      readonly id: string
      readonly key: string
      readonly keyInPath: boolean
      readonly call: { readonly method: string } | null
    } & Rows)

export const filledText = (text: Text, reveal: (secret: string) => string): string =>
  text.map((part) => (typeof part === 'string' ? part : reveal(part.secret))).join('')

export const plainSign = (sign: SignTable | null, fill: (text: Text) => string): PlainSign | null =>
  sign && {
    key: fill(sign.key),
    before: fill(sign.before),
    between: sign.between && fill(sign.between),
    after: fill(sign.after),
  }

export function plainLink(link: LinkWire, reveal: (secret: string) => string): PlainLink {
  const fill = (text: Text): string => filledText(text, reveal)
  if (link.transport === 'own') return { transport: 'own', id: link.id }
  const rows: Rows = {
    says: link.says.map((row) => ({ ...row, to: fill(row.to), before: fill(row.before), after: fill(row.after) })),
    hears: link.hears.map((row) => ({ ...row, from: fill(row.from) })),
  }
  if (link.transport === 'http')
    return { transport: 'http', id: link.id, method: link.method, read: link.read, ...rows }
  if (link.transport === 'hook') return plainHook(link, fill, rows)
  const { status, log, count, sign } = link
  const counted = count && { ...count, topic: fill(count.topic) }
  return {
    transport: 'mqtt',
    id: link.id,
    status: status && { ...status, topic: fill(status.topic) },
    log: log && fill(log),
    count: counted,
    sign: plainSign(sign, fill),
    filters: [...new Set([...(counted ? [counted.topic] : []), ...rows.hears.map(({ from }) => from)])],
    ...rows,
  }
}

const plainHook = (link: HookLink, fill: (text: Text) => string, rows: Rows): PlainLink => ({
  transport: 'hook',
  id: link.id,
  key: fill(link.key),
  keyInPath: link.keyInPath,
  call: link.call && { method: link.call.method },
  ...rows,
})
