import { partOf, withoutControl } from '../faults'
import { partsOf } from '../parts'
import { planAndWrite, startUpStrips } from '../pins'
import {
  controllerOf,
  heldFor,
  inputOf,
  isFeed,
  isTooNear,
  keyOf,
  kindOf,
  longHoldOf,
  powerUpOf,
  waitsAtPowerUp,
  waysTo,
  type Channel,
  type Hub,
  type Site,
} from '../site'
import { addHubWay, usualWatch } from '../ways'
import { channelPlace, controllerPlace, offAfterPowerCut, type Check, type Finding } from './finding'
import { giveSwitch } from './mapping'

/** B01 channel with no way that works without the network */
export const onlyByNetwork: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    const ways = waysTo(site, channel.id)
    const local = ways.some((way) => way.kind === 'wall' || way.kind === 'remote' || way.kind === 'link')
    if (ways.length === 0 || local) return []
    return [
      {
        id: 'B01',
        severity: channel.essential ? 'error' : 'warning',
        title: 'No local control',
        where: {
          ...channelPlace(channel),
          step: 'ways',
          column: 'wall',
        },
        what:
          `${channel.name} is worked only by ${[...new Set(ways.map((way) => way.kind))].join(' and ')}: ` +
          `${ways.length} of ${ways.length} ways need the network. ${hoursWords(withoutControl(site, channel).hours)}`,
        why: 'With Wi-Fi or the broker down it cannot be switched.',
        fixes: [{ label: 'Add a wall switch', change: (draft) => giveSwitch(draft, channel.id) }],
      },
    ]
  })

const hoursWords = (hours: number | null): string =>
  hours === null ? '' : `About ${hours.toFixed(0)} h per year nobody can turn it on (usual failure rates).`

/** B07 single failure that leaves an essential channel with nobody in control */
export const aloneInControl: Check = (site) => {
  // lamps behind a feed are worked by the hub's own screen too; the fallback of feeds is B03
  const essential = site.channels.filter((channel) => channel.essential && !isFeed(channel))
  if (essential.length === 0) return []
  const graph = partsOf(site)
  return essential.flatMap((channel): Finding[] => {
    const { hours, alone } = withoutControl(site, channel)
    if (hours === null || alone.length === 0 || waysTo(site, channel.id).length === 0) return []
    const names = new Set(alone.map((failure) => graph.get(partOf(failure))?.name ?? partOf(failure)))
    const named = [...names].slice(0, MOST_NAMED)
    return [
      {
        id: 'B07',
        severity: 'warning',
        title: 'One failure leaves nobody in control',
        where: { ...channelPlace(channel), step: 'ways', column: 'wall' },
        what: `${channel.name} is essential, and nobody can turn it on when this fails: ${named.join(' or ')}. ${hoursWords(hours)}`,
        why: 'A second way in that needs none of these keeps it in control.',
        fixes: [{ label: 'Add a wall switch', change: (draft) => giveSwitch(draft, channel.id) }],
      },
    ]
  })
}
const MOST_NAMED = 3

/** B04 power-up waits for a service with no second choice */
export const noSecondChoice: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    const policy = powerUpOf(channel)
    if (!waitsAtPowerUp(policy) || policy.otherwise !== null) return []
    const set = (otherwise: 'off' | 'last') => (draft: typeof site) => {
      const target = draft.channels.find((c) => c.id === channel.id)!
      if ('powerUp' in target && waitsAtPowerUp(target.powerUp)) target.powerUp.otherwise = otherwise
    }
    return [
      {
        id: 'B04',
        severity: 'warning',
        title: 'No fallback if the service is silent at power-up',
        where: {
          ...channelPlace(channel),
          step: 'bench',
        },
        what:
          `After a power cut ${channel.name} waits ${policy.waitMs / 1000} s for the ` +
          `${policy.policy === 'service' ? 'service' : 'clock'}, and no ` +
          'fallback is chosen.',
        why:
          'The router often starts later than the board: the channel would stay off without anyone ' + 'choosing that.',
        fixes: [
          { label: 'Set fallback: off', change: set('off') },
          { label: 'Set fallback: last state', change: set('last') },
        ],
      },
    ]
  })

