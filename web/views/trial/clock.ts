/** Times of a run as they are shown. */

const two = (n: number): string => String(n).padStart(2, '0')

/** "3:12.480", "1:03:12", "2 d 03:12": as fine as the stretch that is looked at asks for. */
export function clockOf(ms: number, stepMs = 1): string {
  const whole = Math.max(0, Math.floor(ms))
  const days = Math.floor(whole / 86_400_000)
  const hours = Math.floor(whole / 3_600_000) % 24
  const minutes = Math.floor(whole / 60_000) % 60
  const seconds = Math.floor(whole / 1_000) % 60
  const rest = stepMs < 1_000 ? `.${String(whole % 1_000).padStart(3, '0')}` : ''
  if (days > 0) return `${days} d ${two(hours)}:${two(minutes)}${stepMs < 60_000 ? `:${two(seconds)}${rest}` : ''}`
  return hours > 0 ? `${hours}:${two(minutes)}:${two(seconds)}${rest}` : `${minutes}:${two(seconds)}${rest}`
}

/** "90", "1:30", "2:03:12", "1 d 04:00": an instant as a person types it, ms; undefined: it is none. */
export function instantOf(text: string): number | undefined {
  const found = /^(?:(\d+) ?d ?)?(?:(?:(\d+):)?(\d+):)?(\d+(?:\.\d{1,3})?)$/.exec(text.trim())
  if (!found) return undefined
  const [, days = '0', hours = '0', minutes = '0', seconds = '0'] = found
  // after days two parts are hours and minutes
  if (found[1] !== undefined && found[2] === undefined && found[3] !== undefined)
    return Number(days) * 86_400_000 + Number(minutes) * 3_600_000 + Number(seconds) * 60_000
  return Math.round(
    Number(days) * 86_400_000 + Number(hours) * 3_600_000 + Number(minutes) * 60_000 + Number(seconds) * 1_000,
  )
}
