import type { AppWay, Channel, HubWay, Site, WallWay, Way } from '../site'

/** The columns of the crossbar. Later kinds of way join this list. */
export const COLUMNS = ['wall', 'app', 'hub'] as const
export type Column = (typeof COLUMNS)[number]

export const COLUMN_NAMES: Record<Column, string> = { wall: 'Wall', app: 'App', hub: 'Hub' }

/** The mark of a cell: a full pin speaks both ways, a half pin never reports back, an open one is not known. */
export type Mark = 'full' | 'half' | 'unknown' | 'empty'

export interface Cell {
  readonly channel: string
  readonly column: Column
  readonly ways: readonly Way[]
  readonly mark: Mark
  /** the real assigned thing: "S1", "vp7", "bench" */
  readonly title: string
  readonly detail: string
}

const feedbackMark = (feedback: AppWay['feedback']): Mark => (feedback === 'reports' ? 'full' : feedback === 'silent' ? 'half' : 'unknown')

function wallCell(site: Site, way: WallWay, pinOf: (channel: Channel, input: string) => string | null, channel: Channel): { title: string; detail: string; mark: Mark } {
  const input = site.inputs.find((candidate) => candidate.id === way.input)
  const pin = pinOf(channel, way.input)
  const kind = input?.kind === 'momentary' ? 'push' : input?.kind === 'selector' ? `selector, ${input.bits} bits` : 'rocker'
  const gestures = way.bindings.map((b) => (b.gesture === 'follow' ? 'follow' : b.gesture === 'select' ? 'sets the level' : `${b.gesture} ${b.action}`)).join(', ')
  return { title: input?.name ?? way.input, detail: `${kind}, ${gestures}, ${pin ?? 'no pin yet'}`, mark: 'full' }
}

function appCell(site: Site, way: AppWay): { title: string; detail: string; mark: Mark } {
  const service = site.services.find((candidate) => candidate.id === way.service)
  const point = service?.points.find((candidate) => candidate.id === way.point)
  const widgets = service?.widgets.filter((widget) => widget.point === way.point) ?? []
  const range = point ? `${point.min}–${point.max}${point.unit ? ` ${point.unit}` : ''}` : ''
  const words = widgets.length ? widgets.map((widget) => `${widget.kind}${widget.inverted ? ' inverted' : ''}`).join(', ') : 'no widget'
  return { title: point ? `vp${point.vp}` : way.point, detail: `${words}, ${range}`, mark: feedbackMark(way.feedback) }
}

function hubCell(site: Site, way: HubWay): { title: string; detail: string; mark: Mark } {
  const entity = site.hubs.find((hub) => hub.id === way.hub)?.entities.find((candidate) => candidate.id === way.entity)
  return { title: entity?.topic ?? way.entity, detail: `set${way.feedback === 'reports' ? ', state' : ''}`, mark: feedbackMark(way.feedback) }
}

/** What stands where a channel crosses a way. `pinOf` says the pin of an input, which only the bench knows. */
export function cellOf(site: Site, channel: Channel, column: Column, pinOf: (channel: Channel, input: string) => string | null): Cell {
  const ways = site.ways.filter((way) => way.channel === channel.id && way.kind === column)
  const faces = ways.map((way) => (way.kind === 'wall' ? wallCell(site, way, pinOf, channel) : way.kind === 'app' ? appCell(site, way) : hubCell(site, way)))
  const first = faces[0]
  if (!first) return { channel: channel.id, column, ways, mark: 'empty', title: '', detail: '' }
  return {
    channel: channel.id,
    column,
    ways,
    mark: faces.every((face) => face.mark === first.mark) ? first.mark : 'half',
    title: faces.map((face) => face.title).join(' + '),
    detail: first.detail,
  }
}

/** One line for the foot of a column: "3 inputs", "2 points". */
export function columnFoot(site: Site, column: Column): string {
  const count = column === 'wall' ? site.inputs.length : column === 'app' ? site.services.reduce((sum, service) => sum + service.points.length, 0) : site.hubs.reduce((sum, hub) => sum + hub.entities.length, 0)
  const word = { wall: 'input', app: 'point', hub: 'entity' }[column]
  return `${count} ${count === 1 ? word : word === 'entity' ? 'entities' : `${word}s`}`
}
