import { Asker, failureOf, isSo, waysFor, type Failure } from '../faults'
import { kindOf, keyOf, roomOf, waysTo, type Channel, type Site, type Way } from '../site'
import { escapeMarkdown } from './markdown'
import { table } from './sheetTable'

/**
 * The card beside the door, for people who never saw this program: how each thing is worked, and what still works when
 * the network is down. Who is left then is asked of the same model as What if (core/faults).
 */
export function doorCard(site: Site): string {
  const asker = new Asker(site)
  const rows = site.channels.map((channel) => rowOf(site, asker, channel))
  const works = rows.filter(({ without }) => without.length > 0)
  const dead = rows.filter(({ without, ways }) => without.length === 0 && ways.length > 0)
  return [
    `# ${escapeMarkdown(site.name)}: how things are worked`,
    '',
    'Hang this card near the door. Nobody needs to know more than this.',
    '',
    rows.length === 0
      ? 'There is nothing to work yet.'
      : table(
          ['what', 'where', 'how'],
          rows.map(({ name, room, ways }) => [`**${name}**`, room, ways.join(', ') || 'nothing yet']),
        ),
    '',
    '## When the Wi-Fi or the internet is down',
    '',
    'Phones, the hub and voice do nothing then, but for what is named here. Wait three minutes: the router and the hub come back by themselves after a power cut.',
    '',
    ...works.map(({ name, without }) => `- **${name}** still works: ${without.join(', ')}.`),
    ...(dead.length > 0 ? [`- **Not until it is back:** ${dead.map(({ name }) => name).join(', ')}.`] : []),
    '',
    '## When something does not work',
    '',
    '1. Is there power elsewhere in the house? If not, wait for it.',
    `2. Is its breaker on? ${breakers(site)}`,
    '3. Try another way of the list above, and another lamp of the same box. Tell whoever looks after it what did work.',
    '4. Do not open a box: mains is inside. A licensed electrician, or whoever local rules allow, does that with the breaker off.',
    '',
  ].join('\n')
}

interface Row {
  readonly name: string
  readonly room: string
  readonly ways: readonly string[]
  /** ways that are left without router and internet */
  readonly without: readonly string[]
}

const NO_NETWORK: ReadonlySet<Failure> = new Set([failureOf('router'), failureOf('internet')])

function rowOf(site: Site, asker: Asker, channel: Channel): Row {
  const ways = waysFor(asker, 'on', channel, 'here')
  const named = (ids: readonly string[]): string[] => [
    ...new Set(
      ids.flatMap((id) =>
        wayWords(
          site,
          channel,
          site.ways.find((way) => way.id === id)!,
        ),
      ),
    ),
  ]
  return {
    name: escapeMarkdown(channel.name),
    room: channel.room === null ? '' : escapeMarkdown(roomOf(site, channel.room)?.name ?? ''),
    ways: named(waysTo(site, channel.id).map(({ id }) => id)),
    without: named(ways.filter(({ works }) => isSo(works, NO_NETWORK)).map(({ way }) => way)),
  }
}

/** A way as somebody says it who only wants light. */
function wayWords(site: Site, channel: Channel, way: Way): string[] {
  switch (way.kind) {
    case 'wall': {
      const input = site.inputs.find(({ id }) => id === way.input)
      return input ? [switchWords(escapeMarkdown(input.name))] : []
    }
    case 'remote':
      return [`key “${escapeMarkdown(keyOf(site, way.remote, way.key)?.name ?? way.key)}”`]
    case 'voice':
      return [`say “${escapeMarkdown(kindOf(channel).spoken.example(channel, way.name))}”`]
    case 'app':
      return ['phone']
    case 'hub':
      return ['hub']
    case 'link':
      return []
  }
}

/** “switch S1”, but “Key switch”: what says it already is not told twice. */
const switchWords = (name: string): string => (/switch|button/i.test(name) ? name : `switch ${name}`)

function breakers(site: Site): string {
  const named = site.controllers.flatMap(({ name, mains }) =>
    mains ? [`${escapeMarkdown(name)}: ${mains.breakerAmps} A`] : [],
  )
  return named.length === 0 ? '' : `Boxes and their breakers: ${named.join(', ')}.`
}
