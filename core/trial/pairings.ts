import { PAIRING, pinKeyOf } from '../services'
import { counted, timeText, type Site } from '../site'

/** How a controller stands with whoever pairs it, as the screens show it. */
export interface PairingTruth {
  readonly controller: string
  /** it was made to delete its credentials, and joins no network */
  readonly forgotten: boolean
  readonly offered: boolean
  /** wrong PINs in a row */
  readonly wrong: number
  /** after too many: until when it accepts no PIN, world time, ms; null: it listens */
  readonly closedUntil: number | null
}

interface Board {
  forgotten: boolean
  offeredUntil: number
  wrong: number
  closedUntil: number
}

/**
 * Which controllers can be paired, know their network, and offer themselves: what firmware/wires/pairing.cpp does, in
 * the house. Times are the world's, ms.
 */
export class Pairings {
  private readonly boards = new Map<string, Board>()

  constructor(site: Site) {
    for (const controller of site.controllers)
      if (controller.link === 'wifi' && pinKeyOf(site, controller) !== undefined)
        this.boards.set(controller.id, { forgotten: false, offeredUntil: 0, wrong: 0, closedUntil: 0 })
  }

  copy(): Pairings {
    const copied = Object.create(Pairings.prototype) as Pairings
    return Object.assign(copied, { boards: new Map([...this.boards].map(([id, board]) => [id, { ...board }])) })
  }

  knowsNetwork(controller: string): boolean {
    return this.boards.get(controller)?.forgotten !== true
  }

  /** A hand at the controller; what is seen of it, as the end of a sentence. */
  asks(controller: string, action: 'pair' | 'reset', now: number): string {
    const board = this.boards.get(controller)
    if (action === 'reset') {
      if (board) board.forgotten = true
      return 'has deleted its credentials'
    }
    if (!board) return 'starts pairing, and has no PIN: nothing happens'
    board.offeredUntil = now + PAIRING.offerMs
    return 'is ready to pair'
  }

  /** Power comes: what is not stored is gone, and what knows no network is ready to pair. */
  starts(controller: string, now: number): void {
    const board = this.boards.get(controller)
    if (!board) return
    Object.assign(board, { wrong: 0, closedUntil: 0, offeredUntil: board.forgotten ? now + PAIRING.offerMs : 0 })
  }

  /** A phone beside the controller says a PIN, and with the right one all that it needs; null: nobody listens. */
  says(controller: string, right: boolean, now: number): { readonly paired: boolean; readonly text: string } | null {
    const board = this.boards.get(controller)
    if (!board || board.offeredUntil <= now) return null
    if (board.wrong >= PAIRING.mostWrong && board.closedUntil <= now) board.wrong = 0
    if (board.closedUntil > now) return { paired: false, text: 'accepts no PIN for now, after too many wrong ones' }
    if (right) {
      Object.assign(board, { forgotten: false, offeredUntil: 0, wrong: 0 })
      return { paired: true, text: 'is paired' }
    }
    board.wrong++
    const left = PAIRING.mostWrong - board.wrong
    if (left > 0) return { paired: false, text: `refuses a wrong PIN, ${counted(left, 'try', 'tries')} left` }
    board.closedUntil = now + PAIRING.closedMs
    return { paired: false, text: `refuses a wrong PIN, and accepts none for ${timeText(PAIRING.closedMs)}` }
  }

  truth(now: number): PairingTruth[] {
    return [...this.boards].map(([controller, { forgotten, offeredUntil, wrong, closedUntil }]) => ({
      controller,
      forgotten,
      offered: offeredUntil > now,
      wrong,
      closedUntil: closedUntil > now ? closedUntil : null,
    }))
  }
}
