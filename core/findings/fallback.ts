import { planAndWrite, startUpStrips } from '../pins'
import { powerUpOf, waysTo, kindOf } from '../site'
import { addHubWay, usualWatch } from '../ways'
import type { Check, Finding } from './finding'
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
        title: 'no way without the network',
        where: {
          thing: 'channel',
          id: channel.id,
          name: channel.name,
          channel: channel.id,
          controller: channel.controller,
          step: 'ways',
          column: 'wall',
        },
        what:
          `${channel.name} is worked only by ${[...new Set(ways.map((way) => way.kind))].join(' and ')}: ` +
          `${ways.length} of ${ways.length} ways need the network.`,
        why: 'With Wi-Fi or the broker down nobody can switch it.',
        fixes: [{ label: 'Give it a wall switch', change: (draft) => giveSwitch(draft, channel.id) }],
      },
    ]
  })

/** B04 power-up waits for a service with no second choice */
export const noSecondChoice: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    const policy = powerUpOf(channel)
    if (policy.policy !== 'service' || policy.otherwise !== null) return []
    const set = (otherwise: 'off' | 'last') => (draft: typeof site) => {
      const target = draft.channels.find((c) => c.id === channel.id)!
      if ('powerUp' in target && target.powerUp.policy === 'service') target.powerUp.otherwise = otherwise
    }
    return [
      {
        id: 'B04',
        severity: 'warning',
        title: 'no second choice at power-up',
        where: {
          thing: 'channel',
          id: channel.id,
          name: channel.name,
          channel: channel.id,
          controller: channel.controller,
          step: 'bench',
        },
        what:
          `After a power cut ${channel.name} waits ${policy.waitMs / 1000} s for the service, and nothing ` +
          'says what then.',
        why:
          'The router is often slower to start than the board: it would be left off without anyone having ' +
          'chosen that.',
        fixes: [
          { label: 'Then off', change: set('off') },
          { label: 'Then as it was', change: set('last') },
        ],
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
      title: 'winner of an outage not stated',
      where: {
        thing: 'controller',
        id: controller.id,
        name: controller.name,
        controller: controller.id,
        step: 'bench',
      },
      what:
        `${controller.name} does not say whether the wall or the service wins when they disagree after an ` +
        'outage; it is built as local.',
      why: 'Somebody will be surprised by a lamp that changes by itself.',
      fixes: [
        {
          label: 'The wall wins (local)',
          change: (draft) => {
            draft.controllers.find((c) => c.id === controller.id)!.outage = 'local'
          },
        },
        {
          label: 'The service wins',
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
      title: 'watch on the machine that it watches',
      where: { thing: 'hub', id: hub.id, name: hub.name, step: 'ways', side: 'services' },
      what: `The watch of ${hub.name} runs on the hub's own machine.`,
      why: 'It dies with the hub: in the very case for which it was made, nothing happens.',
      fixes: [
        {
          label: 'Watch on the controllers',
          change: (draft) => {
            const watch = draft.hubs.find((h) => h.id === hub.id)!.watch
            if (watch) watch.runsOn = 'controllers'
          },
        },
      ],
    }))

/** B03 feed with no fallback on the controller */
export const feedWithoutFallback: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    if (channel.kind !== 'feed') return []
    const ways = waysTo(site, channel.id)
    const hub = site.hubs.find((candidate) => ways.some((way) => way.kind === 'hub' && way.hub === candidate.id))
    const where = {
      thing: 'channel',
      id: channel.id,
      name: channel.name,
      channel: channel.id,
      controller: channel.controller,
      step: 'ways',
    } as const
    if (!ways.some((way) => way.kind === 'wall'))
      return [
        {
          id: 'B03',
          severity: 'error',
          title: 'feed without a switch of its own',
          where: { ...where, column: 'wall' },
          what: `${channel.name} feeds smart lamps and no switch stands at its controller.`,
          why: 'With the hub gone nobody can put the light on or off.',
          fixes: [{ label: 'Give it a wall switch', change: (draft) => giveSwitch(draft, channel.id) }],
        },
      ]
    if (!hub)
      return [
        {
          id: 'B03',
          severity: 'error',
          title: 'feed without a hub',
          where: { ...where, column: 'hub' },
          what: `${channel.name} speaks to a hub, and no hub knows it.`,
          why: 'Its switch would always work the relay and cut the lamps off.',
          fixes: [
            {
              label: 'Give it an entity',
              change: (draft) =>
                void addHubWay(
                  draft,
                  draft.channels.find((c) => c.id === channel.id)!,
                ),
            },
          ],
        },
      ]
    if (hub.watch) return []
    return [
      {
        id: 'B03',
        severity: 'error',
        title: 'feed without a watch',
        where: { ...where, column: 'hub' },
        what: `${hub.name} has no heartbeat that ${channel.name} could listen to.`,
        why: 'The controller never learns that the hub is gone: the switch stays dead.',
        fixes: [
          {
            label: 'A watch on the controllers: 10 s, 5 s, 10 s',
            change: (draft) => {
              draft.hubs.find((h) => h.id === hub.id)!.watch = usualWatch()
            },
          },
        ],
      },
    ]
  })

