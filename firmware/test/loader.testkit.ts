import { spawn, type ChildProcessWithoutNullStreams } from 'node:child_process'
import { LOADER_BAUD, type SerialPort } from '../../core/flash'
import { avrChip, buildLoader, loaderSimulator } from '../avr'

let open: ChildProcessWithoutNullStreams[] = []
export const closeBoards = (): void => {
  for (const child of open) child.kill('SIGKILL')
  open = []
}

/** The simulated board with its loader, and the serial port at its other end. */
export class Board implements SerialPort {
  begun = 0
  /** characters that it has sent, and nobody has read yet */
  readonly said: string[] = []
  private flash: ((hex: string) => void) | null = null
  /** spoils a byte on its way to the board */
  spoils: (text: string) => string = (text) => text

  constructor(private readonly child: ChildProcessWithoutNullStreams) {
    let buffer = ''
    child.stdout.on('data', (data: Buffer) => {
      const lines = (buffer + data.toString()).split('\n')
      buffer = lines.pop()!
      for (const line of lines) this.takes(line)
    })
    child.stdin.on('error', () => undefined)
  }
  static async of(): Promise<Board> {
    const [sim, loader, chip] = await Promise.all([loaderSimulator(), buildLoader(), avrChip()])
    const child = spawn(sim, [loader, chip, String(LOADER_BAUD)])
    open.push(child)
    const board = new Board(child)
    board.tells('R')
    return board
  }
  private takes(line: string): void {
    if (line.startsWith('U ')) this.said.push(String.fromCharCode(Number.parseInt(line.slice(2), 16)))
    else if (line === 'S') this.begun++
    else if (line.startsWith('F ')) this.flash?.(line.slice(2))
  }
  tells(command: string): void {
    this.child.stdin.write(`${command}\n`)
  }
  write(text: string): Promise<void> {
    this.tells(`B ${Buffer.from(this.spoils(text), 'latin1').toString('hex')}`)
    return Promise.resolve()
  }
  async read(withinMs: number): Promise<string | null> {
    for (const end = Date.now() + withinMs; Date.now() < end; await new Promise((resolve) => setTimeout(resolve, 2))) {
      const next = this.said.shift()
      if (next !== undefined) return next
    }
    return this.said.shift() ?? null
  }
  async inFlash(): Promise<Buffer> {
    const hex = await new Promise<string>((resolve) => {
      this.flash = resolve
      this.tells('F')
    })
    return Buffer.from(hex, 'hex')
  }
  async begins(): Promise<void> {
    for (const end = Date.now() + 8_000; this.begun === 0; await new Promise((resolve) => setTimeout(resolve, 20)))
      if (Date.now() > end) throw new Error('the program never began')
  }
}
