import { channelOf, controllerOf, kindOf, timeText, topLevel, type Site } from '../site'
import { SOURCE_WORDS } from '../topics'
import type { Breach, InHand, Odd, StepHeard } from './follow'
import type { Report } from './turns'
import type { Expect, To, Turn } from './watch'

const nameOf = (site: Site, id: string): string => channelOf(site, id)?.name ?? id
const boardName = (site: Site, id: string): string => controllerOf(site, id)?.name ?? id

const WORDS: Readonly<Record<string, string>> = SOURCE_WORDS

export const sourceSaid = (source: string | null): string =>
  source === null ? '(the service does not say by what)' : (WORDS[source] ?? `by ${source}`)

/** "on", "level 2", "closing" … of a channel. */
export function levelSaid(site: Site, channel: string, level: number): string {
  const known = channelOf(site, channel)
  if (known?.kind === 'paired') return level === 0 ? 'stopped' : known.labels[level === 1 ? 0 : 1]
  if (known && kindOf(known).report === 'words') return level === 0 ? 'at rest' : 'moving'
  return known && topLevel(known) > 1 && level > 0 ? `level ${level}` : level > 0 ? 'on' : 'off'
}

/** "Shelf lights on, by the wall". */
export const reportSaid = (site: Site, { channel, level, source }: Report): string =>
  `${nameOf(site, channel)} ${levelSaid(site, channel, level)}, ${sourceSaid(source)}`

function toWords(site: Site, channel: string, to: To): string {
  if (typeof to === 'number') return levelSaid(site, channel, to)
  return { turned: 'turned over', on: 'on', off: 'off', up: 'one level up', down: 'one level down', any: 'moved' }[to]
}

const bySaid = (by: readonly string[] | null): string =>
  by === null ? '' : `, ${[...new Set(by.map(sourceSaid))].join(' or ')}`

const turnWords = (site: Site, { channel, to, by }: Turn): string =>
  `${nameOf(site, channel)} ${toWords(site, channel, to)}${bySaid(by)}`

/** What a step waits for. */
export function expectWords(site: Site, expect: Expect): string {
  switch (expect.kind) {
    case 'turn':
      return turnWords(site, expect.turn)
    case 'all':
      return expect.turns.map((turn) => turnWords(site, turn)).join('; ')
    case 'any':
      return `one of: ${expect.turns.map((turn) => turnWords(site, turn)).join('; ')}`
    case 'still':
      return `no further change of ${nameOf(site, expect.channel)} for ${timeText(expect.ms)}`
    case 'away':
      return `${boardName(site, expect.controller)} goes offline`
    case 'here':
      return `${boardName(site, expect.controller)} is back online`
    case 'comesUp':
      return `${nameOf(site, expect.channel)} ${expect.to === 'before' ? 'as before' : expect.to} after the start`
    case 'screen':
      return `${holderName(site, expect.holder)} shows ${nameOf(site, expect.channel)} as it is`
    case 'gesture':
      return `the switch of ${nameOf(site, expect.channel)} speaks to the hub`
    case 'mode':
      return `${expect.channel === null ? 'the rules' : nameOf(site, expect.channel)}: ${expect.mode}`
    case 'log':
      return `the board says “${expect.says}”`
    case 'beat':
      return expect.heard ? 'the hub’s heartbeat is back' : 'the hub’s heartbeat is silent'
    case 'broker':
      return expect.up ? 'the broker is back' : 'the broker is gone'
  }
}

const holderName = (site: Site, holder: string): string =>
  site.services.find(({ id }) => id === holder)?.name ?? site.hubs.find(({ id }) => id === holder)?.name ?? holder

/** A line of what was heard, or is waited for. */
export interface HeardLine {
  readonly state: 'heard' | 'waiting' | 'later'
  readonly text: string
  /** "seq 18", of reports; empty where nothing counts */
  readonly detail: string
}

const seqsOf = (reports: readonly Report[]): string =>
  reports.flatMap(({ seq }) => (seq === null ? [] : [seq])).join(', ')

function doneLine(site: Site, expect: Expect, { reports }: StepHeard): HeardLine {
  const seqs = seqsOf(reports)
  const text =
    reports.length > 0 ? reports.map((report) => reportSaid(site, report)).join('; ') : expectWords(site, expect)
  return { state: 'heard', text, detail: seqs === '' ? '' : `seq ${seqs}` }
}

/** The steps of a test in hand, as lines. */
export function linesOf(site: Site, hand: InHand): HeardLine[] {
  return hand.watch.hears.map((expect, at): HeardLine => {
    const done = hand.done[at]
    if (done) return doneLine(site, expect, done)
    const waits = at === hand.done.length
    const came = waits ? Object.values(hand.part) : []
    const rest =
      expect.kind === 'all' ? expect.turns.filter((_, place) => !waits || hand.part[place] === undefined) : []
    const text = rest.length > 0 ? rest.map((turn) => turnWords(site, turn)).join('; ') : expectWords(site, expect)
    return { state: waits ? 'waiting' : 'later', text, detail: came.length ? `${came.length} heard` : '' }
  })
}

export function oddWords(site: Site, hand: InHand, odd: Odd): string {
  switch (odd.kind) {
    case 'cause':
      return `Heard: ${reportSaid(site, odd.report)}. This step waits for another cause.`
    case 'way':
      return `Heard: ${reportSaid(site, odd.report)}. This step waits for another state.`
    case 'stray':
      return `${reportSaid(site, odd.report)}: that is not ${wantedNames(site, hand)}. Wrong hand, or wrong wire or key?`
    case 'noRestart':
      return 'It came back, but was never without power: turn its power off for five seconds.'
    case 'missing':
      return `${odd.lost} report${odd.lost === 1 ? ' is' : 's are'} missing before seq ${odd.report.seq}.`
  }
}

function wantedNames(site: Site, { watch }: InHand): string {
  const ids = watch.hears.flatMap((expect) =>
    expect.kind === 'turn'
      ? [expect.turn.channel]
      : 'turns' in expect
        ? expect.turns.map(({ channel }) => channel)
        : [],
  )
  return [...new Set(ids)].map((id) => nameOf(site, id)).join(', ')
}

export function breachWords(site: Site, breach: Breach): string {
  switch (breach.kind) {
    case 'again':
      return `${reportSaid(site, breach.report)}, again after ${seconds(breach.afterMs)}`
    case 'early':
      return `${reportSaid(site, breach.report)}, after ${seconds(breach.afterMs)} already`
    case 'late':
      return `${nameOf(site, breach.channel)}: nothing after ${seconds(breach.afterMs)}`
    case 'comesUp': {
      const is = breach.is === null ? 'said nothing' : `came up ${levelSaid(site, breach.channel, breach.is)}`
      const wanted = breach.to === 'before' ? 'not as before' : `not ${breach.to}`
      return `${nameOf(site, breach.channel)} ${is}, ${wanted}`
    }
  }
}

const seconds = (ms: number): string => `${(ms / 1000).toFixed(ms < 10_000 ? 1 : 0)} s`
