import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { once } from 'node:events'
import type { ControllerImage } from '../core/image'
import { avrChip, outputsByPin, simulator, type Output } from './avr'

/** What the simulated board took, once it has ended. */
export interface Taken {
  readonly worstCycles: number
  readonly memory: number
  readonly troubles: readonly string[]
}

/** The simulated 8-bit board in real time, with whatever hangs on its serial port. */
export class LiveBoard {
  readonly outputs: { readonly out: string; readonly level: 0 | 1; readonly atMs: number }[] = []
  private readonly closed = new Map<string, boolean>()
  private readonly rows = new Map<string, string>()
  private readonly troubles: string[] = []
  private readonly ended: Promise<unknown>
  private readonly names: ReadonlyMap<number, Output>

  constructor(
    private readonly child: ChildProcessWithoutNullStreams,
    private readonly image: ControllerImage,
    private readonly onBytes: (bytes: Buffer) => void,
  ) {
    this.names = outputsByPin(image)
    this.ended = once(child, 'close')
    let buffer = ''
    child.stdout.on('data', (data: Buffer) => {
      const lines = (buffer + data.toString()).split('\n')
      buffer = lines.pop()!
      for (const line of lines) if (line) this.take(line)
    })
    // it may have ended by itself
    child.stdin.on('error', () => {})
    for (const { id } of image.inputs) this.press(id, false)
    this.power(true)
  }

  /** Bytes for the board's serial port. */
  write(bytes: Buffer): void {
    this.tell(`B ${bytes.toString('hex')}`)
  }

  /** An input's contacts: closed or open. */
  press(id: string, closed: boolean): void {
    const input = this.image.inputs.find((candidate) => candidate.id === id)!
    for (const gpio of input.gpios) this.tell(`P ${gpio} ${closed ? input.closedLevel : 1 - input.closedLevel}`)
  }

  power(on: boolean): void {
    this.tell(on ? 'R' : 'O')
  }

  isClosed(out: string): boolean {
    return this.closed.get(out) === true
  }

  /** Ends it, and says what it took. */
  async stop(): Promise<Taken> {
    this.tell('E')
    await this.ended
    return {
      worstCycles: Number((this.rows.get('W') ?? '0').split(' ')[0]),
      memory: Number(this.rows.get('M') ?? 0),
      troubles: this.troubles,
    }
  }

  private tell(command: string): void {
    if (this.child.stdin.writable) this.child.stdin.write(`${command}\n`)
  }

  private take(row: string): void {
    const [letter, ...words] = row.split(' ')
    if (letter === 'U') return this.onBytes(Buffer.from(words[0]!, 'hex'))
    if (letter === 'X') return void this.troubles.push(words.join(' '))
    if (letter !== 'D') return void this.rows.set(letter!, words.join(' '))
    const pin = this.names.get(Number(words[1]))
    if (!pin) return
    const level = (words[2] === '1') !== pin.activeLow ? 1 : 0
    this.outputs.push({ out: pin.name, level, atMs: Number(words[0]) / 1000 })
    this.closed.set(pin.name, level === 1)
  }
}

/** Starts a program on the simulator, contacts open, power on. Throws FirmwareRefused. */
export async function startLiveBoard(
  program: string,
  image: ControllerImage,
  baud: number,
  onBytes: (bytes: Buffer) => void,
): Promise<LiveBoard> {
  const pins = [...outputsByPin(image)].map(([gpio, { activeLow }]) => `${gpio}:${activeLow ? 1 : 0}`)
  const child = spawn(await simulator(), [program, await avrChip(), 'live', String(baud), ...pins])
  return new LiveBoard(child, image, onBytes)
}