/** B05 pairing or pulse at power-up */
export const actsAtPowerUp: Check = (site) => [
  ...site.channels.flatMap((channel): Finding[] => {
    const { unasked } = kindOf(channel)
    if (unasked === null) return []
    const start = startUpStrips(
      site,
      site.controllers.find((c) => c.id === channel.controller)!,
    ).find((one) => one.channel.id === channel.id && one.clicks)
    if (!start) return []
    return [
      {
        id: 'B05',
        severity: 'danger',
        title: 'pulses at power-up',
        where: {
          thing: 'channel',
          id: channel.id,
          name: channel.name,
          channel: channel.id,
          controller: channel.controller,
          role: start.role,
          step: 'bench',
        },
        what: `The output of ${channel.name} is on ${start.spot.label}, which is not at rest while the board starts.`,
        why: unasked,
        fixes: [
          {
            label: 'Plan another pin',
            change: (draft) => {
              delete draft.controllers.find((c) => c.id === channel.controller)!.pins[start.role]
              planAndWrite(draft, channel.controller)
            },
          },
        ],
      },
    ]
  }),
  ...site.controls.flatMap((control): Finding[] => {
    if (
      control.kind !== 'controller' ||
      (control.action !== 'pair' && control.action !== 'reset') ||
      control.source.kind !== 'wall'
    )
      return []
    const { source } = control
    const input = site.inputs.find((candidate) => candidate.id === source.input)
    const least = control.action === 'reset' ? 5_000 : 3_000
    if (source.gesture === 'hold' && input?.kind === 'momentary' && input.holdMs >= least) return []
    const where: Finding['where'] = {
      thing: 'controller',
      id: control.controller,
      name: site.controllers.find((c) => c.id === control.controller)!.name,
      controller: control.controller,
      step: 'ways',
      side: 'rules',
    }
    return [
      {
        id: 'B05',
        severity: 'error',
        title: `${control.action === 'pair' ? 'pairing' : 'credential reset'} too near`,
        where,
        what:
          `${input?.name ?? source.input} ` +
          `${source.gesture}${input?.kind === 'momentary' && source.gesture === 'hold' ? ` after ${input.holdMs} ms` : ''} ` +
          `${control.action === 'pair' ? 'starts pairing' : 'forgets the credentials'}; a hold of ` +
          `${least / 1000} s or more is wanted.`,
        why: 'A child, or a switch that hangs at power-up, takes the controller off the network.',
        fixes:
          input?.kind === 'momentary'
            ? [
                {
                  label: `Hold for ${least / 1000} s`,
                  change: (draft) => {
                    const target = draft.inputs.find((i) => i.id === source.input)
                    const own = draft.controls.find((c) => c.id === control.id)
                    if (target?.kind === 'momentary') target.holdMs = Math.max(target.holdMs, least)
                    if (own?.source.kind === 'wall') own.source.gesture = 'hold'
                  },
                },
              ]
            : [],
      },
    ]
  }),
]

export const fallbackChecks: readonly Check[] = [
  onlyByNetwork,
  watchWatchesItself,
  feedWithoutFallback,
  noSecondChoice,
  actsAtPowerUp,
  winnerNotStated,
]
