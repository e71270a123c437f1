import { describe, expect, it } from 'vitest'
import type { ControllerImage, ImageChannel } from '../image'
import { outputName } from '../site'
import { randomImage, randomTrace } from './random.testkit'
import { closings, dangersOf, unasked } from './safety.testkit'
import { runTrace, type TraceLine } from './trace'

/** Random traces, judged by what the contacts did, not by another engine (docs/behaviour.md, Safety). */

const IMAGES = 60
const TRACES = 25

interface Case {
  readonly seed: string
  readonly image: ControllerImage
  readonly trace: TraceLine[]
}

const cases = (part: number): Case[] =>
  Array.from({ length: IMAGES }, (_, i) => part * 10_000 + i).flatMap((number) => {
    const image = randomImage(number)
    return Array.from({ length: TRACES }, (_, k) => ({
      seed: `${number}/${k}`,
      image,
      trace: randomTrace(number * 1000 + k, image),
    }))
  })

/** What closes a contact of some channels in a trace, as lines of text. */
const closed = ({ seed, image, trace }: Case, which: (channel: ImageChannel) => boolean): string[] => {
  const names = new Set(
    image.channels.flatMap((channel) =>
      which(channel) ? channel.gpios.map((_, contact) => outputName(channel, contact)) : [],
    ),
  )
  return [...closings(runTrace(image, trace))].filter((name) => names.has(name)).map((name) => `${seed} ${name}`)
}
const outsOf = (image: ControllerImage, trace: TraceLine[]): string =>
  JSON.stringify(runTrace(image, trace).filter((output) => 'out' in output))

describe('whatever happens', () => {
  it('limits, dead time, least time off and pulses hold', () => {
    const wrong = cases(1).flatMap(({ seed, image, trace }) =>
      dangersOf(image, trace, runTrace(image, trace)).map((what) => `${seed} ${what}`),
    )
    expect(wrong).toEqual([])
  })

  it('no strike and no shutter moves by what is retained, held or repeated', () => {
    const list = cases(2).map((one) => ({ ...one, trace: unasked(one.trace) }))
    const moves = (channel: ImageChannel) => channel.kind === 'pulsed' || channel.kind === 'paired'
    expect(list.flatMap((one) => closed(one, moves))).toEqual([])
  })

  it('nothing comes on at power-up that its policy does not turn on', () => {
    const list = cases(3).map((one) => ({
      ...one,
      // one link-up a session: an outage may give the word to the service
      trace: unasked(one.trace).filter((line) => !('link' in line) || line.link === 'up'),
    }))
    expect(list.flatMap((one) => closed(one, ({ powerUp }) => powerUp === 'off'))).toEqual([])
    // and the traces do turn on what may come on
    expect(list.flatMap((one) => closed(one, ({ powerUp }) => powerUp === 'service')).length).toBeGreaterThan(0)
  })

  it('a link that never comes up carries nothing', () => {
    const wrong = cases(4).filter(({ image, trace }) => {
      const down = trace.filter((line) => !('link' in line))
      const silent = down.map((line) => ('msg' in line ? { t: line.t, end: true as const } : line))
      return outsOf(image, down) !== outsOf(image, silent)
    })
    expect(wrong.map(({ seed }) => seed)).toEqual([])
  })

  it('a feed does not drop its lamps because the hub has died, the link has gone or a value is remembered', () => {
    const wrong = cases(5).flatMap(({ seed, image, trace }) => {
      const quiet = unasked(trace).filter((line) => !('power' in line))
      // a rule may cut it off: its maker asked for that
      const feeds = image.channels.flatMap(({ kind, id }, index) =>
        kind === 'feed' && !image.rules.some((rule) => rule.channel === index) ? [id] : [],
      )
      return runTrace(image, quiet).flatMap((output) =>
        'out' in output && output.level === 0 && feeds.includes(output.out) && output.t !== quiet[0]!.t
          ? [`${seed} ${output.out}`]
          : [],
      )
    })
    expect(wrong).toEqual([])
  })
})
