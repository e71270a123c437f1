import { connect, type Socket } from 'node:net'
import type { ModemDialogue } from '../../core/boards'

/**
 * A modem as a small stand-in: it answers on its serial line as ITU-T V.250 and 3GPP TS 27.007 say (clauses from
 * memory, where they are obeyed), opens connections by the commands of the profile, and passes bytes to real sockets of
 * this machine. It demands the access point and the login that the network's operator gave, and can be made to fail.
 */
export interface ModemNetwork {
  readonly apn: string
  /** empty: the network asks for none */
  readonly user: string
  readonly password: string
}

export interface ModemFaults {
  /** no answer to anything */
  readonly silent: boolean
  /** searching, not registered (3GPP TS 27.007, 7.2: 2) */
  readonly unregistered: boolean
  /** 0 to 31, 99: unknown (8.5) */
  readonly signal: number
  /** the card asks for its PIN (8.3) */
  readonly locked: boolean
}
export const NO_MODEM_FAULTS: ModemFaults = { silent: false, unregistered: false, signal: 17, locked: false }

interface Options {
  readonly dialogue: ModemDialogue
  readonly network: ModemNetwork
  /** bytes towards the board */
  readonly write: (bytes: Buffer) => void
  /** from power, or a restart, to its first answer, ms */
  readonly startMs: number
  /** from its first answer to being registered, ms */
  readonly registerMs: number
}

const AT_HOME = 1
const SEARCHING = 2
/** The longest piece of data that is handed over in one go. */
const PIECE = 128

/** A text of the profile as what it looks like on the line. */
const asPattern = (template: string): RegExp =>
  new RegExp(
    `^${template
      .replace(/[.*+?^$()|[\]\\]/g, '\\$&')
      .replace('{address}', '(?<address>[^"]*)')
      .replace('{port}', '(?<port>\\d+)')
      .replace('{length}', '(?<length>\\d+)')}$`,
  )

export class ModemStandIn {
  faults: ModemFaults = NO_MODEM_FAULTS
  restarts = 0
  /** bytes of connections, both ways */
  bytes = 0
  readonly commands: string[] = []
  private readonly patterns: Readonly<Record<'open' | 'send' | 'close', RegExp>>
  private startsAt = 0
  private echo = true
  private attached = false
  private context = ''
  private login = ''
  private active = false
  private line = ''
  private wanted = 0
  private collected: number[] = []
  private socket: Socket | null = null

  constructor(private readonly options: Options) {
    const { open, send, close } = options.dialogue
    this.patterns = { open: asPattern(open), send: asPattern(send), close: asPattern(close) }
    this.starts()
  }

  /** Power, or a restart. */
  starts(): void {
    this.startsAt = Date.now() + this.options.startMs
    this.echo = true
    this.attached = this.active = false
    this.context = this.login = this.line = ''
    this.wanted = 0
    this.collected = []
    this.drops()
  }

  stop(): void {
    this.drops()
  }

  /** Bytes from the board. */
  takes(bytes: Buffer): void {
    for (const byte of bytes) this.takesByte(byte)
  }

  /** The connection goes, as networks drop one; the board is told. */
  cut(): void {
    if (!this.socket) return
    this.drops()
    this.says(this.options.dialogue.closed)
  }

  private get answers(): boolean {
    return !this.faults.silent && Date.now() >= this.startsAt
  }

  private get registration(): number {
    const found = Date.now() >= this.startsAt + this.options.registerMs
    return found && !this.faults.unregistered ? AT_HOME : SEARCHING
  }

  private takesByte(byte: number): void {
    if (!this.answers) return
    if (this.wanted > 0) {
      this.collected.push(byte)
      if (--this.wanted === 0) this.sends()
      return
    }
    // V.250, 5.2.4: echo
    if (this.echo) this.options.write(Buffer.from([byte]))
    const character = String.fromCharCode(byte)
    // V.250, 5.2.1: S3, carriage return, ends a line; others are no part of it
    if (character === '\r') {
      const { line } = this
      this.line = ''
      if (line !== '') this.command(line)
    } else if (byte >= 0x20) {
      this.line += character
    }
  }

