/** What boards say of themselves: which are here, and whether what is said is what a test must bring. */
export { heardOn, strangerOn, type Heard } from './heard'
export { hear, UNHEARD_BOARD, type BoardHeard, type Boards, type ChannelHeard } from './boards'
export { Expect, Watch, unheard, type Eye, type To, type Turn } from './watch'
export {
  channelsOf,
  dueAt,
  eyeAsked,
  follow,
  hasStrayed,
  isHeard,
  looked,
  passes,
  restsFirst,
  standsInTheWay,
  takeInHand,
  verdictOf,
  waitsForScreen,
  type Breach,
  type InHand,
  type Odd,
  type Screens,
  type Verdict,
} from './follow'
export { breachWords, expectWords, levelSaid, linesOf, oddWords, reportSaid, sourceSaid, type HeardLine } from './words'
export { codeHeard, settleFor } from './teach'
export type { KeyHeard } from './boards'
export { hubLevels, pointLevels } from './screens'
export { isNew, startsAnew } from './boards'
export type { Report } from './turns'