/** B08 power-up by a timetable that there is none of */
export const noTimetable: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    if (powerUpOf(channel).policy !== 'timetable') return []
    if (site.rules.some((rule) => rule.kind === 'schedule' && rule.channel === channel.id)) return []
    return [
      {
        id: 'B08',
        severity: 'warning',
        title: 'No schedule for power-up',
        where: { ...channelPlace(channel), step: 'bench' },
        what: `After a power cut ${channel.name} follows its schedule, and it has no schedule.`,
        why: 'It waits for the clock, then uses its fallback.',
        fixes: [offAfterPowerCut(channel)],
      },
    ]
  })

/** B06 winner of an outage not stated */
export const winnerNotStated: Check = (site) =>
  site.controllers
    .filter((controller) => controller.link !== 'none' && controller.outage === null)
    .map((controller) => ({
      id: 'B06',
      severity: 'note',
      title: 'Outage winner not chosen',
      where: {
        ...controllerPlace(controller),
        step: 'bench',
      },
      what:
        `${controller.name} does not say who wins, wall or service, when they disagree after an ` +
        'outage; it is built as local.',
      why: 'A lamp may change unexpectedly.',
      fixes: [
        {
          label: 'Set: wall wins',
          change: (draft) => {
            draft.controllers.find((c) => c.id === controller.id)!.outage = 'local'
          },
        },
        {
          label: 'Set: service wins',
          change: (draft) => {
            draft.controllers.find((c) => c.id === controller.id)!.outage = 'service'
          },
        },
      ],
    }))

/** B02 watch on the machine that it watches */
export const watchWatchesItself: Check = (site) =>
  site.hubs
    .filter((hub) => hub.watch?.runsOn === 'hub machine')
    .map((hub) => ({
      id: 'B02',
      severity: 'error',
      title: 'Watch runs on the hub’s own machine',
      where: { thing: 'hub', id: hub.id, name: hub.name, step: 'ways', side: 'services' },
      what: `The watch of ${hub.name} runs on the hub's own machine.`,
      why: 'It fails together with the hub, which is when it is needed.',
      fixes: [
        {
          label: 'Run the watch on the controllers',
          change: (draft) => {
            const watch = draft.hubs.find((h) => h.id === hub.id)!.watch
            if (watch) watch.runsOn = 'controllers'
          },
        },
      ],
    }))

const whereOf = (channel: Channel) =>
  ({
    ...channelPlace(channel),
  }) as const

/** What a feed needs so that its lamps can be worked whether the hub lives or not. */
type FeedLack = Omit<Finding, 'id' | 'severity'>

const giveEntity = (channel: string) => (draft: Site) =>
  void addHubWay(
    draft,
    draft.channels.find((c) => c.id === channel)!,
  )
const giveWatch = (hub: string) => (draft: Site) => {
  draft.hubs.find((h) => h.id === hub)!.watch = usualWatch()
}

const lacksSwitch = (channel: Channel): FeedLack => ({
  title: 'Feed without a local switch',
  where: { ...whereOf(channel), step: 'ways', column: 'wall' },
  what: `${channel.name} feeds smart lamps and its controller has no switch.`,
  why: 'With the hub offline the light cannot be switched.',
  fixes: [{ label: 'Add a wall switch', change: (draft) => giveSwitch(draft, channel.id) }],
})
const lacksHub = (channel: Channel): FeedLack => ({
  title: 'Feed without a hub',
  where: { ...whereOf(channel), step: 'ways', column: 'hub' },
  what: `${channel.name} needs a hub, and no hub has it.`,
  why: 'Its switch would always work the relay and cut the lamps off.',
  fixes: [{ label: 'Add a hub entity', change: giveEntity(channel.id) }],
})
const lacksWatch = (channel: Channel, hub: Hub): FeedLack => ({
  title: 'Feed without a watch',
  where: { ...whereOf(channel), step: 'ways', column: 'hub' },
  what: `${hub.name} has no heartbeat for ${channel.name} to watch.`,
  why: 'The controller never learns that the hub is offline: the switch stays dead.',
  fixes: [{ label: 'Add a watch on the controllers: 10 s, 5 s, 10 s', change: giveWatch(hub.id) }],
})

function feedLack(site: Site, channel: Channel): FeedLack | null {
  const ways = waysTo(site, channel.id)
  const hub = site.hubs.find((candidate) => ways.some((way) => way.kind === 'hub' && way.hub === candidate.id))
  if (!ways.some((way) => way.kind === 'wall')) return lacksSwitch(channel)
  if (!hub) return lacksHub(channel)
  return hub.watch ? null : lacksWatch(channel, hub)
}

