import { linksOf, tablesOf } from '../image'
import { holdersOf } from '../services'
import { controllerOf, type Point, type Service, type Site } from '../site'
import { compileWires } from './compile'
import { createWires, type WireEngine } from './engine'
import type { DeviceWord, WireAction, WireEvent } from './events'
import { FarEnd } from './farEnd'
import { readAnswer, RequestFarEnd, type Asked } from './farEndRequests'
import { WireRefused } from './template'
import type { ControllerWires, HttpLink, LinkWire } from './types'

/** What a wire does with one point, as a person reads it. */
export interface PreviewRow {
  readonly point: string
  readonly name: string
  /** the value that both ends are tried with */
  readonly value: number
  /** what goes out when the controller says that the point is so; null: it never says it */
  readonly sends: string | null
  /** what the service says for a wish, and what the controller takes it for; null: it cannot be set */
  readonly hears: { readonly said: string; readonly means: string } | null
}

export type WirePreview =
  /** nothing is there to try it with, and why */
  | { readonly kind: 'nothing'; readonly why: string }
  | { readonly kind: 'refused'; readonly why: string }
  | { readonly kind: 'rows'; readonly controller: string; readonly rows: readonly PreviewRow[] }

const SHOWN = 3
const HEX = /[0-9a-f]{64}/g

/** Secrets by their names: what stands in the real one is nobody's business here. */
const named = (secret: string): string => `‹${secret.split('/')[1] ?? secret}›`

/**
 * What a kind's wire would send and understand, for the first three points of the first controller that has any: played
 * by the engine itself against the far end of its own tables.
 */
export function previewWire(site: Site, kind: string): WirePreview {
  const holder = holdersOf(site).find(({ service }) => service.kind === kind && service.points.length > 0)
  if (!holder) return { kind: 'nothing', why: 'no point yet: give a channel a way through this service' }
  const { service } = holder
  const controller = controllerOf(site, service.points[0]!.controller)!
  const { image } = tablesOf(site, controller.id)
  const index = linksOf(image).findIndex(({ id, own }) => !own && id === service.id)
  if (index < 0) return { kind: 'nothing', why: `${controller.name} has no connection left for it, or no network` }
  try {
    const wires = compileWires(site, image, true)
    const points = service.points.filter((point) => point.controller === controller.id).slice(0, SHOWN)
    return {
      kind: 'rows',
      controller: controller.name,
      rows: points.map((point) => rowOf(wires, index, service, point)),
    }
  } catch (error) {
    if (error instanceof WireRefused) return { kind: 'refused', why: error.message }
    throw error
  }
}

function rowOf(wires: ControllerWires, index: number, service: Service, point: Point): PreviewRow {
  const value = point.carries.kind === 'sensor' ? 21 : point.max
  const own = `${wires.prefix}vp/${point.vp}`
  const out = joined(wires, index, service)
  out.engine.says(2, index, `${own}/state`, String(value), true)
  out.engine.pump(2)
  const into = joined(wires, index, service)
  const said = wishOf(wires.links[index]!, index, point, value)
  const words = said ? said.plays(into.engine) : []
  return {
    ...{ point: `vp${point.vp}`, name: point.name, value },
    sends: out.engine.takeActions().map(sentence).find(Boolean) ?? null,
    hears: said && { said: said.words.replace(HEX, '‹signature›'), means: meaningOf(words, own, into.engine) },
  }
}

/** An engine whose link is up, with the service's last number known. */
function joined(wires: ControllerWires, index: number, { points }: Service): { readonly engine: WireEngine } {
  const engine = createWires(wires, named)
  const link = wires.links[index]!
  engine.joins(0, index)
  if (link.transport !== 'http') engine.event(0, { kind: 'open', link: index, open: true })
  // a first round of reading: everything is at its default
  else if (link.read) reads(engine, index, link, 0, (name) => defaultOf(points, name))
  else engine.tick(1)
  if (link.transport === 'mqtt') {
    const last = new FarEnd(link, named).lastCount(0)
    if (last) engine.event(1, { kind: 'heard', link: index, ...last, stale: true })
  }
  engine.takeActions()
  return { engine }
}

