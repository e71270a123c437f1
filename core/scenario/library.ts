import { stringify } from 'yaml'
import { isFeed, kindOf, powerUpOf, topLevel, type Channel, type Site, type Way } from '../site'

/** A scenario of the library: made from a site, as text, so that it can be read, saved and changed. */
export interface LibraryScenario {
  readonly id: string
  readonly text: string
}

interface Draft {
  readonly scenario: string
  readonly about: string
  readonly steps: readonly object[]
  readonly never?: readonly object[]
  readonly until?: string
}

/** When everything has come up, and least times off since power-up are over. */
const SETTLED = '10 min'

/** The scenarios that a site can be tried with; one that the site has nothing for is left out. */
export const libraryFor = (site: Site): LibraryScenario[] =>
  Object.entries(LIBRARY).flatMap(([id, make]) => {
    const draft = make(site)
    return draft ? [{ id, text: stringify(draft, { lineWidth: 110, aliasDuplicateObjects: false }) }] : []
  })

type Make = (site: Site) => Draft | null

// ---- what a site has ----

const ruled = (site: Site, { id }: Channel): boolean => site.rules.some((rule) => rule.channel === id)

interface Pressed {
  readonly channel: Channel
  /** turns it over, from off to on */
  readonly hand: object
}

/** Switched channels that one press or flip of a switch turns over, each with a switch that works nothing else. */
function handsOf(site: Site): Pressed[] {
  const walls = site.ways.filter((way): way is Extract<Way, { kind: 'wall' }> => way.kind === 'wall')
  return site.channels.flatMap((channel): Pressed[] => {
    // what goes off by itself is no witness
    if (channel.kind !== 'switched' || channel.maxOnMs !== null || ruled(site, channel)) return []
    const way = walls.find((one) => one.channel === channel.id)
    const input = way && site.inputs.find(({ id }) => id === way.input)
    if (!way || !input || walls.some((one) => one !== way && one.input === input.id)) return []
    const turns = way.bindings.find(({ action }) => action === 'toggle')
    if (turns?.gesture === 'press') return [{ channel, hand: { press: input.name } }]
    return turns?.gesture === 'flip' ? [{ channel, hand: { rock: input.name } }] : []
  })
}

const allOn = (hands: readonly Pressed[]): object[] => hands.map(({ channel }) => ({ channel: channel.name, is: 'on' }))
const does = (hands: readonly Pressed[]): object[] => hands.map(({ hand }) => hand)
/** Doors, strikes and shutters: nothing but a hand moves them. */
const neverMoves = (site: Site, most = 0): object[] =>
  site.channels
    .filter((channel) => !kindOf(channel).lasting)
    .map(({ name }) => ({ channel: name, closesMoreOftenThan: most }))
const linksUp = (site: Site): object[] =>
  site.controllers.filter(({ link }) => link !== 'none').map(({ name }) => ({ link: name, is: 'up' }))

// ---- the scenarios ----

/** A fault for a while, switches meanwhile, and what is true afterwards. */
function outage(site: Site, scenario: string, what: unknown, lasts: string, returns: string): Draft | null {
  const hands = handsOf(site)
  if (hands.length === 0) return null
  return {
    scenario,
    about: `It is gone for ${lasts}. Every switch works meanwhile; afterwards every link is up and every screen is right.`,
    steps: [
      { at: SETTLED, do: { break: what } },
      { after: '10 s', do: does(hands) },
      { after: '1 s', expect: allOn(hands), within: '2 s' },
      { after: lasts, do: { mend: what } },
      { after: '0 s', expect: [...linksUp(site), { screens: 'agree' }], within: returns },
      { after: returns, expect: allOn(hands) },
    ],
    never: neverMoves(site),
  }
}