/** B03 feed with no fallback on the controller */
export const feedWithoutFallback: Check = (site) =>
  site.channels.filter(isFeed).flatMap((channel): Finding[] => {
    const lack = feedLack(site, channel)
    return lack ? [{ id: 'B03', severity: 'error', ...lack }] : []
  })

const planAnotherPin = (channel: Channel, role: string) => (draft: Site) => {
  delete draft.controllers.find((c) => c.id === channel.controller)!.pins[role]
  planAndWrite(draft, channel.controller)
}

function pulsesAtPowerUp(site: Site, channel: Channel): Finding[] {
  const { unasked } = kindOf(channel)
  if (unasked === null) return []
  const strips = startUpStrips(site, controllerOf(site, channel.controller)!)
  const start = strips.find((one) => one.channel.id === channel.id && one.clicks)
  if (!start) return []
  return [
    {
      id: 'B05',
      severity: 'danger',
      title: 'Pulses at power-up',
      where: { ...whereOf(channel), role: start.role, step: 'bench' },
      what: `The output of ${channel.name} is on ${start.spot.label}, which changes while the board starts.`,
      why: unasked,
      fixes: [{ label: 'Plan another pin', change: planAnotherPin(channel, start.role) }],
    },
  ]
}

const TOO_NEAR = {
  pair: { title: 'Pairing starts too easily', does: 'starts pairing' },
  reset: { title: 'Credential reset too easy', does: 'deletes the credentials' },
} as const

const holdLonger = (control: string, least: number) => (draft: Site) => {
  const { source } = draft.controls.find((c) => c.id === control)!
  const target = source.kind === 'wall' ? draft.inputs.find((i) => i.id === source.input) : undefined
  if (target?.kind === 'momentary') target.holdMs = Math.max(target.holdMs, least)
  if (source.kind === 'wall') source.gesture = 'hold'
}

const takeOut = (control: string) => (draft: Site) => {
  draft.controls = draft.controls.filter(({ id }) => id !== control)
}

/** What works a control, as a person says it. */
function sourceWords(site: Site, { source }: Site['controls'][number]): string {
  if (source.kind === 'wall') return `${inputOf(site, source.input)?.name ?? source.input} ${source.gesture}`
  if (source.kind === 'remote') return `The key “${keyOf(site, source.remote, source.key)?.name ?? source.key}”`
  return `The character “${source.char}”`
}

function tooNear(site: Site, control: Site['controls'][number]): Finding[] {
  if (control.kind !== 'controller' || (control.action !== 'pair' && control.action !== 'reset')) return []
  if (!isTooNear(site, control)) return []
  const least = longHoldOf(control)!
  const held = heldFor(site, control)
  const { title, does } = TOO_NEAR[control.action]
  const { id, name } = controllerOf(site, control.controller)!
  const input = control.source.kind === 'wall' ? inputOf(site, control.source.input) : undefined
  return [
    {
      id: 'B05',
      severity: 'error',
      title,
      where: { thing: 'controller', id, name, controller: id, step: 'ways', side: 'rules' },
      what:
        `${sourceWords(site, control)}${held === null ? '' : ` after ${held} ms`} ${does}; ` +
        `it needs a hold of ${least / 1000} s or more at a switch. It is left out of the firmware.`,
      why: 'A child, a lost remote or a switch stuck at power-up could take the controller off the network.',
      fixes:
        input?.kind === 'momentary'
          ? [{ label: `Set hold: ${least / 1000} s`, change: holdLonger(control.id, least) }]
          : [{ label: 'Delete it', change: takeOut(control.id) }],
    },
  ]
}

/** B05 pairing or pulse at power-up */
export const actsAtPowerUp: Check = (site) => [
  ...site.channels.flatMap((channel) => pulsesAtPowerUp(site, channel)),
  ...site.controls.flatMap((control) => tooNear(site, control)),
]

export const fallbackChecks: readonly Check[] = [
  onlyByNetwork,
  aloneInControl,
  watchWatchesItself,
  feedWithoutFallback,
  noSecondChoice,
  noTimetable,
  actsAtPowerUp,
  winnerNotStated,
]
