import {
  coprocessorOf,
  inputOf,
  powerUpOf,
  rulesFor,
  timeText,
  type Channel,
  type Input,
  type PowerUp,
  type Site,
} from '../site'
import type { Expect, Eye, To } from '../witness'
import { cutFor, draft, type Draft } from './testItem'
import { away, comesUp, cutSeconds, eye, heard, here, leastOffMs, levels, waits, type Heard } from './testWatches'

/** Tests of what a channel does when the power comes back (docs/behaviour.md, Power). */

const selectorOf = (site: Site, { id }: Channel): Input | undefined =>
  site.ways
    .flatMap((way) => (way.kind === 'wall' && way.channel === id ? [inputOf(site, way.input)!] : []))
    .find(({ kind }) => kind === 'selector')

const noClick = ({ name }: Channel): Eye => eye(`Was there no click of ${name} as the power came back?`)
const oneClick = ({ name }: Channel): Eye => eye(`Was there one click of ${name} as the power came back, and no more?`)

/** A least time off runs from the power-up. */
const later = (channel: Channel): string =>
  leastOffMs(channel) > 0 ? `, ${timeText(leastOffMs(channel))} after the power is back` : ''

/** What is done before the cut, what must be seen after it, and what is heard; `key` where a policy has two tests. */
type Row = readonly [action: string, expected: string, heard: Heard, key?: string]

const OF_POLICY: Readonly<
  Record<PowerUp['policy'], (site: Site, channel: Channel, storeMs: number) => readonly Row[]>
> = {
  off: (site, channel) => {
    const turnsOn = channel.kind === 'switched' || channel.kind === 'stepped'
    const action = turnsOn ? `Turn ${channel.name} on` : `Leave ${channel.name} alone`
    return [[action, 'no click, still off', startHeard(site, channel, turnsOn ? 'on' : null, 'off', noClick(channel))]]
  },
  on: (site, channel) => [
    [
      `Leave ${channel.name} as it is`,
      `on, with one click${later(channel)}`,
      startHeard(site, channel, null, 'on', oneClick(channel)),
    ],
  ],
  last: (site, channel, storeMs) => {
    const waited = `and wait ${timeText(storeMs + 1_000)}`
    return [
      [
        `Turn ${channel.name} on, ${waited}`,
        `on again, with one click${later(channel)}`,
        startHeard(site, channel, 'on', 'before', oneClick(channel)),
        ':on',
      ],
      [
        `Turn ${channel.name} off, ${waited}`,
        'still off',
        startHeard(site, channel, 'off', 'off', noClick(channel)),
        ':off',
      ],
    ]
  },
  wall: (site, channel) => {
    const selector = selectorOf(site, channel)
    if (!selector)
      return [
        [
          `Leave the switch of ${channel.name} closed`,
          'on; with the switch open it stays off',
          startHeard(site, channel, null, 'on', oneClick(channel)),
        ],
      ]
    const again = eye(`Is ${channel.name} at that level again?`)
    return [
      [
        `Leave ${selector.name} at its highest level`,
        'that level again; left at off it stays off',
        startHeard(site, channel, levels(channel).length - 1, 'before', again),
      ],
    ]
  },
  service: (site, channel) => [
    [
      `Set ${channel.name} on the phone`,
      'what the phone says',
      heard(cutHeard(site, channel), eye(`Is ${channel.name} as the phone says?`)),
    ],
  ],
  timetable: (site, channel) => [
    [
      `Check what the schedule of ${channel.name} says now`,
      'that state, once the clock is set',
      heard(cutHeard(site, channel), eye(`Is ${channel.name} as its schedule says?`)),
    ],
  ],
}

/** What to do before the power is taken, so that the policy shows, and what must then be heard. */
export const powerTests = (site: Site, channel: Channel, storeMs: number): Draft[] =>
  OF_POLICY[powerUpOf(channel).policy](site, channel, storeMs).map(([action, expected, heard, key = '']) =>
    draft(
      `start:${channel.id}${key}`,
      channel.id,
      `${action}; ${cutFor(cutSeconds(site, channel.controller))}`,
      `${channel.name}: ${expected}`,
      heard,
    ),
  )

/** A radio counts on while its main board is without power: nobody can tell by its reports that it was. */
const cutHeard = (site: Site, { controller }: Channel): Expect[] => [
  away(controller),
  here(controller, coprocessorOf(site, controller) === undefined),
]

/** A channel is brought to a state (null: as it is), its board goes and comes, and its state is that of its policy. */
/** A rule may have turned a channel by then, as its sensor says: what came up an eye must see. */
const isRuled = (site: Site, { id }: Channel): boolean => rulesFor(site, id).some(({ kind }) => kind === 'threshold')

function startHeard(site: Site, channel: Channel, to: To | null, then: 'on' | 'off' | 'before', asks: Eye): Heard {
  // brought by anything: what counts is where it stands
  const stands: Expect[] = to === null ? [] : [waits(channel, to, null)]
  if (isRuled(site, channel) && then !== 'off')
    return heard([...stands, ...cutHeard(site, channel)], eye(`${asks.asks} (Its rule may turn it later.)`))
  // what pulses has no state to come up with: it must not be heard to move
  const after: Expect =
    channel.kind === 'pulsed' ? { kind: 'still', channel: channel.id, ms: 5_000 } : comesUp(channel, then)
  return heard([...stands, ...cutHeard(site, channel), after], asks)
}
