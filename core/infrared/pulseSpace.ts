import { CaptureRefused, whole, type Capture } from './capture'

/** `pulse 9000` / `space 4500`, one a line; other words, comments and timeouts are refused with their line. */
export function readPulseSpace(text: string): Capture {
  const durations: number[] = []
  text.split('\n').forEach((raw, i) => {
    const line = raw.replace(/#.*/, '').trim()
    if (line === '') return
    const match = /^(pulse|space|timeout)\s+(\d+)$/.exec(line)
    if (!match)
      throw new CaptureRefused(`line ${i + 1}: "${line.slice(0, 40)}" is neither pulse nor space with a number of µs`)
    const [, word, number] = match
    const isMark = word === 'pulse'
    if (isMark !== (durations.length % 2 === 0)) {
      if (durations.length === 0) return // the quiet before the first mark
      durations[durations.length - 1]! += whole(number!, i + 1)
    } else durations.push(whole(number!, i + 1))
  })
  return { durations, unit: 'µs' }
}

export const writePulseSpace = (durations: readonly number[]): string =>
  durations.map((us, i) => `${i % 2 === 0 ? 'pulse' : 'space'} ${us}\n`).join('')
