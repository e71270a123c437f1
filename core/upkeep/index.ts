/** What wears or ages, and when it is due. */
export { contactLife, isDue, monthsLater, ownerOf, upkeepOf, type UpkeepFacts, type UpkeepItem } from './items'
export { upkeepCalendar } from './calendar'