const LIBRARY: Readonly<Record<string, Make>> = {
  'first-power-up': (site) => {
    const rest = site.channels.filter((channel) => {
      if (!kindOf(channel).lasting || isFeed(channel)) return false
      return ['off', 'on', 'last'].includes(powerUpOf(channel).policy)
    })
    return {
      scenario: 'First power-up',
      about: 'Nothing is stored yet. Every channel does what its policy says, and no door moves.',
      steps: [
        {
          at: '2 min',
          expect: [
            ...rest.map((channel) => ({
              channel: channel.name,
              is: powerUpOf(channel).policy === 'on' ? 'on' : 'off',
            })),
            ...linksUp(site),
            { screens: 'agree' },
          ],
        },
      ],
      never: neverMoves(site),
    }
  },
  'power-cut-at-night': (site) => {
    const hands = handsOf(site)
    const powers = site.controllers.map(({ name }) => ({ power: name }))
    const back = hands.map(({ channel }) => {
      const { policy } = powerUpOf(channel)
      return { channel: channel.name, is: policy === 'last' || policy === 'on' ? 'on' : 'off' }
    })
    if (hands.length === 0) return null
    return {
      scenario: 'Power cut at night',
      about: 'The power goes while everything is on, and comes back a minute later.',
      steps: [
        { at: SETTLED, do: does(hands) },
        { after: '30 s', expect: allOn(hands) },
        { after: '1 s', do: powers.map((power) => ({ break: power })) },
        { after: '1 min', do: powers.map((power) => ({ mend: power })) },
        { after: '30 s', expect: back, within: '90 s' },
        { after: '0 s', expect: [...linksUp(site), { screens: 'agree' }], within: '90 s' },
      ],
      never: neverMoves(site),
    }
  },
  'router-reboot': (site) => outage(site, 'Router reboots', 'wifi', '90 s', '2 min'),
  'broker-restart': (site) => outage(site, 'Broker restarts', 'broker', '20 s', '90 s'),
  'hub-update': (site) => (site.hubs.length ? outage(site, 'Hub is updated', 'hub', '5 min', '90 s') : null),
  'service-away-for-a-day': (site) => {
    const [service] = site.services.filter(({ widgets }) => widgets.length > 0)
    return service ? outage(site, 'Service is away for a day', { service: service.name }, '1 d', '90 s') : null
  },
  'fast-presses': (site) => {
    const [one] = handsOf(site).filter(({ hand }) => 'press' in hand)
    if (!one) return null
    return {
      scenario: 'Fast presses',
      about: 'Nine presses, as fast as a finger can: each counts, once.',
      steps: [
        { at: SETTLED, do: one.hand },
        ...Array.from({ length: 8 }, () => ({ after: '300 ms', do: one.hand })),
        { after: '1 s', expect: { channel: one.channel.name, is: 'on' } },
      ],
      never: [{ channel: one.channel.name, closesMoreOftenThan: 5 }, ...neverMoves(site)],
    }
  },
  'stuck-button': (site) => {
    const [one] = handsOf(site).filter(({ hand }) => 'press' in hand)
    if (!one) return null
    return {
      scenario: 'Stuck button',
      about: 'A button is held for an hour: it does what one press does, and nothing else works by itself.',
      steps: [
        { at: SETTLED, do: { ...one.hand, for: '1 h' } },
        { after: '30 min', expect: { channel: one.channel.name, is: 'on' } },
        { after: '31 min', expect: [...linksUp(site), { channel: one.channel.name, is: 'on' }] },
      ],
      never: [{ channel: one.channel.name, closesMoreOftenThan: 1 }, ...neverMoves(site)],
    }
  },
  'repeat-storm': (site) => {
    for (const way of site.ways) {
      if (way.kind !== 'remote') continue
      const remote = site.remotes.find(({ id }) => id === way.remote)
      const key = remote?.keys.find(({ id }) => id === way.key)
      const channel = site.channels.find(({ id }) => id === way.channel)
      if (!remote || !key || !channel || key.repeat.policy !== 'once' || way.action !== 'toggle') continue
      return {
        scenario: 'Repeat storm',
        about: 'A key of the remote lies under a cushion: two hundred frames are one press.',
        steps: [
          { at: SETTLED, do: { key: key.name, of: remote.name, times: 200 } },
          { after: '30 s', expect: { channel: channel.name, is: 'on' } },
        ],
        never: [{ channel: channel.name, closesMoreOftenThan: 1 }],
      }
    }
    return null
  },
  'two-people-at-once': (site) => {
    for (const { channel, hand } of handsOf(site)) {
      const app = site.ways.find((way) => way.kind === 'app' && way.channel === channel.id)
      const widget =
        app?.kind === 'app' && site.services.flatMap(({ widgets }) => widgets).find(({ point }) => point === app.point)
      if (!widget || widget.kind === 'push') continue
      return {
        scenario: 'Two people at once',
        about: 'One at the wall, one at the phone, in the same instant: whatever it is then, every screen shows that.',
        steps: [
          { at: SETTLED, do: [hand, { tap: widget.name, to: 'on' }] },
          { after: '2 s', expect: { screens: 'agree' }, within: '4 s' },
          { after: '5 s', do: [{ tap: widget.name, to: 'off' }, hand] },
          { after: '2 s', expect: { screens: 'agree' }, within: '4 s' },
        ],
      }
    }
    return null
  },
  'replayed-messages': (site) => {
    const doors = site.channels.filter(
      (channel) =>
        channel.kind === 'pulsed' && site.ways.some((way) => way.kind === 'hub' && way.channel === channel.id),
    )
    if (doors.length === 0) return null
    return {
      scenario: 'Replayed messages',
      about: 'The network says again what was commanded: no door opens a second time.',
      steps: [
        { at: SETTLED, do: doors.map(({ name }) => ({ hub: name, says: 'pulse' })) },
        { after: '1 min', do: { replay: 'commands' } },
        { after: '1 min', do: [{ break: 'broker' }] },
        { after: '10 s', do: [{ mend: 'broker' }] },
        { after: '2 min', do: { replay: 'commands' } },
        { after: '1 min', expect: linksUp(site) },
      ],
      never: doors.map(({ name }) => ({ channel: name, closesMoreOftenThan: 1 })),
    }
  },
  'month-of-heartbeats': (site) => ({
    scenario: 'A month of heartbeats',
    about: 'Nobody touches anything for a month: nothing moves, and every screen is right in the end.',
    steps: [{ at: '30 d', expect: [...linksUp(site), { screens: 'agree' }] }],
    never: site.channels
      .filter((channel) => !isFeed(channel) && !ruled(site, channel) && powerUpOf(channel).policy !== 'on')
      .map(({ name }) => ({ channel: name, closesMoreOftenThan: 0 })),
  }),
  'door-with-a-slow-leaf': (site) => {
    for (const way of site.ways) {
      const door = site.channels.find(({ id }) => id === way.channel)
      if (way.kind !== 'wall' || door?.kind !== 'pulsed' || !door.contact) continue
      const input = site.inputs.find(({ id }) => id === way.input)
      if (input?.kind !== 'momentary') continue
      return {
        scenario: 'Door with a slow leaf',
        about: 'The leaf takes ten seconds, and the button is pressed again and again: that is one movement.',
        steps: [
          { at: SETTLED, do: { break: { load: door.name }, as: 'slow' } },
          { after: '1 s', do: { press: input.name } },
          { after: '3 s', do: { press: input.name } },
          { after: '4 s', do: { press: input.name } },
          { after: '6 s', expect: { screens: 'agree' }, within: '10 s' },
        ],
        never: [{ channel: door.name, closesMoreOftenThan: 1 }],
      }
    }
    return null
  },
  'fan-walk': (site) => {
    const fan = site.channels.find(
      (channel) =>
        channel.kind === 'stepped' && site.ways.some((way) => way.kind === 'hub' && way.channel === channel.id),
    )
    if (!fan) return null
    const levels = Array.from({ length: topLevel(fan) }, (_, i) => i + 1)
    const goes = (level: number): object[] => [
      { after: '10 s', do: { hub: fan.name, says: String(level) } },
      { after: '1 s', expect: { channel: fan.name, is: level }, within: '3 s' },
    ]
    return {
      scenario: 'Fan walk',
      about: 'Up through every level and down again; the screens follow.',
      steps: [
        { at: SETTLED, do: { hub: fan.name, says: 'off' } },
        ...levels.flatMap(goes),
        ...[...levels].reverse().slice(1).flatMap(goes),
        { after: '10 s', do: { hub: fan.name, says: 'off' } },
        { after: '1 s', expect: [{ channel: fan.name, is: 'off' }, { screens: 'agree' }], within: '3 s' },
      ],
    }
  },
}
