/** Spoken names: which of them clash, what better ones there are, and what an utterance is taken for. */
export { CLASH, likeness, type Alike, type Likeness } from './likeness'
export { betterName, clashesOf, spokenNames, troubleOf, voiceWays, type Clash, type SpokenName } from './names'
export { meaning, resolutionWords, resolveUtterance, type Resolution, type Spoken } from './resolve'
export { heardAs, wordsOf } from './words'
