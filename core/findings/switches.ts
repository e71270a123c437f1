import { boardIn } from '../boards'
import { ohms, pullChoice } from '../electrics'
import {
  channelOf,
  inputOf,
  inputsOn,
  isUsed,
  kindOf,
  opensAtASpike,
  type Channel,
  type Input,
  type Site,
} from '../site'
import { removeInput, usualBindings } from '../ways'
import { inputPlace, type Check, type Finding } from './finding'

const FITS: Record<Input['kind'], readonly string[]> = {
  momentary: ['press', 'release', 'hold'],
  rocker: ['flip', 'follow'],
  selector: ['select'],
  contact: [],
}

const usualWords = (input: Input, channel: Channel): string => {
  if (input.kind === 'rocker') return 'Toggle on each flip'
  if (input.kind === 'selector') return 'Set the level of its position'
  return kindOf(channel).usual.press === 'pulse' ? 'Pulse on each press' : 'Toggle on each press'
}
const bindAsUsual = (way: string, input: Input, channel: Channel) => (draft: Site) => {
  const target = draft.ways.find((w) => w.id === way)!
  if (target.kind === 'wall') target.bindings = usualBindings(input.kind, channel)
}

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
        id: 'W02',
        severity: 'error',
        title: 'Gesture impossible on this switch',
        where: {
          thing: 'way',
          id: way.id,
          name: input.name,
          channel: way.channel,
          controller: channel.controller,
          step: 'ways',
          column: 'wall',
        },
        what: `${input.name} is a ${input.kind}; it cannot make "${wrong.map((b) => b.gesture).join('", "')}".`,
        why: `It does nothing to ${channel.name}.`,
        fixes: [{ label: usualWords(input, channel), change: bindAsUsual(way.id, input, channel) }],
      },
    ]
  })

/** W04 measured bounce longer than settle time */
export const bounceTooLong: Check = (site) =>
  site.inputs
    .filter((input) => input.bounceMs !== null && input.settle === 'settle' && input.bounceMs > input.settleMs)
    .map((input) => {
      const wanted = Math.min(1000, Math.ceil((input.bounceMs! * 1.5) / 5) * 5)
      return {
        id: 'W04',
        severity: 'error',
        title: 'Settle time too short',
        where: inputPlace(input),
        what: `${input.name} bounces for ${input.bounceMs} ms (measured); its settle time is ${input.settleMs} ms.`,
        why: 'One press may count twice: the lamp goes on and off again.',
        fixes: [
          {
            label: `Set settle time: ${wanted} ms`,
            change: (draft) => {
              draft.inputs.find((i) => i.id === input.id)!.settleMs = wanted
            },
          },
        ],
      }
    })

/** Above this a board's own pull is too weak for the lead (common practice). */
const LONG_LEAD_METRES = 5

/** W05 long cable with weak pull */
export const longLead: Check = (site) =>
  site.inputs.flatMap((input): Finding[] => {
    const board = boardIn(site, site.controllers.find((c) => c.id === input.controller)!.board)
    if (!board || input.cableMetres <= LONG_LEAD_METRES || input.pull !== 'internal') return []
    const choice = pullChoice(input.cableMetres, board.logicVolts, board.internalPullKiloohms.most)
    return [
      {
        id: 'W05',
        severity: 'warning',
        title: 'Long cable, weak pull',
        where: inputPlace(input),
        what:
          `${input.name} has ${input.cableMetres} m of cable and the board's own pull of ` +
          `${board.internalPullKiloohms.least} to ${board.internalPullKiloohms.most} kΩ: ` +
          `${(board.logicVolts / board.internalPullKiloohms.most).toFixed(2)} mA at worst. Fit ${ohms(choice.ohms)}.`,
        why: 'The cable picks up noise from wires beside it, and so little current does not keep the contact clean.',
        fixes: [
          {
            label: `Fit ${ohms(choice.ohms)}`,
            change: (draft) => {
              draft.inputs.find((i) => i.id === input.id)!.pull = 'fitted'
            },
          },
        ],
      },
    ]
  })

