import type { Socket } from 'node:net'
import { Duplex } from 'node:stream'

/** Largest packet that is read, bytes: what we send is a hundredth of it (common practice for such brokers). */
export const LARGEST_PACKET = 65_536
/** What may wait for one subscriber, bytes; the system holds some more. */
export const MOST_WAITING = 1_048_576

/** Follows the frames of a connection (MQTT 3.1.1, 2.2: a byte of kind, a length of one to four bytes, the rest). */
export class Frames {
  private rest = 0
  private length = 0
  private place = -1

  constructor(private readonly largest: number) {}

  /** Takes bytes as they come; false: a packet announces more than may be, or a length that is none. */
  take(bytes: Uint8Array): boolean {
    for (let i = 0; i < bytes.length;) {
      if (this.rest > 0) {
        const passed = Math.min(this.rest, bytes.length - i)
        this.rest -= passed
        i += passed
      } else if (!this.head(bytes[i++]!)) return false
    }
    return true
  }

  /** A byte of a packet's head: place -1 is its kind, then seven bits of the length each (2.2.3). */
  private head(byte: number): boolean {
    if (this.place === -1) {
      this.place = 0
      this.length = 0
      return true
    }
    this.length += (byte & 0x7f) * 128 ** this.place++
    if (this.length > this.largest || (byte >= 0x80 && this.place === 4)) return false
    if (byte < 0x80) {
      this.rest = this.length
      this.place = -1
    }
    return true
  }
}

/**
 * A connection to the broker that can hurt nobody else: it is cut when it announces a packet that is too large, or when
 * more waits for it than it may keep the others waiting for. The broker's library would wait with every delivery for
 * the slowest reader.
 */
export class Line extends Duplex {
  readonly remoteAddress: string

  constructor(
    private readonly socket: Socket,
    largest = LARGEST_PACKET,
    mostWaiting = MOST_WAITING,
  ) {
    super({ writableHighWaterMark: mostWaiting })
    this.remoteAddress = socket.remoteAddress ?? ''
    const frames = new Frames(largest)
    socket.on('data', (bytes: Buffer) => {
      if (!frames.take(bytes)) this.destroy(new Error(`a packet of more than ${largest} bytes`))
      else if (!this.push(bytes)) socket.pause()
    })
    socket.on('end', () => this.push(null))
    socket.on('error', () => this.destroy())
    socket.on('close', () => this.destroy())
  }

  override write(bytes: unknown, ...words: never[]): boolean {
    if (!super.write(bytes, ...words)) this.destroy(new Error('reads too slowly'))
    return true
  }

  override _read(): void {
    this.socket.resume()
  }

  override _write(bytes: Buffer, _encoding: BufferEncoding, done: (error?: Error | null) => void): void {
    if (this.socket.destroyed) done(new Error('the connection is closed'))
    else if (this.socket.write(bytes)) done()
    else this.socket.once('drain', () => done())
  }

  override _final(done: (error?: Error | null) => void): void {
    this.socket.end(() => done())
  }

  override _destroy(error: Error | null, done: (error?: Error | null) => void): void {
    this.socket.destroy()
    done(error)
  }
}
