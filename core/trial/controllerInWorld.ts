import { createDevice, later, type Device, type DeviceEvent, type DeviceOutput } from '../device'
import type { BoardTables, ControllerImage, PairRole } from '../image'
import { topics } from '../topics'

/** A controller standing in the simulated house: its device, its image and its own clock. */
export class ControllerInWorld {
  readonly image: ControllerImage
  /** a coprocessor mirrors the board whose image it has */
  readonly part: PairRole
  readonly id: string
  readonly device: Device
  readonly name: string
  readonly will: { topic: string; payload: string; retain: boolean }
  /** how often it has started */
  boots = 0
  powered = false
  /** world time at which it would do something by itself; Infinity: never */
  dueAt = Infinity

  constructor(
    private readonly tables: BoardTables,
    name: string,
    /** world time of the device's own zero, so that every controller keeps its own clock */
    private readonly epoch: number,
    device?: Device,
  ) {
    const { board, image, part } = tables
    this.id = board
    this.image = image
    this.part = part
    this.name = name
    this.device = device ?? createDevice(image, part)
    this.will = { topic: topics(image.site, image.controller).status, payload: 'offline', retain: true }
  }

  advance(worldNow: number, events: readonly DeviceEvent[]): DeviceOutput[] {
    for (const event of events) {
      if (event.kind !== 'power') continue
      if (event.on && !this.powered) this.boots++
      this.powered = event.on
    }
    const outputs = this.device.advance(later(worldNow - this.epoch, 0), events)
    this.dueAt = this.nextDeadline(worldNow)
    return outputs
  }

  /** The same board once more, as it stands. */
  copy(): ControllerInWorld {
    const { powered, boots, dueAt } = this
    const copied = new ControllerInWorld(this.tables, this.name, this.epoch, this.device.copy())
    return Object.assign(copied, { powered, boots, dueAt })
  }

  /** How long so many characters take on its serial line, ms: ten bits each, with start and stop. */
  lineMs(characters: number): number {
    return Math.ceil((characters * 10_000) / (this.image.serial?.baud ?? 9600))
  }

  private nextDeadline(worldNow: number): number {
    const at = this.device.nextDeadline()
    if (at === null) return Infinity
    const ahead = (at - later(worldNow - this.epoch, 0)) | 0
    return worldNow + Math.max(0, ahead)
  }
}
