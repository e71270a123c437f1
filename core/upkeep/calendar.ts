import { createEvents, type DateArray, type EventAttributes } from 'ics'
import type { Site } from '../site'
import type { UpkeepItem } from './items'

const dateOf = (at: string): DateArray => {
  const date = new Date(at)
  return [date.getUTCFullYear(), date.getUTCMonth() + 1, date.getUTCDate()]
}

/** The day after: the end of a whole-day event stands outside of it (RFC 5545, 3.6.1). */
const dayAfter = (at: string): DateArray => dateOf(new Date(new Date(at).getTime() + 86_400_000).toISOString())

/**
 * What is due, as a calendar file (RFC 5545): a whole day for each, known by the same name in every file, so that a
 * calendar that reads it again moves what has moved. `now`: an ISO 8601 instant. What is past its day stands on today.
 */
export function upkeepCalendar(site: Site, items: readonly UpkeepItem[], now: string): string {
  const events = items.flatMap((item): EventAttributes[] => {
    if (item.due === null) return []
    const day = item.due < now ? now : item.due
    return [
      {
        uid: `${item.id.replace(/[^a-z0-9:-]/g, '-')}@${site.id}.vestibule`,
        title: item.what,
        description: `${site.name}: ${item.detail}`,
        start: dateOf(day),
        end: dayAfter(day),
        busyStatus: 'FREE',
        categories: [item.kind],
        calName: `${site.name}: upkeep`,
        productId: 'vestibule//upkeep//EN',
        // read by the library, and missing in its types: when the file was made (RFC 5545, 3.8.7.2)
        ...{ timestamp: new Date(now).getTime() },
      },
    ]
  })
  const { value, error } = createEvents(events)
  if (error || typeof value !== 'string') throw error ?? new Error('no calendar')
  return value
}
