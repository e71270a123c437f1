import { documentOf, json, numberIn, wordOf } from './farEndValues'
import type { HearRow, MqttLink, SayRow, Text } from './types'
import { filledText, plainSign } from './plain'
import { signed, verified } from './sign'

/**
 * The other end of a wire over MQTT: what a service makes of what a board says, and how it says what a person wishes.
 * For stand-ins and tests; written against the tables only, and apart from the engine, which it is held against.
 */
export interface Said {
  /** forged: the signature is missing or wrong */
  readonly kind: 'value' | 'status' | 'log' | 'unknown' | 'forged'
  /** of a value: the board's own name for it, "vp/7" */
  readonly point?: string
  /** in the point's own numbers; undefined: no value of it */
  readonly value?: number
  readonly text: string
}

export interface WireMessage {
  readonly topic: string
  readonly payload: string
}

export class FarEnd {
  /** as it is when the far end is made: another one is another far end */
  readonly login: { readonly client: string; readonly user: string; readonly password: string }

  constructor(
    private readonly link: MqttLink,
    private readonly reveal: (secret: string) => string,
  ) {
    const { client, user, password } = link
    this.login = { client: this.text(client), user: this.text(user), password: this.text(password) }
  }

  private signs({ topic, payload }: WireMessage): WireMessage {
    return {
      topic,
      payload: signed(
        plainSign(this.link.sign, (text) => this.text(text)),
        topic,
        payload,
      ),
    }
  }

  private text(text: Text): string {
    return filledText(text, this.reveal)
  }

  /** Topics that a board of this wire may hear. */
  get heard(): string[] {
    const rows = this.link.hears.map(({ from }) => this.text(from))
    return [...new Set([...(this.link.count ? [this.text(this.link.count.topic)] : []), ...rows])]
  }

  /** What a board says. */
  says(topic: string, payload: string): Said {
    const { status, log, says } = this.link
    if (status && topic === this.text(status.topic))
      return { kind: 'status', text: payload === status.online ? 'online' : 'offline' }
    if (log && topic === this.text(log)) return { kind: 'log', text: payload }
    const said = verified(
      plainSign(this.link.sign, (text) => this.text(text)),
      topic,
      payload,
    )
    if (said === undefined) return { kind: 'forged', text: payload }
    for (const row of says) {
      const inner = topic === this.text(row.to) ? this.inside(row, said) : undefined
      if (inner !== undefined)
        return { kind: 'value', point: row.from.replace(/\/state$/, ''), ...numberIn(row.coding, inner), text: payload }
    }
    return { kind: 'unknown', text: payload }
  }

  private inside(row: SayRow, payload: string): string | undefined {
    const [before, after] = [this.text(row.before), this.text(row.after)]
    return payload.length >= before.length + after.length && payload.startsWith(before) && payload.endsWith(after)
      ? payload.slice(before.length, payload.length - after.length)
      : undefined
  }

  /** A wish for a point, with its number; undefined: the point cannot be set. */
  wish(point: string, value: number, count: number): WireMessage | undefined {
    const row = this.rowOf(point, 'wish')
    if (!row) return undefined
    const { count: counted } = this.link
    const word = wordOf(row.coding, value)
    const topic = this.text(row.from)
    if (row.pointer === null) return this.signs({ topic, payload: counted ? `${word} ${count}` : word })
    const values = [[row.pointer, json(word)] as const]
    const payload = documentOf(counted?.pointer ? [...values, [counted.pointer, String(count)]] : values)
    return this.signs({ topic, payload })
  }

  /** What is remembered: a message for each point, or one for all. */
  held(values: readonly (readonly [point: string, value: number])[]): WireMessage[] {
    const rows = values.flatMap(([point, value]) => {
      const row = this.rowOf(point, 'held')
      return row ? [{ row, word: wordOf(row.coding, value) }] : []
    })
    const plain = rows.filter(({ row }) => row.pointer === null)
    const documents = new Map<string, (readonly [string, string])[]>()
    for (const { row, word } of rows)
      if (row.pointer !== null) {
        const topic = this.text(row.from)
        documents.set(topic, [...(documents.get(topic) ?? []), [row.pointer, json(word)]])
      }
    return [
      ...plain.map(({ row, word }) => ({ topic: this.text(row.from), payload: word })),
      ...[...documents].map(([topic, members]) => ({ topic, payload: documentOf(members) })),
    ].map((message) => this.signs(message))
  }

  /** The number of the last wish; undefined: wishes bear none. */
  lastCount(count: number): WireMessage | undefined {
    const { count: counted } = this.link
    if (!counted) return undefined
    const payload = counted.pointer === null ? String(count) : documentOf([[counted.pointer, String(count)]])
    return this.signs({ topic: this.text(counted.topic), payload })
  }

  private rowOf(point: string, meaning: HearRow['meaning']): HearRow | undefined {
    return this.link.hears.find((row) => row.to === point && row.meaning === meaning)
  }
}
