import { compileSite, linksOf } from '../../core/image'
import type { Point, Service, Site } from '../../core/site'
import { compileWires, readAnswer, RequestFarEnd, WireRefused, type Asked } from '../../core/wires'
import { nameOf, StandIn, type Ground } from './standIn'

/** What a request is answered with; null: nothing, the connection ends. */
export type Answer = { readonly status: number; readonly body: string } | null

interface Board {
  readonly controller: string
  readonly far: RequestFarEnd
}

/** A board that has not asked for so many of its periods is gone (common practice). */
const PERIODS_GONE = 3
/** A call that is not answered by then was in vain, ms. */
const CALL_MS = 5_000
const AGAIN_MS = 300

/**
 * The stand-in of a service that boards ask and write (HTTP), or of a bridge that calls the board and is told of
 * changes. A bridge needs to know where each board is called: the rig says it.
 */
export class RequestStandIn extends StandIn {
  private boards: Board[] = []
  private readonly gone = new Map<string, NodeJS.Timeout>()
  private wishes = 0

  constructor(
    site: Site,
    service: Service,
    ground: Ground,
    /** where a board is called, "http://127.0.0.1:PORT"; undefined: it does not run */
    private readonly placeOf: (controller: string) => string | undefined,
  ) {
    super(site, service, ground)
    this.rewires()
  }

  protected rewires(): void {
    this.boards = boardsOf(this.site, this.service, this.ground.reveal)
  }

  /** Does it know this request: with its key, by its path only, or not at all? */
  knows(asked: Asked): number {
    const kinds = this.boards.map(({ far }) => far.takes(asked).kind)
    return kinds.some((kind) => kind === 'read' || kind === 'value') ? 2 : kinds.includes('no key') ? 1 : 0
  }

  answers(asked: Asked): Answer {
    if (this.faults.stopped) return null
    const known = this.boards
      .map((board, place) => ({ board, place, said: board.far.takes(asked) }))
      .filter(({ said }) => said.kind !== 'unknown')
    const found = known.find(({ said }) => said.kind !== 'no key') ?? known[0]
    if (!found) return { status: 404, body: '' }
    const { controller, far } = found.board
    if (found.said.kind === 'no key') {
      this.refused.add(`${controller}: wrong or missing key`)
      return { status: 401, body: '' }
    }
    if (this.isTooMany(found.place)) {
      this.refused.add(`${controller}: one device too many: the plan allows ${this.limits.devices}`)
      return { status: 403, body: '' }
    }
    const count = this.counts()
    if (this.overQuota()) {
      this.refused.add(`${controller}: the plan’s messages are used up`)
      return { status: 429, body: '' }
    }
    if (this.faults.lose && count % 3 === 0) return null
    this.isHere(controller, far.everyMs)
    if (found.said.kind === 'read') {
      const points = new Map(this.pointsOf(controller).map((point) => [nameOf(point), point]))
      return { status: 200, body: readAnswer(found.said.rows, (name) => this.valueOf(points.get(name)!)) }
    }
    if (found.said.kind !== 'value') return { status: 404, body: '' }
    const wrong = this.takes(controller, found.said.point, found.said.value, found.said.text)
    return { status: wrong === 'value' ? 422 : wrong === 'fast' ? 429 : 204, body: '' }
  }

  private isHere(controller: string, everyMs: number | null): void {
    this.online(controller, true)
    const before = this.gone.get(controller)
    if (before) clearTimeout(before)
    if (everyMs === null) return
    const gone = setTimeout(() => this.online(controller, false), everyMs * PERIODS_GONE).unref()
    this.gone.set(controller, gone)
  }

  /** A board that reads for itself finds the wish; one with a port of its own is called. */
  protected brings(point: Point, value: number): void {
    const board = this.boards.find(({ controller }) => controller === point.controller)
    const once = `${this.ground.now().getTime()}-${++this.wishes}`
    const call = board?.far.call(nameOf(point), value, once)
    if (!board || !call) return
    void this.calls(board.controller, call.path, call.headers)
    if (this.faults.replay)
      setTimeout(() => void this.calls(board.controller, call.path, call.headers), AGAIN_MS).unref()
  }

  private async calls(controller: string, path: string, headers: Readonly<Record<string, string>>): Promise<void> {
    const place = this.placeOf(controller)
    const count = this.counts()
    if (this.faults.stopped || (this.faults.lose && count % 3 === 0)) return
    if (place === undefined) return this.refused.add(`${controller}: it does not run, so nobody can call it`)
    if (this.faults.slowMs > 0) await new Promise((resolve) => setTimeout(resolve, this.faults.slowMs))
    try {
      const answer = await fetch(place + path, { method: 'POST', headers, signal: AbortSignal.timeout(CALL_MS) })
      this.online(controller, answer.ok)
      if (!answer.ok) this.refused.add(`${controller} answers ${answer.status}${WHY[answer.status] ?? ''}`)
    } catch {
      this.online(controller, false)
      this.refused.add(`${controller} does not answer`)
    }
  }

  protected cuts(): void {
    for (const timer of this.gone.values()) clearTimeout(timer)
    this.gone.clear()
    for (const { controller } of this.boards) if (this.state.online[controller]) this.online(controller, false)
  }
}

/** What a controller means by its refusals (core/wires/hook.ts). */
const WHY: Readonly<Record<number, string>> = {
  400: ': a value out of range',
  403: ': a wrong key',
  404: ': an id that it does not know',
  429: ': too many wrong keys, its door is closed',
}

/** Boards of a service by their wires, in the site's order: that is the order in which a plan counts them. */
function boardsOf(site: Site, service: Service, reveal: (secret: string) => string): Board[] {
  return compileSite(site).flatMap(({ image, part }): Board[] => {
    if (part !== 'main' || !linksOf(image).some(({ id, own }) => !own && id === service.id)) return []
    try {
      const link = compileWires(site, image).links.find(({ id }) => id === service.id)
      return link?.transport === 'http' || link?.transport === 'hook'
        ? [{ controller: image.controller, far: new RequestFarEnd(link, reveal) }]
        : []
    } catch (error) {
      // a wire that cannot be filled in is a finding; meanwhile nobody comes
      if (error instanceof WireRefused) return []
      throw error
    }
  })
}
