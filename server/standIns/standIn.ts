import { holderOf, serviceKindIn } from '../../core/services'
import type { Limits, Point, Service, Site } from '../../core/site'
import { setPoint, startAppService, widgetSends, type AppServiceState } from '../../core/trial'
import { NO_FAULTS, type Faults, type StandInPage } from '../../core/api'
import type { Database } from '../db'
import type { Live } from '../live'
import { Notes } from './notes'
import { recognise, tablesSaid } from './recognise'

/** What a stand-in is made of. */
export interface Ground {
  readonly db: Database
  readonly live: Live
  readonly reveal: (secret: string) => string
  readonly now: () => Date
  /** a board has said a value */
  readonly heardPoint?: (controller: string, point: string, value: number) => void
  readonly heardLog?: (controller: string, text: string) => void
}

const TELL_MS = 5

/**
 * A service with a wire of its own, as a small stand-in: it holds points with their last values, knows its boards by
 * the credentials that the sheet names, refuses what a real one refuses, and counts what is used of the plan. How it
 * speaks is a matter of its transport.
 */
export abstract class StandIn {
  protected state: AppServiceState
  protected service: Service
  protected readonly refused: Notes
  protected readonly heard: Notes
  /** when each point's last value came, ms */
  private readonly cameAt = new Map<string, number>()
  private used = { day: 0, month: 0, dayOf: '', monthOf: '' }
  private telling: NodeJS.Timeout | null = null
  faults: Faults = NO_FAULTS

  constructor(
    protected site: Site,
    service: Service,
    protected readonly ground: Ground,
  ) {
    this.service = service
    this.refused = new Notes(ground.now, () => this.tell())
    this.heard = new Notes(ground.now, () => this.tell())
    this.state = startAppService(service, ground.db.heldValues.all(site.id, service.id))
  }

  /** The document, or a credential, has changed. Boards whose login is another now are cut. */
  follow(site: Site): void {
    const service = holderOf(site, this.service.id)?.service
    if (!service) return
    this.site = site
    this.service = service
    const { online } = this.state
    this.state = { ...startAppService(service, this.ground.db.heldValues.all(site.id, service.id)), online }
    this.rewires()
  }

  get id(): string {
    return this.service.id
  }

  /** The wires are made anew, from the document as it is. */
  protected abstract rewires(): void
  /** A person's wish goes to the board, where the transport can bring it. */
  protected abstract brings(point: Point, value: number): void
  /** Everybody who is connected is cut. */
  protected abstract cuts(): void

  // ---- boards ----

  /** A value of a board's point; what is wrong with it, or null where it was taken. */
  protected takes(controller: string, name: string, value: number | undefined, text: string): 'value' | 'fast' | null {
    const point = this.pointsOf(controller).find((candidate) => nameOf(candidate) === name)
    if (!point) return null
    if (value === undefined || value < point.min || value > point.max) {
      this.refused.add(`${controller}: ${point.name} ${text.slice(0, 40)} is not within ${point.min} to ${point.max}`)
      return 'value'
    }
    const at = this.ground.now().getTime()
    const { updateMs } = this.limits
    const before = this.cameAt.get(point.id)
    // clocks on both sides, and a network between: a twentieth early is no offence
    if (updateMs !== null && before !== undefined && at - before < updateMs * 0.95) {
      this.refused.add(`${controller}: ${point.name} comes faster than every ${updateMs} ms`)
      return 'fast'
    }
    this.cameAt.set(point.id, at)
    this.take(point, value)
    this.heard.add(`${controller}: ${point.name} is ${value}`)
    this.ground.heardPoint?.(controller, point.id, value)
    return null
  }

  /** Somebody came with a login that no service knows. */
  turnsAway(client: string, user: string): void {
    this.refused.add(`${client || user || 'a board'}: an id that is not known`)
  }

  // ---- the phone ----

