import { powerUpOf, waysTo } from '../site'
import type { Check, Finding } from './finding'
import { giveSwitch } from './mapping'

/** B01 channel with no way that works without the network */
export const onlyByNetwork: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    const ways = waysTo(site, channel.id)
    if (ways.length === 0 || ways.some((way) => way.kind === 'wall')) return []
    return [
      {
        id: 'B01', severity: channel.essential ? 'error' : 'warning', title: 'no way without the network',
        where: { thing: 'channel', id: channel.id, name: channel.name, channel: channel.id, controller: channel.controller, step: 'ways', column: 'wall' },
        what: `${channel.name} is worked only by ${ways.map((way) => (way.kind === 'app' ? 'app' : 'hub')).join(' and ')}: ${ways.length} of ${ways.length} ways need the network.`,
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
    const set = (otherwise: 'off' | 'last') => (draft: typeof site) => { const target = draft.channels.find((c) => c.id === channel.id)!; if ('powerUp' in target && target.powerUp.policy === 'service') target.powerUp.otherwise = otherwise }
    return [
      {
        id: 'B04', severity: 'warning', title: 'no second choice at power-up',
        where: { thing: 'channel', id: channel.id, name: channel.name, channel: channel.id, controller: channel.controller, step: 'bench' },
        what: `After a power cut ${channel.name} waits ${policy.waitMs / 1000} s for the service, and nothing says what then.`,
        why: 'The router is often slower to start than the board: it would be left off without anyone having chosen that.',
        fixes: [{ label: 'Then off', change: set('off') }, { label: 'Then as it was', change: set('last') }],
      },
    ]
  })

/** B06 winner of an outage not stated */
export const winnerNotStated: Check = (site) =>
  site.controllers.filter((controller) => controller.link === 'wifi' && controller.outage === null).map((controller) => ({
    id: 'B06', severity: 'note', title: 'winner of an outage not stated',
    where: { thing: 'controller', id: controller.id, name: controller.name, controller: controller.id, step: 'bench' },
    what: `${controller.name} does not say whether the wall or the service wins when they disagree after an outage; it is built as local.`,
    why: 'Somebody will be surprised by a lamp that changes by itself.',
    fixes: [
      { label: 'The wall wins (local)', change: (draft) => { draft.controllers.find((c) => c.id === controller.id)!.outage = 'local' } },
      { label: 'The service wins', change: (draft) => { draft.controllers.find((c) => c.id === controller.id)!.outage = 'service' } },
    ],
  }))

export const fallbackChecks: readonly Check[] = [onlyByNetwork, noSecondChoice, winnerNotStated]
