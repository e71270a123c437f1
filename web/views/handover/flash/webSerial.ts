import type { SerialPort } from '../../../../core/flash'

/** What this page uses of the browser's serial ports (Web Serial, a draft of the WICG). */
interface BrowserPort {
  open(options: { baudRate: number }): Promise<void>
  close(): Promise<void>
  readonly readable: ReadableStream<Uint8Array> | null
  readonly writable: WritableStream<Uint8Array> | null
}
interface BrowserSerial {
  requestPort(): Promise<BrowserPort>
}

const serialOf = (): BrowserSerial | undefined => (navigator as unknown as { serial?: BrowserSerial }).serial

export const hasSerial = (): boolean => serialOf() !== undefined

/** A port of the browser that is open: characters come to whoever reads, and to whoever only listens. */
export class OpenPort implements SerialPort {
  private readonly waiting: string[] = []
  private wake: (() => void) | null = null
  private closed = false
  private reader: ReadableStreamDefaultReader<Uint8Array> | null = null

  private constructor(
    private readonly port: BrowserPort,
    private readonly onText: (text: string) => void,
    private readonly onEnd: () => void,
  ) {
    void this.reads()
  }

  /** Asks the person for a port, and opens it. */
  static async ask(baudRate: number, onText: (text: string) => void, onEnd: () => void): Promise<OpenPort> {
    const port = await serialOf()!.requestPort()
    await port.open({ baudRate })
    return new OpenPort(port, onText, onEnd)
  }

  private async reads(): Promise<void> {
    try {
      this.reader = this.port.readable!.getReader()
      for (;;) {
        const { value, done } = await this.reader.read()
        if (done) break
        // latin 1: one character for each byte
        const text = String.fromCharCode(...value)
        this.waiting.push(...text)
        // nobody reads while the log is only shown
        if (this.waiting.length > 4_096) this.waiting.splice(0, this.waiting.length - 4_096)
        this.onText(text)
        this.wake?.()
      }
    } catch {
      // the plug was pulled
    }
    if (!this.closed) this.onEnd()
  }

  async write(text: string): Promise<void> {
    const writer = this.port.writable!.getWriter()
    try {
      await writer.write(Uint8Array.from(text, (character) => character.charCodeAt(0)))
    } finally {
      writer.releaseLock()
    }
  }

  async read(withinMs: number): Promise<string | null> {
    if (this.waiting.length === 0)
      await new Promise<void>((resolve) => {
        const timer = setTimeout(resolve, withinMs)
        this.wake = () => {
          clearTimeout(timer)
          resolve()
        }
      })
    this.wake = null
    return this.waiting.shift() ?? null
  }

  async close(): Promise<void> {
    this.closed = true
    await this.reader?.cancel().catch(() => undefined)
    this.reader?.releaseLock()
    await this.port.close().catch(() => undefined)
  }
}