  /** A person touches a widget. False: there is no such widget, or it only shows. */
  touch(widgetId: string, on: boolean, value?: number): boolean {
    const widget = this.service.widgets.find((candidate) => candidate.id === widgetId)
    const point = this.service.points.find((candidate) => candidate.id === widget?.point)
    if (!widget || !point || widget.kind === 'value' || widget.kind === 'gauge') return false
    const wish = value ?? widgetSends(point, widget.inverted, on)
    const before = this.state
    const { state } = setPoint(this.site.id, this.service, this.state, point.id, wish)
    if (state === before) return false
    this.take(point, state.values[point.id] ?? wish)
    this.brings(point, state.values[point.id] ?? wish)
    return true
  }

  setFaults(faults: Faults): void {
    this.faults = faults
    if (faults.stopped) this.cuts()
    this.tell()
  }

  /** What the stand-in's page shows. */
  page(): StandInPage {
    const { day, month } = this.today()
    return {
      values: { ...this.state.values },
      online: { ...this.state.online },
      refused: this.refused.all(),
      heard: this.heard.all(),
      used: { day, month },
      allowed: { day: this.limits.messagesDay, month: this.limits.messagesMonth },
      faults: { ...this.faults },
      wired: true,
    }
  }

  close(): void {
    if (this.telling) clearTimeout(this.telling)
    this.cuts()
  }

  // ---- within ----

  protected get limits(): Limits {
    return serviceKindIn(this.site, this.service.kind)!.limits
  }

  protected pointsOf(controller: string): Point[] {
    return this.service.points.filter((point) => point.controller === controller)
  }

  protected valueOf(point: Point): number {
    return this.state.values[point.id] ?? point.default
  }

  /** A device more than the plan has, in the site's order. */
  protected isTooMany(place: number): boolean {
    const { devices } = this.limits
    return devices !== null && place >= devices
  }

  private today() {
    const date = this.ground.now().toISOString()
    if (this.used.dayOf !== date.slice(0, 10)) this.used = { ...this.used, day: 0, dayOf: date.slice(0, 10) }
    if (this.used.monthOf !== date.slice(0, 7)) this.used = { ...this.used, month: 0, monthOf: date.slice(0, 7) }
    return this.used
  }

  /** A message of the plan. */
  protected counts(): number {
    const used = this.today()
    used.month++
    used.day++
    if (this.overQuota()) this.cuts()
    return used.month
  }

  protected overQuota(): boolean {
    const { messagesDay, messagesMonth } = this.limits
    const { day, month } = this.today()
    return (messagesDay !== null && day > messagesDay) || (messagesMonth !== null && month > messagesMonth)
  }

  protected logs(controller: string, text: string): void {
    const hash = tablesSaid(text)
    if (hash !== undefined) recognise(this.ground.db, this.site, controller, hash, this.ground.now().toISOString())
    this.heard.add(`${controller} says: ${text}`)
    this.ground.heardLog?.(controller, text)
  }

  protected online(controller: string, online: boolean): void {
    if (this.state.online[controller] === online) return
    this.state = { ...this.state, online: { ...this.state.online, [controller]: online } }
    this.tell()
  }

  private take(point: Point, value: number): void {
    if (Number.isInteger(value)) this.ground.db.heldValues.put(this.site.id, this.service.id, point.id, value)
    this.state = { ...this.state, values: { ...this.state.values, [point.id]: value } }
    this.tell()
  }

  /** Screens are told once for all that comes in a moment: a busy service says a thousand things a second. */
  protected tell(): void {
    this.telling ??= setTimeout(() => {
      this.telling = null
      this.tellNow()
    }, TELL_MS).unref()
  }

  private tellNow(): void {
    const { values, online } = this.state
    const about = { site: this.site.id, service: this.service.id }
    this.ground.live.tell({ kind: 'points', ...about, values: { ...values }, online: { ...online } })
    this.ground.live.tell({ kind: 'standIn', ...about })
  }
}

/** A point by the board's own name for it. */
export const nameOf = (point: Point): string => `vp/${point.vp}`
