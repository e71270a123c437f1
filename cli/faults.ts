import { faultsOf, houseDarkHours, rateOf, RATES_SOURCE, type ChannelFaults } from '../core/faults'
import { partsOf, PLACE_WORDS, PLACES, type PartId, type Place } from '../core/parts'
import { counted, type Site } from '../core/site'
import { loadSite, Unusable, type Answer, type Source } from './commands'

/** So many pairs are said of a channel; the JSON has all. */
const MOST_SAID = 4

const isPlace = (text: string): text is Place => (PLACES as readonly string[]).includes(text)

/** Which failures leave nobody who could turn a channel on, and for how long in a year. */
export function faults(source: Source, from: string | undefined, json: boolean): Answer {
  if (from !== undefined && !isPlace(from)) throw new Unusable(`--from ${from}: is not here, house or away`)
  const site = loadSite(source)
  const places = from === undefined ? PLACES : [from]
  const found = faultsOf(site, places)
  const house = Object.fromEntries(places.map((place) => [place, houseDarkHours(site, place)]))
  if (json) {
    const parts = [...new Set(found.flatMap(({ cuts }) => (cuts ?? []).flat()))]
    const rates = Object.fromEntries(parts.map((part) => [part, rateOf(part)]))
    return { exit: 0, text: `${JSON.stringify({ channels: found, house, rates, source: RATES_SOURCE }, null, 2)}\n` }
  }
  const lines = found.map((one) => lineOf(site, one))
  const whole = places.map(
    (place) => `at least one channel without control, ${PLACE_WORDS[place]}: ${house[place]!.toFixed(0)} h per year\n`,
  )
  return { exit: 0, text: `${lines.join('')}${whole.join('')}(rates: ${RATES_SOURCE}; feeds are not counted)\n` }
}

function lineOf(site: Site, { name, from, ways, cuts, darkHours, worst }: ChannelFaults): string {
  if (cuts === null || darkHours === null) return `${name}, ${PLACE_WORDS[from]}: nobody can turn it on from there\n`
  const graph = partsOf(site)
  const named = (part: PartId): string => graph.get(part)?.name ?? part
  const alone = cuts.filter((set) => set.length === 1).length
  const pairs = cuts.filter((set) => set.length === 2)
  const said = pairs.slice(0, MOST_SAID).map((set) => set.map(named).join(' + '))
  const costs = worst.map(({ part, hours }) => `${named(part)} ${hours.toFixed(1)} h`)
  return (
    `${name}, ${PLACE_WORDS[from]}: ${counted(ways, 'way')}, ${darkHours.toFixed(1)} h per year without control; ` +
    `${counted(alone, 'part')} alone, ${counted(pairs.length, 'pair')}` +
    `${said.length > 0 ? ` (${said.join('; ')})` : ''}; most by ${costs.join(', ')}\n`
  )
}
