/** What if: which failures leave nobody in control, how often, and for how long. */
export {
  askedOf,
  detailOf,
  faultsOf,
  houseHours,
  pairsThatMatter,
  waysFor,
  type Asked,
  type ChannelFaults,
  type FaultDetail,
  type Importance,
  type Together,
} from './analysis'
export { Asker, type Standing } from './ask'
export { chanceOf, type Held } from './chances'
export { cutSets } from './cuts'
export { Diagrams, type Node } from './diagram'
export { failureOf, failuresOf, howOf, partOf, type Failure } from './failure'
export { all, any, failuresIn, isSo, not, type Formula } from './formula'
export { HouseFormulas } from './houseFormulas'
export { endsSoon, limitMs, notAsked, placesOf, QUESTION_WORDS, QUESTIONS, SOON_MS, type Question } from './question'
export {
  COMMON_PRACTICE,
  HOURS_OF_YEAR,
  RATE_KEYS,
  rateBy,
  rateKey,
  rateOf,
  shares,
  unavailability,
  type Rate,
} from './rates'
export { rateWords } from './rateWords'
export { failureWords, setWords } from './words'
export { withoutControl, type WithoutControl } from './withoutControl'
export { whoIsLeft, type LeftCell, type LeftRow, type WhoIsLeft } from './whoIsLeft'
