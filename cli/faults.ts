import {
  Asker,
  faultsOf,
  houseHours,
  notAsked,
  pairsThatMatter,
  placesOf,
  QUESTION_WORDS,
  QUESTIONS,
  rateBy,
  rateKey,
  setWords,
  type ChannelFaults,
  type Question,
} from '../core/faults'
import { PLACE_WORDS, PLACES, type PartGraph, type Place } from '../core/parts'
import { counted, type Site } from '../core/site'
import { loadSite, Unusable, type Answer, type Source } from './commands'

/** So many pairs are said of a question; the JSON has all. */
const MOST_SAID = 6

const isPlace = (text: string): text is Place => (PLACES as readonly string[]).includes(text)
const isQuestion = (text: string): text is Question => (QUESTIONS as readonly string[]).includes(text)

export interface FaultsAsked {
  readonly from?: string | undefined
  readonly question?: string | undefined
  readonly json: boolean
}

/** Which failures leave nobody in control, make a screen lie or a load move, and for how long in a year. */
export function faults(source: Source, { from, question, json }: FaultsAsked): Answer {
  if (from !== undefined && !isPlace(from)) throw new Unusable(`--from ${from}: is not here, house or away`)
  if (question !== undefined && !isQuestion(question))
    throw new Unusable(`--question ${question}: is not ${QUESTIONS.slice(0, -1).join(', ')} or ${QUESTIONS.at(-1)}`)
  const site = loadSite(source)
  const asker = new Asker(site)
  const places = from === undefined ? PLACES : [from]
  const questions = question === undefined ? QUESTIONS : [question]
  const found = faultsOf(site, questions, places, asker)
  if (json) return { exit: 0, text: `${JSON.stringify(asJson(site, found, questions), null, 2)}\n` }
  const text = questions.map((one) => ofQuestion(site, one, places, found, asker)).join('\n')
  return { exit: 0, text: `${text}\nA rate that nobody has entered is common practice, not measured.\n` }
}

function asJson(site: Site, found: readonly ChannelFaults[], questions: readonly Question[]) {
  const keys = [...new Set(found.flatMap(({ cuts }) => cuts.flat().map(rateKey)))].sort()
  const unasked = site.channels.flatMap((channel) =>
    questions.flatMap((question) => {
      const why = notAsked(site, question, channel)
      return why === null ? [] : [{ question, channel: channel.id, why }]
    }),
  )
  return { answers: found, notAsked: unasked, rates: Object.fromEntries(keys.map((key) => [key, rateBy(site, key)])) }
}

function ofQuestion(
  site: Site,
  question: Question,
  places: readonly Place[],
  found: readonly ChannelFaults[],
  asker: Asker,
): string {
  const { graph } = asker.formulas
  const asked = placesOf(question).length > 1 ? places : placesOf(question)
  const lines = asked.flatMap((from) => {
    const answers = found.filter((one) => one.question === question && one.from === from)
    const place = asked.length > 1 || placesOf(question).length > 1 ? `, ${PLACE_WORDS[from]}` : ''
    return [
      `# ${QUESTION_WORDS[question]}${place}`,
      ...answers.map((one) => lineOf(graph, one)),
      ...pairsThatMatter(site, answers)
        .slice(0, MOST_SAID)
        .map(
          ({ failures, channels, hours }) =>
            `  together: ${setWords(graph, failures)}, ${hoursOf(hours)}: ${channels.join(', ')}`,
        ),
      `  at least one channel: ${hoursOf(houseHours(site, question, from, asker))} per year`,
    ]
  })
  const unasked = site.channels.flatMap((channel) => {
    const why = notAsked(site, question, channel)
    return why === null ? [] : [`  not asked of ${channel.name}: ${why}`]
  })
  return `${[...lines, ...unasked].join('\n')}\n`
}

const hoursOf = (hours: number): string => (hours < 1 ? `${(hours * 60).toFixed(1)} min` : `${hours.toFixed(1)} h`)

function lineOf(graph: PartGraph, { name, cuts, hours, times }: ChannelFaults): string {
  if (hours === null || times === null) return `${name}: at all times`
  if (cuts.length === 0) return `${name}: by no one or two failures`
  const alone = cuts.filter((set) => set.length === 1)
  const first = alone.slice(0, 3).map((set) => setWords(graph, set))
  return (
    `${name}: ${hoursOf(hours)} per year, ${times.toFixed(2)} times; ` +
    `${counted(alone.length, 'failure')} alone${first.length > 0 ? ` (first ${first.join('; ')})` : ''}, ` +
    `${counted(cuts.length - alone.length, 'pair')}`
  )
}
