/** A message broker in memory: MQTT 3.1.1's topic filters, retained messages and wills, without the wire. */
export interface Message {
  readonly topic: string
  readonly payload: string
  readonly retain: boolean
}

/** What stands before a filter's first wildcard: a topic that does not begin so cannot match it. */
export function literalStart(filter: string): string {
  const wild = filter.search(/[+#]/)
  // "a/#" matches "a" too (4.7.1.2)
  return wild < 0 ? filter : filter.slice(0, wild).replace(/\/$/, '')
}

/** Does a topic match a filter? MQTT 3.1.1, 4.7: `+` stands for one level, `#` for all that follow. */
export function matches(filter: string, topic: string): boolean {
  const wanted = filter.split('/')
  const levels = topic.split('/')
  for (let i = 0; i < wanted.length; i++) {
    if (wanted[i] === '#') return true
    if (i >= levels.length || (wanted[i] !== '+' && wanted[i] !== levels[i])) return false
  }
  return wanted.length === levels.length
}

/** Who is connected. */
export interface Client {
  readonly name: string
  readonly will: Message | null
}

interface Connected extends Client {
  /** each filter, with what stands before its first wildcard */
  readonly filters: Map<string, string>
}

/** What the broker sends, and to whom. */
export type Deliver = (client: string, message: Message) => void

const MOST_COMMANDS = 64

function hears(filters: ReadonlyMap<string, string>, topic: string): boolean {
  for (const [filter, start] of filters) if (topic.startsWith(start) && matches(filter, topic)) return true
  return false
}

export class Broker {
  private readonly clients = new Map<string, Connected>()
  private readonly retained = new Map<string, string>()
  /** who hears a topic, by topic: the same few are said all day. Forgotten when anybody comes, goes or subscribes. */
  private readonly hearers = new Map<string, readonly Connected[]>()

  /** the last commands, as a broker may keep and send them once more */
  private readonly commands: Message[] = []

  constructor(private readonly deliver: Deliver) {}

  connect(client: Client): void {
    this.clients.set(client.name, { ...client, filters: new Map() })
    this.hearers.clear()
  }

  private hearersOf(topic: string): readonly Connected[] {
    const known = this.hearers.get(topic)
    if (known) return known
    const found = [...this.clients.values()].filter(({ filters }) => hears(filters, topic))
    this.hearers.set(topic, found)
    return found
  }

  /** The connection ends without DISCONNECT: the will goes out (MQTT 3.1.1, 3.1.2.5). */
  drop(name: string): void {
    const client = this.clients.get(name)
    if (!client) return
    this.clients.delete(name)
    this.hearers.clear()
    if (client.will) this.publish(client.will)
  }

  subscribe(name: string, filter: string): void {
    const client = this.clients.get(name)
    if (!client) return
    const start = literalStart(filter)
    client.filters.set(filter, start)
    this.hearers.clear()
    // 3.3.1.3: retained messages reach a new subscription with the retain flag set.
    for (const [topic, payload] of this.retained)
      if (topic.startsWith(start) && matches(filter, topic)) this.deliver(name, { topic, payload, retain: true })
  }

  publish(message: Message): void {
    if (message.retain) {
      if (message.payload === '') this.retained.delete(message.topic)
      else this.retained.set(message.topic, message.payload)
    }
    if (message.topic.endsWith('/set')) this.keeps(message)
    for (const client of this.hearersOf(message.topic)) this.deliver(client.name, { ...message, retain: false })
  }

  private keeps(command: Message): void {
    this.commands.push(command)
    if (this.commands.length > MOST_COMMANDS) this.commands.shift()
  }

  /** Says the last commands once more, as something remembered (MQTT 3.1.1, 3.3.1.3). */
  replay(): void {
    for (const command of [...this.commands])
      for (const client of this.hearersOf(command.topic)) this.deliver(client.name, { ...command, retain: true })
  }

  /** The same broker once more, as it stands; what it sends goes to another house. */
  copy(deliver: Deliver): Broker {
    const copied = new Broker(deliver)
    for (const [name, client] of this.clients) copied.clients.set(name, { ...client, filters: new Map(client.filters) })
    for (const [topic, payload] of this.retained) copied.retained.set(topic, payload)
    copied.commands.push(...this.commands)
    return copied
  }
}
