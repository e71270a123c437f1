import {
  channelsOn,
  coprocessorOf,
  inputOf,
  isFeed,
  mainOf,
  positionOf,
  reachesNetwork,
  timeText,
  type Channel,
  type Controller,
  type Site,
} from '../site'
import { cutFor, draft, listed, type Draft } from './testItem'
import {
  away,
  cutSeconds,
  eye,
  heard,
  here,
  localSources,
  movedByHand,
  oneByHand,
  speaksItself,
  turn,
  waits,
} from './testWatches'

/** Tests of what fails around a controller: network, broker, hub, service, line; and of a coprocessor. */

const localWays = (site: Site, channel: Channel): string[] =>
  site.ways
    .filter((way) => way.channel === channel.id)
    .flatMap((way) =>
      way.kind === 'wall'
        ? [inputOf(site, way.input)!.name]
        : way.kind === 'remote'
          ? ['the remote']
          : way.kind === 'link'
            ? [`“${way.char}”`]
            : [],
    )

/** "Bench lamp by S1; Kiln fan by the remote": what must go on without any network. */
function stillWorks(site: Site, controller: Controller): string {
  const rows = channelsOn(site, controller.id).map((channel) => {
    const ways = [...new Set(localWays(site, channel))]
    return ways.length ? `${channel.name} by ${listed(ways)}` : `${channel.name} by nobody`
  })
  return rows.join('; ')
}

const winnerWords = (controller: Controller): string =>
  controller.outage === 'service'
    ? 'the phone’s command is carried out, unless a switch was pressed since'
    : 'the switch’s state stays, and the phone is corrected'

/** A command that is remembered somewhere comes within this time after everything is back, ms. */
const NEVER_MS = 15_000

/** What opens something must not do so because a message is remembered somewhere. */
const neverAgain = (site: Site, channel: Channel): Draft[] =>
  channel.kind === 'pulsed' &&
  site.ways.some(({ kind, channel: id }) => id === channel.id && (kind === 'app' || kind === 'hub'))
    ? [
        draft(
          `never:${channel.id}`,
          channel.id,
          `Press ${channel.name} on a screen; then switch the router off and on, and restart the broker`,
          `${channel.name}: no second pulse by itself`,
          heard(
            [
              waits(channel, positionOf(channel) ? 'any' : 'on', null),
              away(channel.controller),
              here(channel.controller),
              { kind: 'still', channel: channel.id, ms: NEVER_MS },
            ],
            eye(`Did ${channel.name} stay at rest after the first pulse?`),
          ),
        ),
      ]
    : []

const TABLES_AGREE = draft(
  'pair:tables',
  null,
  'Compare the tables that both report at the start',
  'the same twelve characters',
  heard([], eye('Are they the same twelve characters?')),
)

/** The coprocessor of a pair drives nothing: it is tried by what it says of its main board. */
export function coprocessorTests(site: Site, radio: Controller): Draft[] {
  const main = mainOf(site, radio.id)
  if (!main) return []
  return [
    draft(
      'pair:alone',
      null,
      `Turn on the power of ${radio.name} only, with its serial line unplugged`,
      `it connects, and ${main.name} is shown as offline`,
      heard([away(main.id)]),
    ),
    draft(
      'pair:both',
      null,
      `Plug the line in, and turn on the power of ${main.name}`,
      `${main.name} is shown as online, with its true states`,
      heard([here(main.id)]),
    ),
    TABLES_AGREE,
    draft(
      'pair:command',
      null,
      `Work a channel of ${main.name} from a screen`,
      'it follows within a second, and the screen shows it',
      heard([{ kind: 'any', turns: channelsOn(site, main.id).map((channel) => turn(channel, 'any', ['serial'])) }]),
    ),
    draft(
      'pair:silent',
      null,
      `Turn off the power of ${main.name} only`,
      'within three status lines it is shown as offline',
      heard([away(main.id)]),
    ),
  ]
}

/** Each thing that can fail, with what must still work, and what must not be expected. */
export function outageTests(site: Site, controller: Controller): Draft[] {
  if (!reachesNetwork(site, controller) || mainOf(site, controller.id)) return []
  const channels = channelsOn(site, controller.id)
  return [
    ...networkTests(site, controller),
    ...hubTests(site, controller, channels),
    ...channels.flatMap((channel) => neverAgain(site, channel)),
    ...site.services
      .filter(({ points }) => points.some((point) => point.controller === controller.id))
      .map((service) =>
        draft(
          `outage:service:${service.id}`,
          null,
          `Cut ${service.name} off (pull the router’s line to the internet), and work a switch`,
          `${BY_HAND}${speaksTo(site, channels, 'hub') ? ', and the hub works it too' : ''}`,
          heard(
            oneByHand(site, controller),
            eye(`Did ${service.name} say that it is cut off, and everything by hand work?`),
          ),
        ),
      ),
    ...lineTest(site, controller),
  ]
}

