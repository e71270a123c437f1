import { channelOf, inputOf } from '../site'
import type { Check, Finding } from './finding'

const FITS: Record<'momentary' | 'rocker', readonly string[]> = { momentary: ['press', 'release', 'hold'], rocker: ['flip', 'follow'] }

/** W02 switch kind and gesture do not fit */
export const gestureDoesNotFit: Check = (site) =>
  site.ways.flatMap((way): Finding[] => {
    if (way.kind !== 'wall') return []
    const input = inputOf(site, way.input)
    const wrong = input && way.bindings.filter((binding) => !FITS[input.kind].includes(binding.gesture))
    if (!input || !wrong?.length) return []
    const channel = channelOf(site, way.channel)!
    return [
      {
        id: 'W02', severity: 'error', title: 'gesture that this switch never makes',
        where: { thing: 'way', id: way.id, name: input.name, channel: way.channel, controller: channel.controller, step: 'ways', column: 'wall' },
        what: `${input.name} is a ${input.kind}; it never makes "${wrong.map((b) => b.gesture).join('", "')}".`,
        why: `Nothing happens to ${channel.name} when it is worked.`,
        fixes: [{ label: input.kind === 'rocker' ? 'Toggle on each flip' : 'Toggle on each press', change: (draft) => { const target = draft.ways.find((w) => w.id === way.id)!; if (target.kind === 'wall') target.bindings = [{ gesture: input.kind === 'rocker' ? 'flip' : 'press', action: 'toggle' }] } }],
      },
    ]
  })

export const switchChecks: readonly Check[] = [gestureDoesNotFit]
