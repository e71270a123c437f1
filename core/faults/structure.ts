import { reachedFrom, wayPaths, type PartGraph, type PartId, type Place } from '../parts'
import { isFeed, waysTo, type Channel, type Site } from '../site'
import { Diagrams } from './diagram'

/**
 * Who can still turn a channel on: each way with all the parts that it needs, and theirs. Built from the same graph as
 * the simulated house (core/parts). A feed is left out: its lamps have a path of their own through the hub.
 */
export interface Structure {
  readonly channel: string
  readonly from: Place
  /** a row for each way that reaches from there, and each level that it can bring: the parts that must all work */
  readonly paths: readonly { readonly way: string; readonly parts: readonly PartId[] }[]
}

/** A part and all that it needs, to the mains. */
function closure(graph: PartGraph, parts: readonly PartId[]): PartId[] {
  const found = new Set<PartId>()
  const add = (id: PartId): void => {
    const part = graph.get(id)
    if (!part || found.has(id)) return
    found.add(id)
    part.needs.forEach(add)
  }
  parts.forEach(add)
  return [...found]
}

export const isAnalysed = (channel: Channel): boolean => !isFeed(channel)

export function structureOf(site: Site, graph: PartGraph, channel: Channel, from: Place): Structure {
  const ways = waysTo(site, channel.id).filter((way) => reachedFrom(site, way).includes(from))
  return {
    ...{ channel: channel.id, from },
    paths: ways.flatMap((way) => wayPaths(site, way).map((parts) => ({ way: way.id, parts: closure(graph, parts) }))),
  }
}

/** Nobody can: of every path some part is out. Without any path nobody ever can. */
export const isDark = ({ paths }: Structure, out: ReadonlySet<PartId>): boolean =>
  paths.every(({ parts }) => parts.some((part) => out.has(part)))

/** The smallest sets of parts that leave nobody in control, of so many parts at most; the smallest first. */
export function cutSets({ paths }: Structure, most = 3): readonly (readonly PartId[])[] {
  if (paths.length === 0) return [[]]
  let sets: PartId[][] = [[]]
  for (const { parts } of [...paths].sort((a, b) => a.parts.length - b.parts.length)) {
    const on = new Set(parts)
    const next: PartId[][] = []
    for (const set of sets) {
      if (set.some((part) => on.has(part))) next.push(set)
      else if (set.length < most) for (const part of parts) next.push([...set, part])
    }
    sets = minimal(next)
  }
  return sets
}

/** Without those that hold another one whole. */
export function minimal(sets: readonly (readonly PartId[])[]): PartId[][] {
  const sorted = sets.map((set) => [...set].sort()).sort((a, b) => a.length - b.length)
  const kept: PartId[][] = []
  const seen = new Set<string>()
  for (const set of sorted) {
    const key = set.join('|')
    if (seen.has(key) || kept.some((one) => one.length < set.length && one.every((part) => set.includes(part))))
      continue
    seen.add(key)
    kept.push(set)
  }
  return kept
}

/** The chance that nobody can, each part being out by itself with its own chance. */
export function darkChance(structure: Structure, chanceOf: (part: PartId) => number): number {
  return chancesOf([structure], chanceOf)(() => null)
}

/** The chance that nobody can, with parts held out or whole: for the importance of each. */
export function chancesOf(
  structures: readonly Structure[],
  chanceOf: (part: PartId) => number,
): (held: (part: PartId) => boolean | null) => number {
  const parts = [...new Set(structures.flatMap(({ paths }) => paths.flatMap((path) => path.parts)))]
  const index = new Map(parts.map((part, i) => [part, i]))
  const diagrams = new Diagrams()
  // any of the structures is dark
  const dark = structures
    .map(({ paths }) =>
      paths
        .map((path) =>
          path.parts.map((part) => diagrams.variable(index.get(part)!)).reduce((a, b) => diagrams.or(a, b), 0),
        )
        .reduce((a, b) => diagrams.and(a, b), 1),
    )
    .reduce((a, b) => diagrams.or(a, b), 0)
  return (held) =>
    diagrams.probability(
      dark,
      parts.map((part) => {
        const state = held(part)
        return state === null ? chanceOf(part) : Number(state)
      }),
    )
}
