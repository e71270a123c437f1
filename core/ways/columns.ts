import { codeName } from '../infrared'
import { reachesDirectly } from '../services'
import {
  counted,
  inputRoles,
  keyOf,
  linkOf,
  type AppWay,
  type Channel,
  type HubWay,
  type LinkWay,
  type RemoteWay,
  type Rule,
  type Site,
  type VoiceWay,
  type WallWay,
  type Way,
} from '../site'
import { ruleWords } from './rules'

/** The columns of the crossbar. */
export const COLUMNS = ['wall', 'remote', 'app', 'hub', 'voice', 'nearby', 'serial', 'rule'] as const
export type Column = (typeof COLUMNS)[number]

export const COLUMN_NAMES: Record<Column, string> = {
  wall: 'Wall',
  remote: 'Remote',
  app: 'App',
  hub: 'Hub',
  voice: 'Voice',
  nearby: 'Nearby',
  serial: 'Serial',
  rule: 'Rules',
}

/** The mark of a cell: a full pin speaks both ways, a half pin never reports back, an open one is not known. */
export type Mark = 'full' | 'half' | 'unknown' | 'empty'

export interface Cell {
  readonly channel: string
  readonly column: Column
  readonly ways: readonly Way[]
  readonly rules: readonly Rule[]
  readonly mark: Mark
  /** the real assigned thing: "S1", "vp7", "bench" */
  readonly title: string
  readonly detail: string
}

interface Face {
  readonly title: string
  readonly detail: string
  readonly mark: Mark
}

const feedbackMark = (feedback: AppWay['feedback']): Mark =>
  feedback === 'reports' ? 'full' : feedback === 'silent' ? 'half' : 'unknown'

/** The column that a way stands in; a link stands under what it is. */
export const columnOf = (site: Site, way: Way): Column =>
  way.kind === 'link' ? (linkOf(site, way.link)?.kind ?? 'serial') : way.kind

/** The ways in one cell. */
export const waysIn = (site: Site, channel: string, column: Column): Way[] =>
  site.ways.filter((way) => way.channel === channel && columnOf(site, way) === column)

type PinOf = (channel: Channel, input: string) => string | null

const INPUT_WORDS = { momentary: 'push', rocker: 'rocker', contact: 'contact' } as const

function wallFace(site: Site, way: WallWay, channel: Channel, pinOf: PinOf): Face {
  const input = site.inputs.find((candidate) => candidate.id === way.input)
  const pin = pinOf(channel, way.input)
  const kind = !input
    ? 'switch'
    : input.kind === 'selector'
      ? `selector, ${inputRoles(input).length} bits`
      : INPUT_WORDS[input.kind]
  const gestures = way.bindings
    .map((b) =>
      b.gesture === 'follow' ? 'follow' : b.gesture === 'select' ? 'sets the level' : `${b.gesture} ${b.action}`,
    )
    .join(', ')
  const parallel = channel.load !== null && site.loads.find((load) => load.id === channel.load)?.parallelSwitch === true
  return {
    title: input?.name ?? way.input,
    detail: `${kind}, ${gestures}, ${pin ?? 'no pin yet'}${parallel ? ', beside the old switch: state unknown' : ''}`,
    mark: parallel ? 'unknown' : 'full',
  }
}

const deedWords = (way: { readonly action: string; readonly level: number | null }): string =>
  way.action === 'level' ? `level ${way.level ?? 0}` : way.action

function remoteFace(site: Site, way: RemoteWay): Face {
  const key = keyOf(site, way.remote, way.key)
  if (!key) return { title: way.key, detail: '', mark: 'half' }
  return {
    title: codeName(key.code),
    detail: `${deedWords(way)}${key.repeat.policy === 'once' ? ' once' : `, repeats every ${key.repeat.everyMs} ms`}`,
    mark: 'half',
  }
}

function appFace(site: Site, way: AppWay): Face {
  const service = site.services.find((candidate) => candidate.id === way.service)
  const point = service?.points.find((candidate) => candidate.id === way.point)
  const widgets = service?.widgets.filter((widget) => widget.point === way.point) ?? []
  const range = point ? `${point.min}–${point.max}${point.unit ? ` ${point.unit}` : ''}` : ''
  const words = widgets.length
    ? widgets.map((widget) => `${widget.kind}${widget.inverted ? ' inverted' : ''}`).join(', ')
    : 'no widget'
  return { title: point ? `vp${point.vp}` : way.point, detail: `${words}, ${range}`, mark: feedbackMark(way.feedback) }
}

