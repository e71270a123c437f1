import type { PartGraph, PartId, Place } from '../parts'
import { inputsOn, waysTo, type Channel, type Site } from '../site'
import { waysFor } from './analysis'
import { Asker } from './ask'
import { failureOf, type Failure } from './failure'
import { isSo } from './formula'
import { notAsked, type Question } from './question'

/** What a column of the table stands for: a part of the house, or one that each channel's controller has of its own. */
export interface LeftColumn {
  readonly key: string
  readonly name: string
  /** what fails for a channel; none: it has no such thing */
  readonly failures: (channel: Channel) => readonly Failure[]
}

/** What is left of a channel when a column fails. */
export interface LeftCell {
  /** what has failed in it; with nothing broken: none */
  readonly failed: readonly Failure[]
  /** it is so then: nobody can, a screen lies, it moves */
  readonly isSo: boolean
  /** ways that still do it, in the order of the site; of questions that no hand answers: none */
  readonly ways: readonly string[]
}

export interface LeftRow {
  readonly channel: string
  readonly name: string
  /** why the question is not asked of it; null: it is */
  readonly notAsked: string | null
  /** with nothing broken */
  readonly whole: LeftCell
  /** in the order of the columns; null: it has no such part */
  readonly cells: readonly (LeftCell | null)[]
}

export interface WhoIsLeft {
  readonly columns: readonly { readonly key: string; readonly name: string }[]
  readonly rows: readonly LeftRow[]
}

const HOUSE: readonly PartId[] = [
  'mains',
  'router',
  'wifi',
  'internet',
  'hub-machine',
  'broker',
  'hub',
  'phone',
  'voice',
]

/** Switches by which a channel is worked at the wall. */
const wallInputs = (site: Site, { id }: Channel): string[] =>
  waysTo(site, id).flatMap((way) => (way.kind === 'wall' ? [way.input as string] : []))

/** A program that takes no word for what is. */
function lying(graph: PartGraph, part: PartId): LeftColumn[] {
  const found = graph.get(part)
  if (!found?.faults.includes('lying')) return []
  const failure = failureOf(part, 'lying')
  return [{ key: failure, name: `${found.name} shows the last command`, failures: () => [failure] }]
}

function columnsOf(asker: Asker): LeftColumn[] {
  const { graph, site } = asker.formulas
  const shared = (part: PartId): LeftColumn[] => {
    const found = graph.get(part)
    return found ? [{ key: part, name: found.name, failures: () => [failureOf(part)] }] : []
  }
  const kind = (start: string): PartId[] => [...graph.keys()].filter((id) => id.startsWith(start))
  const outputs = (channel: Channel, part: string): PartId[] => kind(`${part}:${channel.id}.`)
  const own = (key: string, name: string, failures: LeftColumn['failures']): LeftColumn => ({ key, name, failures })
  return [
    ...[...HOUSE.slice(0, 1), ...kind('strip:'), ...HOUSE.slice(1), ...kind('service:')].flatMap(shared),
    own('own', 'Its supply or board', ({ controller }) => [failureOf(`power:${controller}`)]),
    own('switches', 'All switches of its box', (channel) =>
      inputsOn(site, channel.controller).flatMap(({ id }): Failure[] =>
        graph.has(`switch:${id}`) ? [failureOf(`switch:${id}`)] : [],
      ),
    ),
    own('remote', 'Its receiver', ({ controller }) =>
      graph.has(`receiver:${controller}`) ? [failureOf(`receiver:${controller}`)] : [],
    ),
    own('open', 'Its relay stays open', (channel) => outputs(channel, 'contact').map((part) => failureOf(part))),
    own('stuck', 'Its relay sticks', (channel) => outputs(channel, 'contact').map((part) => failureOf(part, 'stuck'))),
    own('module', 'Its relay module', ({ controller }) =>
      graph.has(`module:${controller}`) ? [failureOf(`module:${controller}`)] : [],
    ),
    own('load', 'Its load', ({ id }) => [failureOf(`load:${id}`)]),
    // one wire at a time: two that short at once are two presses
    own('short', 'A switch wire shorts', (channel) =>
      wallInputs(site, channel)
        .slice(0, 1)
        .map((id) => failureOf(`wire:${id}`, 'stuck')),
    ),
    ...lying(graph, 'hub'),
    ...kind('service:').flatMap((part) => lying(graph, part)),
  ]
}

const NOBODY_ASKED: LeftCell = { failed: [], isSo: false, ways: [] }

/** One channel with each column failed in turn. */
function rowOf(
  asker: Asker,
  question: Question,
  from: Place,
  channel: Channel,
  columns: readonly LeftColumn[],
): LeftRow {
  const { id, name } = channel
  const why = notAsked(asker.formulas.site, question, channel)
  if (why !== null) return { channel: id, name, notAsked: why, whole: NOBODY_ASKED, cells: columns.map(() => null) }
  const formula = asker.ask(question, channel, from)
  const ways = waysFor(asker, question, channel, from)
  const cell = (list: readonly Failure[]): LeftCell => {
    const failed = new Set(list)
    return {
      failed: list,
      isSo: isSo(formula, failed),
      ways: ways.filter(({ works }) => isSo(works, failed)).map(({ way }) => way),
    }
  }
  const cells = columns.map(({ failures }) => {
    const failed = failures(channel)
    return failed.length === 0 ? null : cell(failed)
  })
  return { channel: id, name, notAsked: null, whole: cell([]), cells }
}

/** Who is left to do it, and whether it is so, when one thing fails; from where one stands. */
export function whoIsLeft(site: Site, question: Question, from: Place, asker = new Asker(site)): WhoIsLeft {
  const columns = columnsOf(asker)
  const rows = site.channels.map((channel) => rowOf(asker, question, from, channel, columns))
  // a column in which nothing ever changes says nothing
  const matters = columns.map((_, i) =>
    rows.some(({ whole, cells }) => {
      const found = cells[i]
      return found && (found.isSo !== whole.isSo || found.ways.length < whole.ways.length)
    }),
  )
  const kept = <T>(list: readonly T[]): T[] => list.filter((_, i) => matters[i])
  return {
    columns: kept(columns).map(({ key, name }) => ({ key, name })),
    rows: rows.map((row) => ({ ...row, cells: kept(row.cells) })),
  }
}
