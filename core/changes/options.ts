import { rateBy, type Question } from '../faults'
import { checkSite, giveSwitch, switchWords } from '../findings'
import { NO_FAILURES, powerUpOf, waysTo, type Channel, type Site } from '../site'
import { addAppWay, addHubWay, addRemoteWay, usualWatch } from '../ways'

/** Something that could be changed so that less goes wrong. */
export interface Option {
  readonly id: string
  /** as the button says it */
  readonly label: string
  /** what has to be bought besides what the site will then list; empty: nothing */
  readonly buys: string
  readonly change: (draft: Site) => void
}

const has = (site: Site, channel: Channel, kind: ReturnType<typeof waysTo>[number]['kind']): boolean =>
  waysTo(site, channel.id).some((way) => way.kind === kind)

/** Another way in. */
function wayOptions(site: Site, channel: Channel): Option[] {
  const of = (draft: Site): Channel => draft.channels.find(({ id }) => id === channel.id)!
  const option = (id: string, label: string, change: Option['change'], buys = ''): Option => ({
    id,
    label,
    change,
    buys,
  })
  const options = [
    option('wall', has(site, channel, 'wall') ? 'Add a second wall switch' : switchWords(site, channel), (draft) =>
      giveSwitch(draft, channel.id),
    ),
    ...(channel.kind === 'feed'
      ? []
      : [
          option('remote', 'Teach a key of a remote', (draft) => addRemoteWay(draft, of(draft))),
          option('hub', 'Add it to the hub', (draft) => void addHubWay(draft, of(draft))),
          option('app', 'Add it to the app', (draft) => void addAppWay(draft, of(draft))),
        ]),
  ]
  return options.filter(({ id }) => id === 'wall' || !has(site, channel, id as 'remote' | 'hub' | 'app'))
}

/** A spare at hand is in within this, hours (common practice: the same evening). */
const SPARE_HOURS = 4
const SPARES = [
  { key: 'power', label: 'Keep a spare supply', buys: '1 supply' },
  { key: 'board', label: 'Keep a spare board, flashed', buys: '1 board' },
  { key: 'module', label: 'Keep a spare relay module', buys: '1 relay module' },
  { key: 'load', label: 'Keep spares of loads', buys: 'spare lamps' },
] as const

/** What waits for a parcel today is in the drawer tomorrow. */
const spareOptions = (site: Site): Option[] =>
  SPARES.filter(({ key }) => rateBy(site, key).repairHours > SPARE_HOURS).map(({ key, label, buys }) => ({
    ...{ id: `spare-${key}`, label, buys },
    change: (draft) => {
      const { betweenHours } = rateBy(draft, key)
      const failures = draft.failures ?? structuredClone(NO_FAILURES)
      const own = { betweenHours, repairHours: SPARE_HOURS, source: 'spare at hand' }
      draft.failures = { ...failures, rates: { ...failures.rates, [key]: own } }
    },
  }))

/** What keeps on while the mains is out. */
function batteryOptions(site: Site): Option[] {
  const boxes = [
    { box: 'router', label: 'Put the router on a battery' },
    { box: 'hub-machine', label: 'Put the hub machine on a battery' },
  ] as const
  return boxes
    .filter(({ box }) => !site.failures?.onBattery.includes(box))
    .map(({ box, label }) => ({
      ...{ id: `battery-${box}`, label, buys: '1 battery supply' },
      change: (draft) => {
        const failures = draft.failures ?? structuredClone(NO_FAILURES)
        draft.failures = { ...failures, onBattery: [...failures.onBattery, box] }
      },
    }))
}

/** What shares a strip or a circuit goes out with it: each of its things could have a socket of its own. */
const stripOptions = (site: Site, channel: Channel): Option[] =>
  (site.failures?.strips ?? []).flatMap(({ id, name, feeds }) =>
    feeds
      .filter((fed) => !fed.startsWith('power:') || fed === `power:${channel.controller}`)
      .map((fed): Option => ({
        ...{ id: `strip-${id}-${fed.replace(':', '-')}`, buys: '1 socket on another circuit' },
        label: `Plug the ${FED_WORDS[fed] ?? 'supply'} in apart from ${name}`,
        change: (draft) => {
          const strips = draft.failures!.strips
          const strip = strips.find((one) => one.id === id)!
          strip.feeds = strip.feeds.filter((one) => one !== fed)
          if (strip.feeds.length === 0) draft.failures!.strips = strips.filter((one) => one.id !== id)
        },
      })),
  )
const FED_WORDS: Readonly<Record<string, string>> = { router: 'router', 'hub-machine': 'hub machine' }

/** The watch of the hub that a feed hangs on, on the controllers themselves. */
function watchOptions(site: Site, channel: Channel): Option[] {
  if (channel.kind !== 'feed') return []
  return site.hubs
    .filter((hub) => waysTo(site, channel.id).some((way) => way.kind === 'hub' && way.hub === hub.id))
    .filter(({ watch }) => watch?.runsOn !== 'controllers')
    .map(({ id }) => ({
      ...{ id: `watch-${id}`, label: 'Watch the hub on the controllers', buys: '' },
      change: (draft) => {
        const hub = draft.hubs.find((one) => one.id === id)!
        hub.watch = { ...(hub.watch ?? usualWatch()), runsOn: 'controllers' }
      },
    }))
}

/** What a channel does when power comes back. */
function powerUpOptions(channel: Channel): Option[] {
  if (!('powerUp' in channel) || powerUpOf(channel).policy === 'off') return []
  return [
    {
      ...{ id: 'power-up-off', label: 'Power-up: off', buys: '' },
      change: (draft) => {
        const target = draft.channels.find(({ id }) => id === channel.id)!
        if ('powerUp' in target) target.powerUp = { policy: 'off' }
      },
    },
  ]
}

/** What the checks say of fallback, safety and feedback of this channel, each with its own mending. */
const ABOUT = /^(B|H|M05$|M04$)/
const fixOptions = (site: Site, channel: Channel): Option[] =>
  checkSite(site)
    .filter(({ id, where }) => ABOUT.test(id) && (where.channel === channel.id || where.id === channel.id))
    .flatMap(({ id, fixes = [] }) =>
      fixes.map((fix, i): Option => ({ id: `${id}-${i}`, label: fix.label, buys: '', change: fix.change })),
    )

/** Everything that could be changed for a question of a channel. */
export function optionsFor(site: Site, question: Question, channel: Channel): Option[] {
  const options = [
    ...(question === 'on' || question === 'off' ? wayOptions(site, channel) : []),
    ...watchOptions(site, channel),
    ...batteryOptions(site),
    ...stripOptions(site, channel),
    ...spareOptions(site),
    ...(question === 'unbidden' ? powerUpOptions(channel) : []),
    ...fixOptions(site, channel),
  ]
  const labels = new Set<string>()
  return options.filter(({ label }) => {
    const isNew = !labels.has(label)
    labels.add(label)
    return isNew
  })
}
