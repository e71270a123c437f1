import { isNew, type BoardHeard, type Boards, type ChannelHeard } from './boards'
import type { Heard } from './heard'
import { meets, movedFrom, type Report } from './turns'
import type { Expect, Turn, Watch } from './watch'

/** What was heard for one step. */
export interface StepHeard {
  readonly t: number
  /** the reports that it was, as they came */
  readonly reports: readonly Report[]
}

/** Something that does not belong to the test in hand. */
export type Odd =
  /** the channel moved, but not by what the test works */
  | { readonly kind: 'cause'; readonly report: Report }
  /** the channel moved by what the test works, but not where it should */
  | { readonly kind: 'way'; readonly report: Report }
  /** another channel moved by what the test works */
  | { readonly kind: 'stray'; readonly report: Report }
  /** it came back, but was never without power */
  | { readonly kind: 'noRestart' }
  /** reports have been lost between two that came */
  | { readonly kind: 'missing'; readonly report: Report; readonly lost: number }

/** Why what was heard cannot be right, whatever the hand did. */
export type Breach =
  | { readonly kind: 'again'; readonly report: Report; readonly afterMs: number }
  | { readonly kind: 'early'; readonly report: Report; readonly afterMs: number }
  | { readonly kind: 'late'; readonly channel: string; readonly afterMs: number }
  | {
      readonly kind: 'comesUp'
      readonly channel: string
      readonly is: number | null
      readonly to: 'on' | 'off' | 'before'
    }

/** A test in hand: what of it has been heard. Times in ms. */
export interface InHand {
  readonly watch: Watch
  readonly takenAt: number
  readonly done: readonly StepHeard[]
  /** of the step that is waited for: which of its turns have come, by their place */
  readonly part: Readonly<Record<number, Report>>
  /** when the step that is waited for began */
  readonly since: number
  /** boards as they were when the power of one went, for what must come up as before */
  readonly before: Boards
  readonly restarts: number
  readonly odd: readonly Odd[]
  readonly breach: Breach | null
}

export const takeInHand = (watch: Watch, boards: Boards, t: number): InHand => ({
  watch,
  takenAt: t,
  done: [],
  part: {},
  since: t,
  before: boards,
  restarts: boards[watch.controller]?.restarts ?? 0,
  odd: [],
  breach: null,
})

/** All that can be heard has been heard. */
export const isHeard = ({ watch, done, breach }: InHand): boolean =>
  breach === null && done.length === watch.hears.length

/** Another channel has moved by what the test works: a person must say whether the hand was wrong, or the wiring. */
export const hasStrayed = ({ odd }: InHand): boolean => odd.some(({ kind }) => kind === 'stray')

/** How a test has gone, as far as its board and an eye tell it. */
export type Verdict =
  | { readonly outcome: 'passed'; readonly by: 'board' | 'eye' }
  | { readonly outcome: 'failed'; readonly by: 'board'; readonly breach: Breach }
  | { readonly outcome: 'failed'; readonly by: 'eye' }

/**
 * Tells the outcome, where nothing is left to hear or to see; null: something is. `eye`: what an eye is asked, null
 * where it is not; `seen`: its answer. Where another channel moved by what the test works, a person must say.
 */
export function verdictOf(hand: InHand, eye: string | null, seen: boolean | null): Verdict | null {
  if (hand.breach) return { outcome: 'failed', by: 'board', breach: hand.breach }
  if (eye !== null && seen === false) return { outcome: 'failed', by: 'eye' }
  if (!isHeard(hand) || hasStrayed(hand) || (eye !== null && seen !== true)) return null
  // nothing heard and nothing seen says nothing
  if (hand.watch.hears.length === 0 && eye === null) return null
  return { outcome: 'passed', by: eye === null ? 'board' : 'eye' }
}

/** Somebody has looked at a screen that nobody can hear. */
export const looked = (hand: InHand, t: number): InHand =>
  waitedFor(hand)?.kind === 'screen' ? stepDone(hand, t) : hand

