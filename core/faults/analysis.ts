import { PLACES, type PartId, type Place } from '../parts'
import type { Channel, Site } from '../site'
import { Asker } from './ask'
import { chanceOf } from './chances'
import { cutSets } from './cuts'
import { partOf, type Failure } from './failure'
import { any, failuresIn, isSo, type Formula } from './formula'
import { waysOff, waysOn, type WayWorks } from './onAndOff'
import { notAsked, placesOf, QUESTIONS, type Question } from './question'
import { HOURS_OF_YEAR, rateOf, shares } from './rates'

/** One question of one channel, and its answer as a formula. */
export interface Asked {
  readonly question: Question
  readonly channel: Channel
  readonly from: Place
  readonly formula: Formula
}

/** Every question of every channel that can be asked. */
export function askedOf(
  asker: Asker,
  questions: readonly Question[] = QUESTIONS,
  from: readonly Place[] = PLACES,
): Asked[] {
  return asker.formulas.site.channels.flatMap((channel) =>
    questions
      .filter((question) => notAsked(asker.formulas.site, question, channel) === null)
      .flatMap((question) =>
        placesOf(question)
          .filter((place) => from.includes(place) || placesOf(question).length === 1)
          .map((place) => ({ question, channel, from: place, formula: asker.ask(question, channel, place) })),
      ),
  )
}

/** What comes of it: how it comes about, and for how long a year. */
export interface ChannelFaults {
  readonly question: Question
  readonly channel: string
  readonly name: string
  readonly from: Place
  /** smallest sets of failures that are enough, fewest and longest out first; [[]]: it is so at all times */
  readonly cuts: readonly (readonly Failure[])[]
  /** hours a year in which it is so; null: at all times */
  readonly hours: number | null
  /** how often a year it begins to be so; null: it is so at all times */
  readonly times: number | null
}

const NOTHING: ReadonlySet<Failure> = new Set()

export function faultsOf(
  site: Site,
  questions: readonly Question[] = QUESTIONS,
  from: readonly Place[] = PLACES,
  asker = new Asker(site),
): ChannelFaults[] {
  const share = shares(site)
  return askedOf(asker, questions, from).map(({ question, channel, from: place, formula }) => ({
    ...{ question, channel: channel.id, name: channel.name, from: place },
    cuts: ranked(cutSets(formula), share),
    ...howOften(site, formula),
  }))
}

/**
 * For how long a year, and how often. Often: each failure begins so often, and it is that one that decides so often
 * (Birnbaum's measure; Vesely 1970, from memory).
 */
function howOften(
  site: Site,
  formula: Formula,
  chance = chanceOf(formula, shares(site)),
): Pick<ChannelFaults, 'hours' | 'times'> {
  if (isSo(formula, NOTHING)) return { hours: null, times: null }
  const times = failuresIn(formula).reduce((sum, failure) => {
    const { betweenHours, repairHours } = rateOf(site, failure)
    const held = (state: boolean): number => chance((one) => (one === failure ? state : null))
    return sum + Math.max(0, held(true) - held(false)) / (betweenHours + repairHours)
  }, 0)
  return { hours: chance(() => null) * HOURS_OF_YEAR, times: times * HOURS_OF_YEAR }
}

type Share = (failure: Failure) => number

const weight = (set: readonly Failure[], share: Share): number => set.reduce((product, one) => product * share(one), 1)

const ranked = (cuts: readonly (readonly Failure[])[], share: Share): readonly (readonly Failure[])[] =>
  [...cuts].sort((a, b) => a.length - b.length || weight(b, share) - weight(a, share))

/** How much one failure matters to an answer. */
export interface Importance {
  readonly failure: Failure
  /** Birnbaum: by how much the chance rises from never failing to having failed (1969; from memory) */
  readonly birnbaum: number
  /** Fussell and Vesely: the share of the time in which a cut set with it has failed (1972; from memory) */
  readonly fussellVesely: number
  /** hours a year that would be saved if it never failed */
  readonly hours: number
}

