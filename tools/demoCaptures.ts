import { encodeFrame, encodeRepeat, writePulseSpace, writeRawList, writeVcd } from '../core/infrared'
import { seeded } from '../core/seeded'

/** A receiver lengthens marks by some 60 µs and is a few per cent unsure of every edge. */
const heard = (durations: readonly number[], random: () => number): number[] =>
  durations.map((us, i) => Math.round(us * (0.97 + 0.06 * random())) + (i % 2 === 0 ? 60 : -60))

/**
 * A push button that bounces for about 6 ms when it closes and 3 ms when it opens, sampled each 50 µs: rows of time and
 * level.
 */
function bounceTable(random: () => number): string {
  const edges = [0, 0.35, 0.5, 1.2, 1.35, 2.6, 2.9, 4.4, 4.5, 5.9].map((ms) => 20_000 + ms * 1000)
  const opening = [0, 0.4, 0.6, 1.9, 2.1].map((ms) => 180_000 + ms * 1000)
  const rows = ['Time [s],S3']
  let level = 1
  for (const at of [...edges.slice(0, 9), ...opening]) {
    level = 1 - level
    rows.push(`${((at + random() * 40) / 1e6).toFixed(6)},${level}`)
  }
  return `${rows.join('\n')}\n${(0.25).toFixed(6)},${level}\n`
}

/** File name and text of each capture. */
export function demoCaptures(): Record<string, string> {
  const random = seeded(20260301)
  const code = { protocol: 'nec', address: 0x4d, command: 1 } as const
  const held = [
    ...heard(encodeFrame(code), random),
    39_500,
    ...heard(encodeRepeat(), random),
    96_000,
    ...heard(encodeRepeat(), random),
  ]
  return {
    'throwing-remote.vcd': writeVcd(held),
    'throwing-remote-fan.txt': writePulseSpace(heard(encodeFrame({ ...code, command: 5 }), random)),
    'spare-remote.txt': writeRawList(heard(encodeFrame({ protocol: 'rc5', address: 5, command: 35 }, 1), random)),
    'unknown-remote.txt': writeRawList(
      heard(
        [3400, 2600, ...[1, 0, 0, 1, 1, 0, 1, 0, 1, 1, 0, 0].flatMap((bit) => [430, bit ? 1290 : 430]), 430],
        random,
      ),
    ),
    'rocker-bounce.csv': bounceTable(random),
  }
}