/** A screen is waited for. */
export const waitsForScreen = (hand: InHand): boolean => waitedFor(hand)?.kind === 'screen'

/** Channels that a test is about: what moves of others is none of its business. */
export const channelsOf = ({ hears, also }: Watch): string[] => [
  ...new Set([
    ...also,
    ...hears.flatMap((expect) =>
      turnsOf(expect).length > 0
        ? turnsOf(expect).map(({ channel }) => channel)
        : 'channel' in expect && expect.channel !== null
          ? [expect.channel]
          : [],
    ),
  ]),
]

/** What an eye is asked; null: nothing, or a test that has passed in this run has shown it. */
export function eyeAsked(
  eye: Watch['eye'],
  shown: readonly { readonly about: string | null; readonly shows: boolean }[],
): string | null {
  if (!eye) return null
  const isShown = eye.about !== null && shown.some(({ about, shows }) => shows && about === eye.about)
  return isShown ? null : eye.asks
}

const waitedFor = ({ watch, done, breach }: InHand): Expect | undefined =>
  breach === null ? watch.hears[done.length] : undefined

const stepDone = (hand: InHand, t: number, reports: readonly Report[] = []): InHand => ({
  ...hand,
  done: [...hand.done, { t, reports }],
  part: {},
  since: t,
})

const withOdd = (hand: InHand, odd: Odd): InHand => ({ ...hand, odd: [...hand.odd, odd].slice(-5) })
const broken = (hand: InHand, breach: Breach): InHand => ({ ...hand, breach })

const turnsOf = (expect: Expect): readonly Turn[] =>
  expect.kind === 'turn' ? [expect.turn] : expect.kind === 'all' || expect.kind === 'any' ? expect.turns : []

/** A report of a channel arrives: `known` is what was known of it before. */
function hearsState(hand: InHand, boards: Boards, report: Report, known: ChannelHeard | undefined): InHand {
  const expect = waitedFor(hand)
  if (!expect || !isNew(report, known)) return hand
  const { watch, since } = hand
  const lost = lostBetween(report, known)
  const heard = lost > 0 ? withOdd(hand, { kind: 'missing', report, lost }) : hand
  if (expect.kind === 'still') {
    // a start and a door's own contact are no command
    const own = report.channel === expect.channel && report.source !== 'power' && report.source !== 'contact'
    return own ? broken(heard, { kind: 'again', report, afterMs: report.t - since }) : heard
  }
  const turns = turnsOf(expect)
  const place = turns.findIndex((turn, at) => hand.part[at] === undefined && meets(turn, report, known))
  if (place >= 0) return turnCame(heard, expect, place, report)
  // what comes up, or ends by itself, was no hand's
  const isOwn = report.source === 'power' || report.source === 'limit' || (report.source === null && report.level === 0)
  if (turns.length === 0 || isOwn) return heard
  return strayed(heard, boards, turns, watch, report)
}

function turnCame(hand: InHand, expect: Expect, place: number, report: Report): InHand {
  if (expect.kind === 'turn' && expect.notBeforeMs !== undefined && report.t - hand.since < expect.notBeforeMs)
    return broken(hand, { kind: 'early', report, afterMs: report.t - hand.since })
  const part = { ...hand.part, [place]: report }
  const count = Object.keys(part).length
  if (expect.kind === 'all' && count < expect.turns.length) return { ...hand, part }
  return stepDone(hand, report.t, Object.values(part))
}

