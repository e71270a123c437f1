import { failuresOf, HOURS_OF_YEAR, partOf, rateOf, type Failure, type Question } from '../faults'
import { partsOf, type Place } from '../parts'
import { seeded } from '../seeded'
import type { Site } from '../site'
import { answerKey, BrokenHouse } from './brokenHouse'

/**
 * Years of failures and repairs, drawn by chance and judged by playing the house: no formula of core/faults is used,
 * and repairs need not be independent of each other.
 */
export interface YearsOptions {
  readonly years: number
  readonly seed: number
  readonly question: Question
  readonly from: Place
  /** people who repair, one thing each at a time; null: everything is repaired at once */
  readonly hands: number | null
  /** done, 0…1; false: stop */
  readonly onProgress?: (done: number) => boolean | void
}

/** Hours a year, with the interval in which the true mean lies in 95 of 100 cases (normal, over years). */
export interface Estimate {
  readonly channel: string
  readonly mean: number
  readonly low: number
  readonly high: number
}

export interface Years {
  readonly estimates: readonly Estimate[]
  /** times that something failed */
  readonly failures: number
  /** different states of the house that were played */
  readonly played: number
}

/** Of the normal distribution, two-sided 95 % (any table; from memory). */
const Z_95 = 1.96

interface Ongoing {
  readonly failure: Failure
  /** hours of work left; the hands take them in the order in which they failed */
  left: number
}

export function playYears(site: Site, options: YearsOptions): Years | null {
  const { years, seed, hands, onProgress } = options
  const judged = judge(site, options)
  const chance = new Chance(site, seed)
  const perYear = site.channels.map(() => new Float64Array(years))
  const until = years * HOURS_OF_YEAR
  let out: readonly Ongoing[] = []
  let failures = 0
  let nextProgress = 0
  for (let now = 0; now < until;) {
    const able = chance.able(out)
    const worked = hands === null ? out : out.slice(0, hands)
    const toFailure = chance.exponential(1 / able.total)
    const toRepair = Math.min(Infinity, ...worked.map(({ left }) => left))
    const step = Math.min(toFailure, toRepair, until - now)
    addHours(perYear, site, judged.of(out), now, step)
    for (const one of worked) one.left -= step
    now += step
    if (now >= until) break
    if (step === toRepair) out = out.filter(({ left }) => left > DONE)
    else {
      failures++
      out = [...out, chance.fails(able)]
    }
    if (now < nextProgress) continue
    if (onProgress?.(now / until) === false) return null
    nextProgress = now + until / 100
  }
  return {
    estimates: site.channels.map(({ id }, i) => estimateOf(id, perYear[i]!)),
    failures,
    played: judged.known.size,
  }
}

/** Work that is less is done, hours. */
const DONE = 1e-12

interface Able {
  readonly failures: readonly {
    readonly failure: Failure
    readonly betweenHours: number
    readonly repairHours: number
  }[]
  /** failures an hour */
  readonly total: number
}

/** What fails next, and how long it takes: exponential times, as rates without memory give. */
class Chance {
  private readonly random: () => number
  private readonly rates: Able['failures']

  constructor(site: Site, seed: number) {
    this.random = seeded(seed)
    this.rates = failuresOf(partsOf(site)).map((failure) => ({ failure, ...rateOf(site, failure) }))
  }

  exponential(mean: number): number {
    return -mean * Math.log(1 - this.random())
  }

  /** A part that is out cannot fail once more. */
  able(out: readonly Ongoing[]): Able {
    const broken = new Set(out.map(({ failure }) => partOf(failure)))
    const failures = this.rates.filter(({ failure }) => !broken.has(partOf(failure)))
    return { failures, total: failures.reduce((sum, { betweenHours }) => sum + 1 / betweenHours, 0) }
  }

  fails({ failures, total }: Able): Ongoing {
    let pick = this.random() * total
    const failed = failures.find(({ betweenHours }) => (pick -= 1 / betweenHours) <= 0) ?? failures.at(-1)!
    return { failure: failed.failure, left: this.exponential(failed.repairHours) }
  }
}

/** Plays each state of the house once, and remembers of which channels it is so. */
function judge(site: Site, { question, from }: YearsOptions) {
  const house = new BrokenHouse(site)
  const known = new Map<string, ReadonlySet<string>>()
  const of = (out: readonly Ongoing[]): ReadonlySet<string> => {
    const failed = out.map(({ failure }) => failure)
    const key = [...failed].sort().join()
    const found = known.get(key) ?? channelsSo(house, failed, question, from)
    known.set(key, found)
    return found
  }
  return { known, of }
}

function channelsSo(
  house: BrokenHouse,
  failed: readonly Failure[],
  question: Question,
  from: Place,
): ReadonlySet<string> {
  const answers = house.answers(failed, house.site.channels, [question])
  return new Set(
    house.site.channels.flatMap(({ id }) => (answers.get(answerKey(question, id, from)) ? [id as string] : [])),
  )
}

/** Adds a stretch of time to the years that it lies in. */
function addHours(
  perYear: readonly Float64Array[],
  site: Site,
  so: ReadonlySet<string>,
  start: number,
  hours: number,
): void {
  if (so.size === 0) return
  for (let at = start, end = start + hours; at < end;) {
    const year = Math.floor(at / HOURS_OF_YEAR)
    const stop = Math.min(end, (year + 1) * HOURS_OF_YEAR)
    site.channels.forEach(({ id }, i) => {
      if (so.has(id) && year < perYear[i]!.length) perYear[i]![year]! += stop - at
    })
    at = stop
  }
}

function estimateOf(channel: string, years: Float64Array): Estimate {
  const mean = years.reduce((sum, one) => sum + one, 0) / years.length
  const variance = years.reduce((sum, one) => sum + (one - mean) ** 2, 0) / Math.max(1, years.length - 1)
  const half = Z_95 * Math.sqrt(variance / years.length)
  return { channel, mean, low: Math.max(0, mean - half), high: mean + half }
}