const defaultOf = (points: readonly Point[], name: string): number =>
  points.find(({ vp }) => name === `vp/${vp}`)?.default ?? 0

/** A round of reading; what it means for the runtime comes back. */
function reads(
  engine: WireEngine,
  index: number,
  link: HttpLink,
  t: number,
  valueOf: (point: string) => number,
): DeviceWord[] {
  const far = new RequestFarEnd(link, named)
  const words: DeviceWord[] = []
  for (const limit = link.hears.length; words.length <= limit;) {
    engine.pump(t)
    const asked = engine.takeActions().flatMap(({ what }) => ('ask' in what ? [what.ask] : []))[0]
    if (!asked) break
    const body = answerTo(far, asked, valueOf)
    words.push(...engine.event(t + 1, { kind: 'answer', link: index, status: 200, body }))
  }
  return words
}

function answerTo(
  far: RequestFarEnd,
  ask: Pick<Asked, 'method' | 'path' | 'body'>,
  valueOf: (point: string) => number,
) {
  const understood = far.takes({ ...ask, headers: Object.fromEntries(far.heads) })
  return understood.kind === 'read' ? readAnswer(understood.rows, valueOf) : ''
}

interface Wish {
  readonly words: string
  readonly plays: (engine: WireEngine) => DeviceWord[]
}
const told =
  (event: WireEvent) =>
  (engine: WireEngine): DeviceWord[] =>
    engine.event(3, event)

/** How the service asks for a value. */
function wishOf(link: LinkWire, index: number, { vp }: Point, value: number): Wish | null {
  const name = `vp/${vp}`
  if (link.transport === 'mqtt') {
    const message = new FarEnd(link, named).wish(name, value, 1)
    return message
      ? {
          words: `${message.topic}  ${message.payload}`,
          plays: told({ kind: 'heard', link: index, ...message, stale: false }),
        }
      : null
  }
  if (link.transport === 'hook') {
    const call = new RequestFarEnd(link, named).call(name, value, 'a')
    if (!call) return null
    const { method, path, headers } = call
    const event: WireEvent = {
      ...{ kind: 'call', link: index, method, path, key: headers['X-Key'] ?? '' },
      once: headers['Idempotency-Key'] ?? '',
    }
    return { words: `${method} ${path}${headers['X-Key'] ? `  X-Key: ${headers['X-Key']}` : ''}`, plays: told(event) }
  }
  if (link.transport !== 'http' || !link.read) return null
  const row = link.hears.find(({ to }) => to === name)
  if (!row?.lasting) return null
  const far = new RequestFarEnd(link, named)
  const path = row.from.map((part) => (typeof part === 'string' ? part : named(part.secret))).join('')
  const valueOf = (one: string): number => (one === name ? value : 0)
  const body = answerTo(far, { method: 'GET', path, body: '' }, valueOf)
  const later = 2 + link.read.everyMs
  const plays = (engine: WireEngine): DeviceWord[] => [
    ...engine.tick(later),
    ...reads(engine, index, link, later, valueOf),
  ]
  return { words: `GET ${path}  ${body}`, plays }
}

function sentence({ what }: WireAction): string | null {
  if ('say' in what) return `${what.say.topic}  ${what.say.payload}`.replace(HEX, '‹signature›')
  if ('ask' in what) return `${what.ask.method} ${what.ask.path}  ${what.ask.body}`
  return null
}

/** What the controller is told of the point itself. */
function meaningOf(words: readonly DeviceWord[], own: string, engine: WireEngine): string {
  const told = words.find((word) => word.kind === 'message' && word.topic === `${own}/set`)
  if (told?.kind === 'message') return `set to ${told.payload}`
  const notes = engine.takeActions().flatMap(({ what }) => ('note' in what ? [what.note] : []))
  return notes[0] ?? 'nothing: not understood'
}