/** What of a report that was not waited for is odd. */
function strayed(hand: InHand, boards: Boards, turns: readonly Turn[], watch: Watch, report: Report): InHand {
  const own = turns.filter(({ channel }) => channel === report.channel)
  const by = new Set(turns.flatMap((turn) => turn.by ?? []))
  const isBy = report.source === null || by.has(report.source)
  const known = watch.hears.flatMap(turnsOf).some(({ channel }) => channel === report.channel)
  if (own.length > 0) {
    const cause = own.some((turn) => turn.by !== null && report.source !== null && !turn.by.includes(report.source))
    return withOdd(hand, { kind: cause ? 'cause' : 'way', report })
  }
  if (known || by.size === 0 || !isBy || watch.also.includes(report.channel)) return hand
  if (report.controller !== watch.controller || boards[report.controller] === undefined) return hand
  return withOdd(hand, { kind: 'stray', report })
}

/** Reports that were lost between two: their counts of changes are not next to each other. */
function lostBetween(report: Report, known: ChannelHeard | undefined): number {
  if (known?.seq === null || known === undefined || report.seq === null || report.seq <= known.seq) return 0
  return report.seq - known.seq - 1
}

// ---- the power and the links of boards ----

const cameUp = (heard: Heard): boolean =>
  (heard.kind === 'status' && heard.online) || (heard.kind === 'log' && heard.text.startsWith('tables '))

function hearsLink(hand: InHand, boards: Boards, heard: Heard): InHand {
  const expect = waitedFor(hand)
  if (!expect || !('controller' in heard)) return hand
  if (expect.kind === 'away' && heard.controller === expect.controller) {
    const gone = heard.kind === 'status' && !heard.online
    // one that is up again was away, also where nobody said so
    if (!gone && !cameUp(heard)) return hand
    const left = stepDone({ ...hand, before: boards, restarts: boards[heard.controller]?.restarts ?? 0 }, heard.t)
    return gone ? left : hearsLink(left, boards, heard)
  }
  if (expect.kind === 'here' && heard.controller === expect.controller && cameUp(heard)) return stepDone(hand, heard.t)
  return hand
}

function hearsWords(hand: InHand, heard: Heard): InHand {
  const expect = waitedFor(hand)
  if (!expect) return hand
  switch (heard.kind) {
    case 'gesture':
      return expect.kind === 'gesture' && expect.channel === heard.channel ? stepDone(hand, heard.t) : hand
    case 'log':
      return expect.kind === 'log' && heard.controller === hand.watch.controller && heard.text.includes(expect.says)
        ? stepDone(hand, heard.t)
        : hand
    case 'mode':
      return expect.kind === 'mode' && expect.channel === null && expect.mode === heard.mode
        ? stepDone(hand, heard.t)
        : hand
    case 'state':
      return expect.kind === 'mode' && expect.channel === heard.channel && expect.mode === heard.mode
        ? stepDone(hand, heard.t)
        : hand
    case 'beat':
      return expect.kind === 'beat' && expect.heard ? stepDone(hand, heard.t) : hand
    case 'broker':
      return expect.kind === 'broker' && expect.up === heard.up ? stepDone(hand, heard.t) : hand
    default:
      return hand
  }
}

/** A screen agrees when it shows what its board has said last. */
function screensAgree(hand: InHand, boards: Boards, screens: Screens, t: number): InHand {
  const expect = waitedFor(hand)
  if (expect?.kind !== 'screen') return hand
  const said = channelHeard(boards, hand.watch.controller, expect.channel)
  const shown = screens[`${expect.holder}/${expect.channel}`]
  return said !== undefined && shown !== undefined && shown === said.level ? stepDone(hand, t) : hand
}

const channelHeard = (boards: Boards, controller: string, channel: string): ChannelHeard | undefined =>
  boards[controller]?.channels[channel]

/** Levels that screens show, by "holder/channel". */
export type Screens = Readonly<Record<string, number>>

/** What the test in hand makes of something that was heard. `before` and `after`: the boards without it and with it. */
export function follow(hand: InHand, heard: Heard, before: Boards, after: Boards, screens: Screens): InHand {
  const states =
    heard.kind === 'state'
      ? hearsState(hand, after, heard, channelHeard(before, heard.controller, heard.channel))
      : hand
  // one message ends one step, but for a screen that agreed already
  const next =
    states !== hand && states.done.length > hand.done.length
      ? states
      : hearsWords(hearsLink(states, before, heard), heard)
  return screensAgree(next, after, screens, heard.t)
}

