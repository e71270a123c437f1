/** What if: which failures leave nobody in control, how often, and for how long. */
export { faultsOf, houseDarkHours, type ChannelFaults } from './analysis'
export { Diagrams, type Node } from './diagram'
export { HOURS_OF_YEAR, rateOf, RATES_SOURCE, unavailability, type Rate } from './rates'
export { chancesOf, cutSets, darkChance, isAnalysed, isDark, minimal, structureOf, type Structure } from './structure'
export { whoIsLeft, type LeftColumn, type LeftRow, type WhoIsLeft } from './whoIsLeft'
