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
  const [fed, back] = right ? [line, neutral] : [neutral, line]
  return {
    fed: fed.at,
    fedNet: fed.net,
    fedBy: fed.by,
    back: back.at,
    backNet: back.net,
    backBy: back.by,
    switchedBy: 'switched',
    earth: points.earth,
    pins: right ? ['L', 'N'] : ['N', 'L'],
    words: { mains: true },
    netClass: 'mains',
  }
}

/** The supply of a low-voltage load; one that several name alike is made once. */
export function lowPoles({ build, feeds, ground }: Growing, load: Load, shared: Map<string, string>): Poles {
  const ac = load.current === 'ac'
  const pins = ac ? (['~1', '~2'] as const) : (['+', '−'] as const)
  const common = { switchedBy: 'load-plus', earth: null, pins, words: {}, netClass: 'supply' } as const
  const by = { fedBy: 'load-plus', backBy: 'load-minus' } as const
  if (load.feed.from === 'controller') {
    const { source } = feeds
    return {
      ...common,
      ...by,
      fed: source.at,
      fedNet: [source.net, 'supply'],
      back: ground,
      backNet: ['GND', 'ground'],
      backBy: 'ground',
    }
  }
  const name = load.feed.from === 'shared' ? load.feed.name : `supply of ${load.name}`
  const type = `supply, ${load.volts} V ${load.current.toUpperCase()}, isolated from the controller`
  const made = load.feed.from === 'shared' ? shared.get(name) : undefined
  const g =
    made ??
    build.device('G', 'supply', name, type, {
      notes: [`${load.volts} V ${load.current.toUpperCase()}, not joined to the board’s ground`],
    })
  if (load.feed.from === 'shared') shared.set(name, g)
  return {
    ...common,
    ...by,
    fed: { ref: g, pin: pins[0] },
    fedNet: [`${g} ${pins[0]}`, 'supply'],
    back: { ref: g, pin: pins[1] },
    backNet: [`${g} ${pins[1]}`, 'supply'],
  }
}
