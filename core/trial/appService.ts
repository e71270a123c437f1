import { topics } from '../topics'
import type { Point, Service } from '../site'
import type { Message } from './broker'

/**
 * The stand-in of a datapoint app service: it holds points with their last values, and widgets that show and set them.
 * Pure: the trial gives it messages from its broker in memory, the server from the real one.
 */
export interface AppServiceState {
  /** value by point id */
  readonly values: Readonly<Record<string, number>>
  /** controllers whose status is online */
  readonly online: Readonly<Record<string, boolean>>
}

export interface Step {
  readonly state: AppServiceState
  readonly publish: readonly Message[]
}

export function startAppService(service: Service, kept: Readonly<Record<string, number>> = {}): AppServiceState {
  return {
    values: Object.fromEntries(service.points.map((point) => [point.id, kept[point.id] ?? point.default])),
    online: {},
  }
}

/** Filters that the service listens on. */
export const appServiceFilters = (site: string): string[] => [
  `vestibule/${site}/+/status`,
  `vestibule/${site}/+/vp/+/state`,
]

const heldMessage = (site: string, point: Point, value: number): Message => ({
  topic: topics(site, point.controller).pointHeld(point.vp),
  payload: String(value),
  retain: true,
})

/** What it says when it comes up: the value of every point, retained. */
export const announceHeld = (site: string, service: Service, state: AppServiceState): Message[] =>
  service.points
    .filter(({ carries }) => carries.kind !== 'sensor' && carries.kind !== 'group')
    .map((point) => heldMessage(site, point, state.values[point.id] ?? point.default))

/**
 * A value set by a person: out to the controller as a command, and kept as the value held. Values are clamped to the
 * point's range.
 */
export function setPoint(site: string, service: Service, state: AppServiceState, pointId: string, value: number): Step {
  const point = service.points.find((candidate) => candidate.id === pointId)
  if (!point || point.access === 'read' || point.carries.kind === 'sensor' || !Number.isInteger(value))
    return { state, publish: [] }
  const clamped = Math.min(point.max, Math.max(point.min, value))
  return {
    state: { ...state, values: { ...state.values, [point.id]: clamped } },
    publish: [
      { topic: topics(site, point.controller).pointSet(point.vp), payload: String(clamped), retain: false },
      // a group has no state to be held
      ...(point.carries.kind === 'group' ? [] : [heldMessage(site, point, clamped)]),
    ],
  }
}

/** A report of a controller. A value that is no number of the point's range is dropped. */
export function appServiceHears(site: string, service: Service, state: AppServiceState, message: Message): Step {
  const [, heardSite, controller, kind, vp, last] = message.topic.split('/')
  if (heardSite !== site || controller === undefined) return { state, publish: [] }
  if (kind === 'status' && vp === undefined)
    return { state: { ...state, online: { ...state.online, [controller]: message.payload === 'online' } }, publish: [] }
  const point =
    kind === 'vp' && last === 'state'
      ? service.points.find((candidate) => candidate.controller === controller && String(candidate.vp) === vp)
      : undefined
  const value = Number(message.payload)
  const fits = point?.type === 'decimal' ? message.payload !== '' && Number.isFinite(value) : Number.isInteger(value)
  if (!point || point.access === 'write' || !fits || value < point.min || value > point.max)
    return { state, publish: [] }
  if (state.values[point.id] === value) return { state, publish: [] }
  return {
    state: { ...state, values: { ...state.values, [point.id]: value } },
    publish: point.carries.kind === 'sensor' ? [] : [heldMessage(site, point, value)],
  }
}

/** What a widget shows: lit or not, after its own inversion. */
export function widgetShows(
  service: Service,
  widgetId: string,
  state: AppServiceState,
): { on: boolean; value: number; point: Point } | undefined {
  const widget = service.widgets.find((candidate) => candidate.id === widgetId)
  const point = service.points.find((candidate) => candidate.id === widget?.point)
  if (!widget || !point) return undefined
  const value = state.values[point.id] ?? point.default
  return { on: (value !== point.min) !== widget.inverted, value, point }
}

/** The value that a widget sends to mean on or off, after its own inversion. */
export const widgetSends = (point: Point, inverted: boolean, on: boolean): number =>
  on !== inverted ? point.max : point.min
