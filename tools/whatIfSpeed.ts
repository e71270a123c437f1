import { readFileSync } from 'node:fs'
import { playYears } from '../core/broken'
import { worthOf } from '../core/changes'
import { faultTable, nextOf, Suspicion } from '../core/diagnosis'
import { Asker, askedOf, cutSets, faultsOf, whoIsLeft } from '../core/faults'
import { readSite } from '../core/site'
import { largeSite } from './largeSite'

/** Times what if and finding the fault: `npm run whatif-speed`. */
const parsed = readSite(readFileSync('demo/fernhollow.json', 'utf8'))
if (!parsed.ok) throw parsed.error
const pottery = parsed.value
const large = largeSite(20, 10)

function time<T>(what: string, work: () => T, words: (result: T) => string = () => ''): T {
  const times: number[] = []
  let result!: T
  for (let i = 0; i < 3; i++) {
    const start = performance.now()
    result = work()
    times.push(performance.now() - start)
  }
  console.log(
    `${what}: ${Math.min(...times).toFixed(0)} ms at best of three (first ${times[0]!.toFixed(0)})${words(result)}`,
  )
  return result
}

time(
  '200 channels on 20 controllers, all single and double cut sets of all questions',
  () => askedOf(new Asker(large)).map(({ formula }) => cutSets(formula).length),
  (counts) => `, ${counts.length} questions, ${counts.reduce((a, b) => a + b, 0)} sets`,
)
time('the same with hours and how often, one question from one place', () => faultsOf(large, ['on'], ['here']))
time('the table of one question, 200 channels', () => whoIsLeft(large, 'on', 'here'))
const heater = pottery.channels.find(({ id }) => id === 'sink-heater')!
time(
  'what to change, pottery',
  () => worthOf(pottery, 'on', heater, 'here'),
  (found) => `, ${found.length} changes`,
)
time(
  'a hundred years played, pottery',
  () => playYears(pottery, { years: 100, seed: 1, question: 'on', from: 'here', hands: null })!,
  ({ failures, played }) => `, ${failures} failures, ${played} states`,
)
const table = time('every part near the bench lights broken once', () => faultTable(pottery, pottery.channels[0]!))
time('the next look', () => nextOf(new Suspicion(table, [{ observation: 'way bench-lights-wall', answer: 'no' }])))
