import { CaptureRefused, whole, type Capture } from './capture'

/**
 * Numbers of µs with commas, blanks, brackets or braces between them; signs (+ mark, − space) are taken as they come.
 */
export function readRawList(text: string): Capture {
  const durations: number[] = []
  text.split('\n').forEach((raw, i) => {
    for (const word of raw.replace(/[[\]{}();,\t]/g, ' ').split(/\s+/)) {
      if (word === '') continue
      if (!/^[+-]?\d+(\.\d+)?$/.test(word))
        throw new CaptureRefused(`line ${i + 1}: "${word.slice(0, 20)}" is no number of µs`)
      if (word.startsWith('-') && durations.length === 0) continue // the quiet before the first mark
      durations.push(whole(word.replace(/^[+-]/, ''), i + 1))
    }
  })
  return { durations, unit: 'µs' }
}

export const writeRawList = (durations: readonly number[]): string => `${durations.join(', ')}\n`
