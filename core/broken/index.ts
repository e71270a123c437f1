/** A house that is broken in every way and then tried by hand: what the model of failures is held against. */
export { asksFor, basesOf, doStep, isOn, triesOf } from './base'
export { answerKey, BrokenHouse, type Answers } from './brokenHouse'
export { playYears, type Estimate, type Years, type YearsOptions } from './monteCarlo'