function hubFace(site: Site, way: HubWay): Face {
  const entity = site.hubs.find((hub) => hub.id === way.hub)?.entities.find((candidate) => candidate.id === way.entity)
  return {
    title: entity?.topic ?? way.entity,
    detail: `set${way.feedback === 'reports' ? ', state' : ''}`,
    mark: feedbackMark(way.feedback),
  }
}

function voiceFace(site: Site, way: VoiceWay): Face {
  const through = site.ways.find((other) => other.id === way.through)
  const direct = reachesDirectly(site, way)
  const by =
    through?.kind === 'hub'
      ? 'by the hub'
      : through?.kind === 'app'
        ? 'by the app service'
        : direct
          ? 'by the bridge'
          : 'not connected'
  return {
    title: `“${way.name}”`,
    detail: `${by}${way.pin ? ', with a PIN' : ''}`,
    mark: direct ? 'full' : through && 'feedback' in through ? feedbackMark(through.feedback) : 'unknown',
  }
}

const linkFace = (way: LinkWay): Face => ({ title: way.char, detail: deedWords(way), mark: 'full' })

function faceOf(site: Site, way: Way, channel: Channel, pinOf: PinOf): Face {
  switch (way.kind) {
    case 'wall':
      return wallFace(site, way, channel, pinOf)
    case 'remote':
      return remoteFace(site, way)
    case 'app':
      return appFace(site, way)
    case 'hub':
      return hubFace(site, way)
    case 'voice':
      return voiceFace(site, way)
    case 'link':
      return linkFace(way)
  }
}

/** "NEC 4D·05 4D·06": the protocol once, where the keys share it. */
function shortCodes(titles: readonly string[]): string {
  const protocol = titles[0]!.split(' ')[0]!
  return titles.every((title) => title.startsWith(`${protocol} `))
    ? `${protocol} ${titles.map((title) => title.slice(protocol.length + 1)).join(' ')}`
    : titles.join(' + ')
}

/** What stands where a channel crosses a way. `pinOf` says the pin of an input, which only the bench knows. */
export function cellOf(site: Site, channel: Channel, column: Column, pinOf: PinOf): Cell {
  const rules = column === 'rule' ? site.rules.filter((rule) => rule.channel === channel.id) : []
  const ways = column === 'rule' ? [] : waysIn(site, channel.id, column)
  const faces =
    column === 'rule'
      ? rules.map((rule): Face => ({ ...ruleWords(site, rule), mark: 'full' }))
      : ways.map((way) => faceOf(site, way, channel, pinOf))
  const first = faces[0]
  if (!first) return { channel: channel.id, column, ways, rules, mark: 'empty', title: '', detail: '' }
  return {
    channel: channel.id,
    column,
    ways,
    rules,
    mark: faces.every((face) => face.mark === first.mark) ? first.mark : 'half',
    title:
      column === 'remote'
        ? shortCodes(faces.map((face) => face.title))
        : faces.map((face) => face.title).join(column === 'nearby' || column === 'serial' ? ' ' : ' + '),
    // the characters of a link are many and short, so all of their words fit
    detail:
      column === 'nearby' || column === 'serial' || column === 'remote'
        ? faces.map((face) => face.detail).join(', ')
        : first.detail,
  }
}

/** One line for the head of a column: "3 inputs", "2 points". */
export function columnFoot(site: Site, column: Column): string {
  switch (column) {
    case 'wall':
      return counted(site.inputs.length, 'input')
    case 'remote':
      return counted(
        site.remotes.reduce((sum, remote) => sum + remote.keys.length, 0),
        'key',
      )
    case 'app':
      return counted(
        site.services.reduce((sum, service) => sum + service.points.length, 0),
        'point',
      )
    case 'hub':
      return counted(
        site.hubs.reduce((sum, hub) => sum + hub.entities.length, 0),
        'entity',
        'entities',
      )
    case 'voice':
      return counted(site.ways.filter((way) => way.kind === 'voice').length, 'name')
    case 'nearby':
    case 'serial':
      return counted(site.ways.filter((way) => columnOf(site, way) === column).length, 'character')
    case 'rule':
      return counted(site.rules.length, 'rule')
  }
}