  /** V.250, 5.7.1: each line of an answer between line ends. */
  private says(...lines: readonly string[]): void {
    if (this.answers) this.options.write(Buffer.from(lines.map((line) => `\r\n${line}\r\n`).join('')))
  }

  private command(line: string): void {
    this.commands.push(line)
    const { open, send, close } = this.patterns
    const opened = open.exec(line)?.groups
    const sent = send.exec(line)?.groups
    if (opened) return this.opens(opened['address']!, Number(opened['port']))
    if (sent) return this.prompts(Number(sent['length']))
    if (close.test(line)) return this.closes()
    if (line === 'AT+CFUN=1,1') return this.restart()
    this.says(...this.standard(line))
  }

  /** Commands of the standards, with their answers. */
  private standard(line: string): string[] {
    const ok = (holds: boolean): string[] => [holds ? 'OK' : 'ERROR']
    const [name, value] = [line.split('=')[0], line.slice(line.indexOf('=') + 1)]
    switch (name) {
      case 'AT':
        return ['OK']
      case 'ATE0':
        this.echo = false
        return ['OK']
      case 'AT+CPIN?':
        return [this.faults.locked ? '+CPIN: SIM PIN' : '+CPIN: READY', 'OK']
      case 'AT+CSQ':
        return [`+CSQ: ${this.faults.signal},99`, 'OK']
      case 'AT+CREG?':
        return [`+CREG: 0,${this.registration}`, 'OK']
      case 'AT+CGATT':
        this.attached = value === '1' && this.registration === AT_HOME
        return ok(this.attached)
      case 'AT+CGDCONT':
        this.context = /^1,"IP","([^"]*)"$/.exec(value)?.[1] ?? ''
        return ok(this.context !== '')
      case 'AT+CGAUTH':
        this.login = value
        return ok(/^1,1,"[^"]*","[^"]*"$/.test(value))
      case 'AT+CGACT':
        this.active = value === '1,1' && this.attached && this.isLetIn
        return ok(this.active)
      default:
        // V.250, 5.7.1
        return ['ERROR']
    }
  }

  private get isLetIn(): boolean {
    const { apn, user, password } = this.options.network
    return this.context === apn && this.login === (user === '' ? '' : `1,1,"${user}","${password}"`)
  }

  private restart(): void {
    this.says('OK')
    this.restarts++
    this.starts()
  }

  // ---- the connection ----

  private opens(address: string, port: number): void {
    if (!this.active || this.socket) return this.says('ERROR')
    // nothing of a stand-in leaves this machine
    if (!['127.0.0.1', 'localhost', '::1'].includes(address)) return this.says('ERROR')
    const socket = connect(port, address)
    this.socket = socket
    socket.setNoDelay(true)
    socket.once('connect', () => this.says(this.options.dialogue.opened))
    socket.on('data', (data) => this.arrives(data))
    socket.on('error', () => socket.destroy())
    socket.once('close', () => {
      if (this.socket !== socket) return
      this.socket = null
      this.says(this.options.dialogue.closed)
    })
  }

  private arrives(data: Buffer): void {
    this.bytes += data.length
    for (let at = 0; at < data.length; at += PIECE) {
      const piece = data.subarray(at, at + PIECE)
      if (!this.answers) return
      this.options.write(Buffer.from(`\r\n${this.options.dialogue.arrives} ${piece.length}\r\n`))
      this.options.write(piece)
    }
  }

  private prompts(length: number): void {
    if (!this.socket || length < 1 || length > this.options.dialogue.most) return this.says('ERROR')
    this.wanted = length
    this.collected = []
    this.options.write(Buffer.from(`\r\n${this.options.dialogue.prompt} `))
  }

  private sends(): void {
    const bytes = Buffer.from(this.collected)
    if (!this.socket) return this.says('ERROR')
    this.bytes += bytes.length
    this.socket.write(bytes)
    this.says(this.options.dialogue.sent)
  }

  private closes(): void {
    if (!this.socket) return this.says('ERROR')
    this.drops()
    this.says(this.options.dialogue.closed, 'OK')
  }

  private drops(): void {
    const { socket } = this
    this.socket = null
    socket?.destroy()
  }
}
