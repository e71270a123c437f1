import { Asker, failuresIn, failuresOf, isSo, notAsked, partOf, placesOf, QUESTIONS, type Failure } from '../faults'
import { choices } from '../seeded'
import type { Site } from '../site'
import { answerKey, BrokenHouse } from '.'

export interface Proof {
  readonly singles: number
  readonly doubles: number
  readonly answers: number
  /** what the model says otherwise than play */
  readonly wrong: readonly string[]
}

/** Holds the model against play: every single failure, and so many pairs (null: all). */
export function provedByPlay(
  site: Site,
  pairs: number | null,
  part: readonly [index: number, of: number] = [0, 1],
): Proof {
  const house = new BrokenHouse(site)
  const asker = new Asker(site)
  const asked = QUESTIONS.flatMap((question) =>
    site.channels
      .filter((channel) => notAsked(site, question, channel) === null)
      .flatMap((channel) =>
        placesOf(question).map((from) => {
          const formula = asker.ask(question, channel, from, house.standing(question))
          return { question, channel, from, formula, speaks: new Set(failuresIn(formula)) }
        }),
      ),
  )
  const failures = failuresOf(asker.formulas.graph)
  const all = failures.flatMap((a, i) =>
    failures.slice(i + 1).flatMap((b) => (partOf(a) === partOf(b) ? [] : [[a, b]])),
  )
  const random = choices(17)
  const doubles = pairs === null ? all : Array.from({ length: pairs }, () => random.pick(all))
  const sets: Failure[][] = [[], ...failures.map((one) => [one]), ...doubles]
  const wrong: string[] = []
  let answers = 0
  sets.forEach((set, i) => {
    if (i % part[1] !== part[0] % part[1]) return
    const failed = new Set(set)
    // what speaks of neither is answered as with nothing broken; of pairs that is tried now and then only
    const looked = asked.filter(
      ({ speaks }) => set.length < 2 || set.some((one) => speaks.has(one)) || random.chance(0.02),
    )
    const channels = site.channels.filter(({ id }) => looked.some(({ channel }) => channel.id === id))
    const played = house.answers(set, channels, [...new Set(looked.map(({ question }) => question))])
    for (const { question, channel, from, formula } of looked) {
      const answer = played.get(answerKey(question, channel.id, from))
      if (answer === undefined) wrong.push(`${question} of ${channel.id}: not played`)
      else if (answer !== isSo(formula, failed))
        wrong.push(`${question} ${channel.id} ${from} without ${set.join(' and ') || 'anything'}: played ${answer}`)
      answers++
    }
  })
  return { singles: failures.length, doubles: doubles.length, answers, wrong }
}
