/** A message broker in memory: MQTT 3.1.1's topic filters, retained messages and wills, without the wire. */
export interface Message {
  readonly topic: string
  readonly payload: string
  readonly retain: boolean
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

export interface Client {
  readonly name: string
  readonly filters: Set<string>
  readonly will: Message | null
  receive(message: Message): void
}

const MOST_COMMANDS = 64

export class Broker {
  private readonly clients = new Map<string, Client>()
  private readonly retained = new Map<string, string>()
  /** who hears a topic, by topic: the same few are said all day. Forgotten when anybody comes, goes or subscribes. */
  private readonly hearers = new Map<string, readonly Client[]>()

  /** the last commands, as a broker may keep and send them once more */
  private readonly commands: Message[] = []

  connect(client: Client): void {
    this.clients.set(client.name, client)
    this.hearers.clear()
  }

  private hearersOf(topic: string): readonly Client[] {
    const known = this.hearers.get(topic)
    if (known) return known
    const found = [...this.clients.values()].filter(({ filters }) =>
      [...filters].some((filter) => matches(filter, topic)),
    )
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
    client.filters.add(filter)
    this.hearers.clear()
    // 3.3.1.3: retained messages reach a new subscription with the retain flag set.
    for (const [topic, payload] of this.retained)
      if (matches(filter, topic)) client.receive({ topic, payload, retain: true })
  }

  publish(message: Message): void {
    if (message.retain) {
      if (message.payload === '') this.retained.delete(message.topic)
      else this.retained.set(message.topic, message.payload)
    }
    if (message.topic.endsWith('/set')) this.keeps(message)
    for (const client of this.hearersOf(message.topic)) client.receive({ ...message, retain: false })
  }

  private keeps(command: Message): void {
    this.commands.push(command)
    if (this.commands.length > MOST_COMMANDS) this.commands.shift()
  }

  /** Says the last commands once more, as something remembered (MQTT 3.1.1, 3.3.1.3). */
  replay(): void {
    for (const command of [...this.commands])
      for (const client of this.hearersOf(command.topic)) client.receive({ ...command, retain: true })
  }
}
