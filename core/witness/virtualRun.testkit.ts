import { testList, type TestItem } from '../outputs'
import { controllerOf, type Site } from '../site'
import { VirtualBench, Wiring } from './bench.testkit'
import { Eyes, playLines } from './player.testkit'
import { scriptOf } from './script.testkit'
import { eyeAsked, follow, linesOf, looked, oddWords, breachWords, passes, takeInHand, verdictOf, type InHand } from '.'

export interface Came {
  readonly item: TestItem
  readonly outcome: 'passed' | 'failed' | 'not played'
  readonly by: 'board' | 'eye' | 'hand'
  readonly why: string
}

/**
 * A whole test run: a script's hands and eyes at a board that runs the tables of `flashed`, wired as `site` says; what
 * the board does not tell by itself within the script is failed by hand. A stage is played also where the one before
 * has failed: each mistake is to be seen in all the tests that it spoils.
 */
export async function virtualRun(
  site: Site,
  flashed: Site,
  controller: string,
  loses?: (topic: string) => boolean,
): Promise<readonly Came[]> {
  const eyes = new Eyes(site)
  let hand: InHand | null = null
  const bench = new VirtualBench(
    new Wiring(site, flashed, controller),
    (heard, before, after, screens) => {
      if (hand) hand = follow(hand, heard, before, after, screens)
    },
    (_, relay) => eyes.sees(relay),
    loses,
  )
  const time = () => {
    if (hand) hand = passes(hand, bench.boards, bench.lastBeat, bench.now)
  }
  const actor = {
    does: (deed: Parameters<typeof bench.does>[0]) => bench.does(deed),
    wait: (ms: number) => bench.wait(ms, time),
    reported: (channel: string) => bench.boards[controller]?.channels[channel]?.level,
    looks: () => {
      if (hand) hand = looked(hand, bench.now)
    },
  }
  bench.begin()
  const came: Came[] = []
  for (const item of testList(site, controller)) {
    const lines = scriptOf(site, item, controllerOf(site, controller as never)!.storeMs)
    if (!lines) {
      came.push({ item, outcome: 'not played', by: 'hand', why: 'a person only' })
      continue
    }
    hand = null
    const asked = eyeAsked(
      item.watch.eye,
      came.filter(({ outcome, by }) => outcome === 'passed' && by === 'eye').flatMap((one) => one.item.watch.eye ?? []),
    )
    await playLines(site, actor, eyes, lines, () => {
      hand = takeInHand(item.watch, bench.boards, bench.now)
    })
    actor.wait(500)
    const taken = hand as InHand | null
    const verdict = verdictOf(taken!, asked, asked === null ? null : eyes.says(item))
    const words = [
      ...(taken!.breach ? [breachWords(site, taken!.breach)] : []),
      ...taken!.odd.map((odd) => oddWords(site, taken!, odd)),
      ...linesOf(site, taken!).flatMap(({ state, text }) => (state === 'waiting' ? [`waits for: ${text}`] : [])),
    ]
    came.push(
      verdict
        ? {
            item,
            outcome: verdict.outcome,
            by: verdict.by,
            why: verdict.outcome === 'failed' ? words.join('; ') || 'the eye' : '',
          }
        : { item, outcome: 'failed', by: 'hand', why: words.join('; ') },
    )
  }
  return came
}