// ---- time ----

/** When the test in hand is to be looked at again, ms; null: only something heard can change it. */
export function dueAt(hand: InHand, lastBeat: number | null): number | null {
  const expect = waitedFor(hand)
  if (!expect) return null
  switch (expect.kind) {
    case 'still':
      return hand.since + expect.ms
    case 'comesUp':
      return hand.since + expect.afterMs
    case 'turn':
      return expect.withinMs === undefined ? null : hand.since + expect.withinMs
    case 'beat':
      return expect.heard || lastBeat === null ? null : Math.max(lastBeat, hand.since) + expect.silentMs
    default:
      return null
  }
}

/** Time has passed. */
export function passes(hand: InHand, boards: Boards, lastBeat: number | null, now: number): InHand {
  const due = dueAt(hand, lastBeat)
  const expect = waitedFor(hand)
  if (due === null || now < due || !expect) return hand
  if (expect.kind === 'turn')
    return broken(hand, { kind: 'late', channel: expect.turn.channel, afterMs: now - hand.since })
  return expect.kind === 'comesUp' ? hasComeUp(hand, boards, expect, now) : stepDone(hand, now)
}

function hasComeUp(hand: InHand, boards: Boards, expect: Extract<Expect, { kind: 'comesUp' }>, now: number): InHand {
  const board = boards[hand.watch.controller]
  const is = board?.channels[expect.channel]
  const mustRestart = hand.watch.hears.some((one) => one.kind === 'here' && one.restarted)
  if (board && mustRestart && !isRestarted(hand, board, expect.channel)) {
    const away = hand.watch.hears.findIndex(({ kind }) => kind === 'away')
    const back = { ...hand, done: hand.done.slice(0, Math.max(0, away)), part: {}, since: now }
    return withOdd(back, { kind: 'noRestart' })
  }
  const was = hand.before[hand.watch.controller]?.channels[expect.channel]?.level
  const wanted = (level: number): boolean =>
    expect.to === 'before' ? level === was : expect.to === 'on' ? level > 0 : level === 0
  if (is && wanted(is.level))
    return stepDone(hand, now, [{ ...is, controller: hand.watch.controller, channel: expect.channel }])
  return broken(hand, { kind: 'comesUp', channel: expect.channel, is: is?.level ?? null, to: expect.to })
}

/**
 * Its power was gone, unless the count of the channel simply goes on. Where no count could have begun again, or a
 * service says none, it is believed.
 */
function isRestarted(hand: InHand, board: BoardHeard, channel: string): boolean {
  const [was, is] = [hand.before[hand.watch.controller]?.channels[channel], board.channels[channel]]
  if (board.restarts > hand.restarts || !was || !is || is.seq === null || was.seq === null) return true
  // a door's contact is learned anew at each start
  return is.source === 'power' || is.source === 'contact' || is.seq === 0 || is.seq < was.seq
}

/** A channel that the step waits for has been told to turn on, and may not yet: its least time off runs. */
export function restsFirst(hand: InHand, boards: Boards): string | null {
  const expect = waitedFor(hand)
  const ids = expect ? turnsOf(expect).map(({ channel }) => channel) : []
  return ids.find((id) => channelHeard(boards, hand.watch.controller, id)?.waiting === true) ?? null
}

/** What must be done first, so that the step can be seen at all: the channel stands where it is to go. */
export function standsInTheWay(hand: InHand, boards: Boards): { channel: string; level: number } | null {
  const expect = waitedFor(hand)
  if (expect?.kind !== 'turn' || expect.turn.by === null) return null
  const known = channelHeard(boards, hand.watch.controller, expect.turn.channel)
  if (!known || movedFrom(expect.turn.to, known.level)) return null
  return { channel: expect.turn.channel, level: known.level }
}
