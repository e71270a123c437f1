import type { RigBoard } from '../core/api'
import type { ImageChannel, ImageLink } from '../core/image'
import { outputName } from '../core/site'

const LONGEST_LIST = 80

const DELETED = 'its credentials are deleted'

const PAIRING_WORDS: Readonly<Record<string, string>> = {
  offered: 'is ready to pair',
  paired: 'is paired',
  over: 'can no longer be paired',
}

interface Line {
  readonly out?: string
  readonly level?: number
  readonly pub?: { readonly topic: string; readonly payload: string }
  readonly of?: string
  readonly link?: string
  readonly note?: string
  readonly line?: string
  readonly char?: string
  readonly do?: string
  readonly pairing?: string
}

/** What a board of the rig prints, read for the screen: pins, links, and the last of what it says. */
export class RigLines {
  /** it is ready to pair */
  isOffered = false
  private rest = ''
  private readonly outputs: Record<string, 0 | 1>
  private readonly links: { id: string; state: 'down' | 'joining' | 'up'; note: string | null }[]
  private readonly said: { at: string; text: string }[] = []

  constructor(
    channels: readonly Pick<ImageChannel, 'id' | 'kind' | 'gpios'>[],
    links: readonly ImageLink[],
    private readonly overLine: (said: { line: string } | { char: string }) => void,
  ) {
    this.outputs = Object.fromEntries(
      channels.flatMap((channel) => channel.gpios.map((_, contact) => [outputName(channel, contact), 0 as const])),
    )
    this.links = links.map(({ id }) => ({ id, state: 'down', note: null }))
  }

  state(): Pick<RigBoard, 'outputs' | 'links' | 'said'> {
    return { outputs: { ...this.outputs }, links: this.links.map((link) => ({ ...link })), said: [...this.said] }
  }

  take(text: string): void {
    const parts = (this.rest + text).split('\n')
    this.rest = parts.pop()!
    for (const part of parts) {
      try {
        this.line(JSON.parse(part) as Line)
      } catch {
        this.odd(part)
      }
    }
  }

  odd(text: string): void {
    this.said.push({ at: new Date().toISOString(), text })
    if (this.said.length > LONGEST_LIST) this.said.splice(0, this.said.length - LONGEST_LIST)
  }

  private line(line: Line): void {
    const link = this.links.find(({ id }) => id === line.of) ?? this.links[0]
    if (line.out !== undefined) {
      this.outputs[line.out] = line.level === 1 ? 1 : 0
      return this.odd(`${line.out} ${line.level === 1 ? 'closes' : 'opens'}`)
    }
    if (line.pub) {
      const words = line.pub.topic.split('/').slice(3).join('/')
      if (link && words === 'status') Object.assign(link, { state: 'up', note: null })
      return this.odd(`${link?.id ?? ''}: ${words} ${line.pub.payload}`)
    }
    if (line.line !== undefined) return this.overLine({ line: line.line })
    if (line.char !== undefined) return this.overLine({ char: line.char })
    // without credentials it only waits
    if (line.link === 'joining' && link && link.note !== DELETED) link.state = 'joining'
    if (line.note !== undefined && link) {
      // a note about one message ends nothing
      if (!/, (ignored|refused|waiting)$/.test(line.note)) Object.assign(link, { state: 'down', note: line.note })
      this.odd(`${link.id}: ${line.note}`)
    }
    if (line.do !== undefined) this.does(line.do)
    if (line.pairing === undefined) return
    this.isOffered = line.pairing === 'offered'
    if (line.pairing === 'paired') for (const link of this.links) if (link.note === DELETED) link.note = null
    this.odd(PAIRING_WORDS[line.pairing] ?? line.pairing)
  }

  private does(action: string): void {
    if (action === 'pair') return this.odd('starts pairing')
    for (const link of this.links) Object.assign(link, { state: 'down', note: DELETED })
    this.odd('credentials deleted')
  }
}