/** One answer, looked at closely. */
export interface FaultDetail extends ChannelFaults {
  /** with three failures at once, too */
  readonly triples: number
  readonly importance: readonly Importance[]
  /** ways that could do it from there, with the parts that each needs; empty where no hand is asked for */
  readonly paths: readonly { readonly way: string; readonly parts: readonly PartId[] }[]
}

const MOST_IMPORTANT = 8

export function detailOf(
  site: Site,
  question: Question,
  channel: Channel,
  from: Place,
  asker = new Asker(site),
): FaultDetail {
  const share = shares(site)
  const formula = asker.ask(question, channel, from)
  const cuts = ranked(cutSets(formula, 3), share)
  const chance = chanceOf(formula, share)
  const now = chance(() => null)
  const importance = [...new Set(cuts.flat())].map((failure): Importance => {
    const held = (state: boolean): number => chance((one) => (one === failure ? state : null))
    return {
      ...{ failure, birnbaum: held(true) - held(false), fussellVesely: shareOfCuts(cuts, failure, share, now) },
      hours: (now - held(false)) * HOURS_OF_YEAR,
    }
  })
  return {
    ...{
      question,
      channel: channel.id,
      name: channel.name,
      from,
      cuts,
      triples: cuts.filter((set) => set.length === 3).length,
    },
    ...howOften(site, formula, chance),
    importance: importance.sort((a, b) => b.hours - a.hours).slice(0, MOST_IMPORTANT),
    paths: pathsOf(asker, question, channel, from),
  }
}

/** The chance that some cut set with this failure has failed, of the chance of all. */
function shareOfCuts(cuts: readonly (readonly Failure[])[], failure: Failure, share: Share, whole: number): number {
  const sets = cuts.filter((set) => set.includes(failure))
  const formula = any(
    sets.map((set) => ({ kind: 'all', of: set.map((one): Formula => ({ kind: 'failed', failure: one })) })),
  )
  return whole === 0 ? 0 : Math.min(1, chanceOf(formula, share)(() => null) / whole)
}

/** Each way with the parts without which it does not work. */
function pathsOf(asker: Asker, question: Question, channel: Channel, from: Place): FaultDetail['paths'] {
  return waysFor(asker, question, channel, from).map(({ way, works }) => ({
    way,
    parts: [
      ...new Set(
        failuresIn(works)
          .filter((failure) => failure.endsWith('!gone') && !isSo(works, new Set([failure])))
          .map(partOf),
      ),
    ],
  }))
}

/** The ways that a question is about. */
export function waysFor(asker: Asker, question: Question, channel: Channel, from: Place): WayWorks[] {
  if (question === 'on') return waysOn(asker.formulas, channel, from)
  return question === 'off' ? waysOff(asker.formulas, channel, from) : []
}

/** Hours a year in which a question is so of at least one channel that could do better, from there. */
export function houseHours(site: Site, question: Question, from: Place, asker = new Asker(site)): number {
  const formulas = askedOf(asker, [question], [from])
    .map(({ formula }) => formula)
    .filter((formula) => !isSo(formula, NOTHING))
  return chanceOf(any(formulas), shares(site))(() => null) * HOURS_OF_YEAR
}

/** Failures that together do it to several channels: the set once, and whom it meets. */
export interface Together {
  readonly failures: readonly Failure[]
  readonly channels: readonly string[]
  /** hours a year in which all of them are there at once */
  readonly hours: number
}

/** Sets of two, over all channels, the longest first: what a look at single failures does not show. */
export function pairsThatMatter(site: Site, faults: readonly ChannelFaults[]): Together[] {
  const share = shares(site)
  const sets = new Map<string, { failures: readonly Failure[]; channels: string[] }>()
  for (const { cuts, name } of faults)
    for (const set of cuts.filter((one) => one.length === 2)) {
      const key = [...set].sort().join()
      const known = sets.get(key) ?? { failures: set, channels: [] }
      known.channels.push(name)
      sets.set(key, known)
    }
  return [...sets.values()]
    .map((one) => ({ ...one, hours: weight(one.failures, share) * HOURS_OF_YEAR }))
    .sort((a, b) => b.hours * b.channels.length - a.hours * a.channels.length)
}
