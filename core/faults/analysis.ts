import { partsOf, PLACES, type PartId, type Place } from '../parts'
import type { Site } from '../site'
import { HOURS_OF_YEAR, unavailability } from './rates'
import { chancesOf, cutSets, isAnalysed, structureOf, type Structure } from './structure'

/** What failures leave nobody in control of a channel, and for how long in a year. */
export interface ChannelFaults {
  readonly channel: string
  readonly name: string
  readonly from: Place
  /** ways that reach from there */
  readonly ways: number
  /** one, two or three parts that together leave nobody, the smallest and likeliest first; null: no way at all */
  readonly cuts: readonly (readonly PartId[])[] | null
  /** hours a year in which nobody can turn it on; null: nobody ever can from there */
  readonly darkHours: number | null
  /** the parts that cost most of them: hours a year that would be saved if each never failed */
  readonly worst: readonly { readonly part: PartId; readonly hours: number }[]
}

const WORST = 3

export function faultsOf(site: Site, from: readonly Place[] = PLACES): ChannelFaults[] {
  const graph = partsOf(site)
  return site.channels
    .filter(isAnalysed)
    .flatMap((channel) => from.map((standing) => analysed(channel.name, structureOf(site, graph, channel, standing))))
}

function analysed(name: string, structure: Structure): ChannelFaults {
  const { channel, from, paths } = structure
  if (paths.length === 0) return { channel, name, from, ways: 0, cuts: null, darkHours: null, worst: [] }
  const chance = chancesOf([structure], unavailability)
  const dark = chance(() => null)
  const cuts = [...cutSets(structure)].sort((a, b) => a.length - b.length || weight(b) - weight(a))
  const parts = [...new Set(cuts.flat())]
  const saved = parts.map((part) => ({
    part,
    hours: (dark - chance((one) => (one === part ? false : null))) * HOURS_OF_YEAR,
  }))
  const worst = saved.sort((a, b) => b.hours - a.hours).slice(0, WORST)
  return {
    ...{ channel, name, from, ways: new Set(paths.map(({ way }) => way)).size, cuts, darkHours: dark * HOURS_OF_YEAR },
    worst,
  }
}

const weight = (set: readonly PartId[]): number => set.reduce((product, part) => product * unavailability(part), 1)

/** Hours a year in which some channel of the house has nobody who could turn it on. */
export function houseDarkHours(site: Site, from: Place): number {
  const graph = partsOf(site)
  const structures = site.channels.filter(isAnalysed).flatMap((channel) => {
    const structure = structureOf(site, graph, channel, from)
    return structure.paths.length > 0 ? [structure] : []
  })
  return structures.length === 0 ? 0 : chancesOf(structures, unavailability)(() => null) * HOURS_OF_YEAR
}
