import { documentOf, numberIn, wordOf, json } from './farEndValues'
import { filledText } from './plain'
import type { HearRow, HookLink, HttpLink, SayRow, Text } from './types'

/**
 * The other end of a wire of requests: what a service makes of what a board asks and writes, and how a bridge calls a
 * board. For stand-ins and tests; written against the tables only, and apart from the engine, which it is held against.
 */
export interface Asked {
  readonly method: string
  readonly path: string
  /** of the head, names in lower case */
  readonly headers: Readonly<Record<string, string | undefined>>
  readonly body: string
}

export type Understood =
  /** the path is none of this board's */
  | { readonly kind: 'unknown' }
  /** the head does not say what it must */
  | { readonly kind: 'no key' }
  /** it reads; `of`: the points that it is told, as the board names them */
  | { readonly kind: 'read'; readonly rows: readonly ReadRow[] }
  | { readonly kind: 'value'; readonly point: string; readonly value?: number; readonly text: string }
interface ReadRow {
  readonly point: string
  readonly say: (value: number) => string
  readonly pointer: string | null
}

/** A call of a board's own port. */
export interface Called {
  readonly method: 'POST'
  readonly path: string
  readonly headers: Readonly<Record<string, string>>
}

export class RequestFarEnd {
  /** as it is when the far end is made: another one is another far end */
  readonly heads: readonly (readonly [name: string, value: string])[]

  constructor(
    private readonly link: HttpLink | HookLink,
    private readonly reveal: (secret: string) => string,
  ) {
    const lines = link.transport === 'http' ? link.headers : (link.call?.headers ?? [])
    this.heads = lines.map((line) => {
      const whole = this.text(line)
      const colon = whole.indexOf(':')
      return [whole.slice(0, colon).toLowerCase(), whole.slice(colon + 1).trim()]
    })
  }

  private text(text: Text): string {
    return filledText(text, this.reveal)
  }

  /** How often it is asked, ms; null: never. */
  get everyMs(): number | null {
    return this.link.transport === 'http' ? (this.link.read?.everyMs ?? null) : null
  }

  /** The path that a row is read from. */
  pathOf({ from }: Pick<HearRow, 'from'>): string {
    return this.text(from)
  }

  /** What a board's request says. An empty key opens to nobody. */
  takes({ method, path, headers, body }: Asked): Understood {
    const read = method === 'GET' ? this.rowsAt(path) : []
    const row = method === this.method ? this.link.says.find(({ to }) => this.text(to) === path) : undefined
    if (read.length === 0 && !row) return { kind: 'unknown' }
    const hasKey = this.heads.every(([name, value]) => headers[name] === value && !/^(bearer)?$/i.test(value))
    if (!hasKey) return { kind: 'no key' }
    if (row) return this.written(row, body)
    return { kind: 'read', rows: read }
  }

  private get method(): string | undefined {
    return this.link.transport === 'http' ? this.link.method : this.link.call?.method
  }

  private rowsAt(path: string): ReadRow[] {
    if (this.link.transport !== 'http' || !this.link.read) return []
    return this.link.hears.flatMap((row) =>
      this.text(row.from) === path
        ? [{ point: row.to, pointer: row.pointer, say: (value: number) => wordOf(row.coding, value) }]
        : [],
    )
  }

  private written(row: SayRow, body: string): Understood {
    const [before, after] = [this.text(row.before), this.text(row.after)]
    const isWhole = body.length >= before.length + after.length && body.startsWith(before) && body.endsWith(after)
    const inner = isWhole ? body.slice(before.length, body.length - after.length) : ''
    return { kind: 'value', point: row.from.replace(/\/state$/, ''), ...numberIn(row.coding, inner), text: body }
  }

  /** How a bridge asks a board for a value; `once`: another one for each wish. Undefined: it cannot be set. */
  call(point: string, value: number, once: string): Called | undefined {
    const { link } = this
    const row = link.transport === 'hook' ? link.hears.find(({ to }) => to === point) : undefined
    if (link.transport !== 'hook' || !row) return undefined
    const key = this.text(link.key)
    const path = `${this.text(row.from)}${wordOf(row.coding, value)}`
    const headers = { 'Idempotency-Key': once }
    return link.keyInPath
      ? { method: 'POST', path: `/${key}${path}`, headers }
      : { method: 'POST', path, headers: { 'X-Key': key, ...headers } }
  }
}

/** What a read is answered with: a document with each value at its place, or the one value. */
export function readAnswer(rows: readonly ReadRow[], valueOf: (point: string) => number): string {
  const members = rows.flatMap(({ point, pointer, say }) =>
    pointer === null ? [] : [[pointer, json(say(valueOf(point)))] as const],
  )
  const plain = rows.find(({ pointer }) => pointer === null)
  return plain ? plain.say(valueOf(plain.point)) : documentOf(members)
}