/** W06 module revision without external switches */
export const noExternalSwitches: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const boxed = boardIn(site, controller.board)?.boxed
    if (!boxed || boxed.externalSwitches) return []
    return inputsOn(site, controller.id).map((input) => ({
      id: 'W06',
      severity: 'error',
      title: 'Unreliable switch inputs',
      where: inputPlace(input),
      what: `${input.name} is wired to a board with a known problem: ${boxed.note}.`,
      why: 'The switch works in the trial and may not work in the wall.',
      fixes: [],
    }))
  })

/** W08 a switch or contact that works nothing */
export const worksNothing: Check = (site) =>
  site.inputs
    .filter((input) => !isUsed(site, input))
    .map((input): Finding => ({
      id: 'W08',
      severity: 'warning',
      title: 'Switch not used',
      where: inputPlace(input),
      what: `${input.name} has a pin and works no channel and no controller.`,
      why: 'It would be wired, and pressing it would do nothing.',
      fixes: [{ label: 'Delete it', change: (draft) => removeInput(draft, input.id) }],
    }))

/** W07 a strike that a spike opens: its switch counts at the first edge */
export const opensBySpike: Check = (site) =>
  site.ways.flatMap((way): Finding[] => {
    if (way.kind !== 'wall' || !opensAtASpike(site, way)) return []
    const input = inputOf(site, way.input)!
    const { name } = channelOf(site, way.channel)!
    return [
      {
        id: 'W07',
        severity: 'error',
        title: 'A spike could open the door',
        where: inputPlace(input),
        what: `${input.name} counts at its first edge and pulses ${name}. This way is left out of the firmware.`,
        why: 'A spike of a millisecond on the cable, from a motor or a storm, would open the door.',
        fixes: [
          {
            label: 'Set: count when settled',
            change: (draft) => {
              draft.inputs.find((i) => i.id === input.id)!.settle = 'settle'
            },
          },
        ],
      },
    ]
  })

/** Shortest and longest of quick presses, ms (common practice). */
const QUICK_PRESS_MS = [60, 200] as const

/** W01 settle time misses quick presses (chance given) */
export const missesQuickPresses: Check = (site) =>
  site.inputs.flatMap((input): Finding[] => {
    const [least, most] = QUICK_PRESS_MS
    if (input.kind !== 'momentary' || input.settle !== 'settle' || input.settleMs <= least) return []
    const chance = Math.min(1, (input.settleMs - least) / (most - least))
    return [
      {
        id: 'W01',
        severity: chance >= 0.5 ? 'error' : 'warning',
        title: 'Misses quick presses',
        where: inputPlace(input),
        what:
          `${input.name} must be closed for ${input.settleMs} ms to count; of quick presses (${least} to ${most} ` +
          `ms) it misses ${Math.round(chance * 100)} %.`,
        why: 'People press again, and it toggles twice.',
        fixes: [
          {
            label: 'Set settle time: 25 ms',
            change: (draft) => {
              draft.inputs.find((i) => i.id === input.id)!.settleMs = Math.max(
                25,
                Math.min(least, Math.ceil(((input.bounceMs ?? 0) * 1.5) / 5) * 5),
              )
            },
          },
        ],
      },
    ]
  })

/** W03 contact parallel to the old switch: state unknown */
export const parallelToOldSwitch: Check = (site) =>
  site.channels.flatMap((channel): Finding[] => {
    const load = site.loads.find((candidate) => candidate.id === channel.load)
    if (!load?.parallelSwitch) return []
    return [
      {
        id: 'W03',
        severity: 'warning',
        title: 'State unknown',
        where: {
          thing: 'load',
          id: load.id,
          name: load.name,
          channel: channel.id,
          controller: channel.controller,
          role: `out:${channel.id}`,
          step: 'bench',
        },
        what: `The old switch of ${load.name} stays in parallel with the contact of ${channel.name}.`,
        why: 'Off means only that the relay is open: the load may still be on, and the screens ' + 'show it as off.',
        fixes: [
          {
            label: 'Wire the old switch to an input',
            change: (draft) => {
              draft.loads.find((l) => l.id === load.id)!.parallelSwitch = false
            },
          },
        ],
      },
    ]
  })

export const switchChecks: readonly Check[] = [
  missesQuickPresses,
  opensBySpike,
  worksNothing,
  parallelToOldSwitch,
  gestureDoesNotFit,
  bounceTooLong,
  longLead,
  noExternalSwitches,
]
