import type { Load } from '../site'
import type { NetClass, Terminal, WireWords } from './circuit'
import type { Growing } from './growing'
import type { MainsPoints } from './mainsWires'
import type { Conductor } from './wireColours'

/** The two poles that a load's circuit hangs on, and the conductors that lead there. */
export interface Poles {
  readonly fed: Terminal
  readonly fedNet: readonly [string, NetClass]
  readonly fedBy: Conductor
  readonly back: Terminal
  readonly backNet: readonly [string, NetClass]
  readonly backBy: Conductor
  readonly switchedBy: Conductor
  /** where the coil of a contactor returns: to neutral, whatever its load hangs on */
  readonly coilBack: readonly [at: Terminal, net: readonly [string, NetClass], by: Conductor]
  readonly earth: Terminal | null
  /** pins of the load: behind the contact, and at the other pole */
  readonly pins: readonly [string, string]
  readonly words: WireWords
  readonly netClass: NetClass
}

export function mainsPoles(points: MainsPoints, load: Load): Poles {
  const right = load.contact === 'line'
  const line = { at: points.line, net: [points.lineNet, 'mains'] as const, by: 'line' as const }
  const neutral = { at: points.neutral, net: ['N', 'mains'] as const, by: 'neutral' as const }
  const other = points.second && { at: points.second, net: ['L2', 'mains'] as const, by: 'line' as const }
  const across = load.acrossLines && other ? other : null
  const [fed, back] = across ? [line, across] : right ? [line, neutral] : [neutral, line]
  return {
    fed: fed.at,
    fedNet: fed.net,
    fedBy: fed.by,
    back: back.at,
    backNet: back.net,
    backBy: back.by,
    switchedBy: 'switched',
    coilBack: across ? [neutral.at, neutral.net, neutral.by] : [back.at, back.net, back.by],
    earth: points.earth,
    pins: across ? ['L1', 'L2'] : right ? ['L', 'N'] : ['N', 'L'],
    words: { mains: true },
    netClass: 'mains',
  }
}

type Pair = readonly [string, string]

/** Poles that hang on a supply of two terminals, named as they are printed at it. */
const polesOf = (pins: Pair, ref: string, prefix: string): Poles => ({
  ...lowPair(pins),
  fed: { ref, pin: `${prefix}${pins[0]}` },
  fedNet: [`${ref} ${prefix}${pins[0]}`, 'supply'],
  back: { ref, pin: `${prefix}${pins[1]}` },
  backNet: [`${ref} ${prefix}${pins[1]}`, 'supply'],
  coilBack: [{ ref, pin: `${prefix}${pins[1]}` }, [`${ref} ${prefix}${pins[1]}`, 'supply'], 'load-minus'],
})

const lowPair = (pins: Pair) =>
  ({
    switchedBy: 'load-plus',
    earth: null,
    pins,
    words: {},
    netClass: 'supply',
    fedBy: 'load-plus',
    backBy: 'load-minus',
  }) as const

/**
 * The supply of a low-voltage load; one that several name alike is made once. `fedBy`: the thing that another channel
 * switches, and that gives it power.
 */
export function lowPoles(
  { build, feeds, ground }: Growing,
  load: Load,
  shared: Map<string, string>,
  fedBy: string | null,
): Poles {
  const pins: Pair = load.current === 'ac' ? ['~1', '~2'] : ['+', '−']
  if (load.feed.from === 'controller') {
    const { source } = feeds
    return {
      ...lowPair(pins),
      fed: source.at,
      fedNet: [source.net, 'supply'],
      back: ground,
      backNet: ['GND', 'ground'],
      backBy: 'ground',
      coilBack: [ground, ['GND', 'ground'], 'ground'],
    }
  }
  if (fedBy !== null) return polesOf(pins, fedBy, 'out ')
  const name = load.feed.from === 'shared' ? load.feed.name : `supply of ${load.name}`
  const type = `supply, ${load.volts} V ${load.current.toUpperCase()}, isolated from the controller`
  const made = load.feed.from === 'shared' ? shared.get(name) : undefined
  const g =
    made ??
    build.device('G', 'supply', name, type, {
      notes: [`${load.volts} V ${load.current.toUpperCase()}, not joined to the board’s ground`],
    })
  if (load.feed.from === 'shared') shared.set(name, g)
  return polesOf(pins, g, '')
}