const upper = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)
const BY_HAND = 'everything by hand works'
const speaksTo = (site: Site, here: readonly Channel[], kind: 'app' | 'hub'): boolean =>
  site.ways.some((way) => way.kind === kind && here.some(({ id }) => id === way.channel))

const networkTests = (site: Site, controller: Controller): Draft[] => [
  draft(
    'outage:network',
    null,
    'Switch the router off, and work everything by hand',
    `still worked: ${stillWorks(site, controller)}; screens say offline`,
    heard(
      [
        away(controller.id),
        here(controller.id),
        ...(movedByHand(site, controller).length > 0
          ? [{ kind: 'all' as const, turns: movedByHand(site, controller) }]
          : []),
      ],
      eye('Did everything work by hand while the router was off, and did the screens say offline?'),
    ),
  ),
  draft(
    'outage:return',
    null,
    'Press one switch and tap another channel on the phone while the router is off; switch it on again',
    `within a minute it is back; ${winnerWords(controller)}`,
    heard(
      [away(controller.id), here(controller.id), ...oneByHand(site, controller)],
      eye(`${upper(winnerWords(controller))}: was it so?`),
    ),
  ),
  draft(
    'outage:start',
    null,
    `With the router off: ${cutFor(cutSeconds(site, controller.id))}`,
    `within ten seconds ${BY_HAND} again`,
    heard(
      [away(controller.id), here(controller.id, true), ...oneByHand(site, controller)],
      eye('Did everything by hand work within ten seconds, with the router off?'),
    ),
  ),
  brokerTest(site, controller),
]

/** A controller that never speaks on the broker of the house is not heard when that stops. */
const brokerTest = (site: Site, controller: Controller): Draft =>
  draft(
    'outage:broker',
    null,
    'Stop the broker, work a switch, start it again',
    `${BY_HAND}; then every screen shows it`,
    heard(
      speaksItself(site, controller.id)
        ? [{ kind: 'broker', up: false }, { kind: 'broker', up: true }, ...oneByHand(site, controller)]
        : [],
      eye('Do all screens show it now?'),
    ),
  )

function hubTests(site: Site, controller: Controller, channels: readonly Channel[]): Draft[] {
  const feeds = channels.filter(isFeed)
  const programs = [...new Set(site.hubs.flatMap(({ watch }) => watch?.programs ?? []))]
  if (!speaksTo(site, channels, 'hub') && feeds.length === 0) return []
  return [
    draft(
      'outage:hub',
      null,
      'Stop the hub, work a switch, start it again',
      `${BY_HAND}; the hub then shows the true states`,
      heard(oneByHand(site, controller), eye('Does the hub show the true states, now that it runs again?')),
    ),
    ...feeds.map((feed) => feedOutage(site, feed)),
    ...(feeds.length
      ? programs.map((program) =>
          draft(
            `outage:program:${program}`,
            null,
            `Stop ${program} alone, with the hub running`,
            'the heartbeat stops too, and the switches work the power of the smart lamps',
            heard(feeds.map((feed) => ({ kind: 'mode', channel: feed.id, mode: 'local' }))),
          ),
        )
      : []),
  ]
}

function lineTest(site: Site, controller: Controller): Draft[] {
  const radio = coprocessorOf(site, controller.id)
  if (!radio) return []
  return [
    draft(
      'outage:line',
      null,
      `Unplug the serial line between ${controller.name} and ${radio.name}, work a switch, plug it in again`,
      `the switch works; ${controller.name} is shown as offline until the line is back, then with its true states`,
      heard([away(controller.id), here(controller.id)], eye('Did the switch work while the line was unplugged?')),
    ),
  ]
}

function feedOutage(site: Site, feed: Channel): Draft {
  const watch = site.hubs.find((hub) => hub.entities.some(({ channel }) => channel === feed.id))?.watch
  const names = listed([...new Set(localWays(site, feed))]) || 'its switch'
  if (!watch)
    return draft(
      `outage:feed:${feed.id}`,
      feed.id,
      `Stop the hub, and work ${names}`,
      'nothing happens: the hub is not watched here',
    )
  const { watchMs, graceMs, steadyMs } = watch
  return draft(
    `outage:feed:${feed.id}`,
    feed.id,
    `Stop the hub; after ${timeText(watchMs + graceMs)} work ${names}; start the hub again`,
    `${names} works the power of ${feed.name}; ${timeText(steadyMs)} after the hub is back it speaks to the hub again`,
    heard([
      { kind: 'mode', channel: feed.id, mode: 'local' },
      waits(feed, 'any', [...localSources(site, feed)]),
      { kind: 'mode', channel: feed.id, mode: 'detached' },
    ]),
  )
}
