/** ms as a person says it: 250 ms, 90 s, 5 min, 2 h. */
export function timeText(ms: number): string {
  if (ms < 1000) return `${ms} ms`
  const seconds = ms / 1000
  if (seconds < 120) return `${Number(seconds.toFixed(1))} s`
  return seconds < 7200 ? `${Number((seconds / 60).toFixed(1))} min` : `${Number((seconds / 3600).toFixed(1))} h`
}

/** A number with three figures at most. */
export const figureOf = (value: number): string => Number(value.toPrecision(3)).toString()

/** A count with its word: 1 way, 2 ways, 1,200 keys. */
export const counted = (count: number, word: string, more = `${word}s`): string =>
  `${count.toLocaleString('en')} ${count === 1 ? word : more}`
