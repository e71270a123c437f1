import { loadOf } from '../site'
import type { Check } from './finding'

/** L04 neutral switched instead of line */
export const neutralSwitched: Check = (site) =>
  site.channels.flatMap((channel) => {
    const load = loadOf(site, channel.load)
    if (!load || load.supply !== 'mains' || load.contact !== 'neutral') return []
    return [
      {
        id: 'L04',
        severity: 'danger' as const,
        title: 'neutral through the contact',
        where: { thing: 'load' as const, id: load.id, name: load.name, channel: channel.id, controller: channel.controller, step: 'bench' as const },
        what: `${channel.name} switches the neutral of ${load.name} (${load.watts} W, ${site.mains.volts} V).`,
        why: 'With the relay open the load still stands at line voltage: whoever changes the lamp touches it.',
        fixes: [{ label: 'Switch the line', change: (draft) => { draft.loads.find((l) => l.id === load.id)!.contact = 'line' } }],
      },
    ]
  })

/** L06 heater with no time limit */
export const heaterWithoutLimit: Check = (site) =>
  site.channels.flatMap((channel) => {
    const load = loadOf(site, channel.load)
    if (load?.type !== 'heater' || channel.maxOnMs !== null) return []
    return [
      {
        id: 'L06',
        severity: 'warning' as const,
        title: 'heater without a time limit',
        where: { thing: 'channel' as const, id: channel.id, name: channel.name, channel: channel.id, controller: channel.controller, step: 'bench' as const },
        what: `${channel.name} heats with ${load.watts} W and nothing ends it but a command.`,
        why: 'A lost command, a dead app or a forgetful evening leaves it on. A thermal cut-out of its own is needed all the same.',
        fixes: [{ label: 'Off by itself after 60 min', change: (draft) => { draft.channels.find((c) => c.id === channel.id)!.maxOnMs = 3_600_000 } }],
      },
    ]
  })

export const loadChecks: readonly Check[] = [neutralSwitched, heaterWithoutLimit]
