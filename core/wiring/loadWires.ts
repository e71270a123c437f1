import { moduleIn } from '../boards'
import { bleedOhms, bleedWatts, COIL_SNUBBER, loadAmps, ohms, snubberFor } from '../electrics'
import { readPinOn } from '../pins'
import { outputsOf, type Channel, type Load, type Relay } from '../site'
import type { NetClass, Terminal, WireWords } from './circuit'
import type { Growing } from './growing'
import type { MainsPoints } from './mainsWires'
import { relayName, type ContactAt } from './relayWires'
import type { Conductor } from './wireColours'

/** What hangs on the contacts: loads with their contactors, interlocks, capacitors and suppression. */

/** The two poles that a load's circuit hangs on, and the conductors that lead there. */
interface Poles {
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

interface Hung {
  readonly channel: Channel
  readonly load: Load
  readonly relays: readonly Relay[]
  readonly at: ContactAt
  readonly e: string
  readonly poles: Poles
}

/** A fail-safe strike is held by current: its contact is the one that is closed at rest. */
export const contactUsed = (channel: Channel): 'NO' | 'NC' =>
  channel.kind === 'pulsed' && channel.door?.lock === 'fail-safe' ? 'NC' : 'NO'

const STRIKE = 'normally closed: the strike is held locked by current, and the pulse lets go'

function mainsPoles(points: MainsPoints, load: Load): Poles {
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
function lowPoles({ build, feeds, ground }: Growing, load: Load, shared: Map<string, string>): Poles {
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

/** An RC across two terminals. */
function rc(
  { build }: Growing,
  words: string,
  [a, b]: readonly [Terminal, Terminal],
  { netClass, switchedBy, words: mains }: Poles,
  title: string,
): void {
  const z = build.device('Z', 'snubber', title, `snubber, ${words}`)
  const note = words
  build.wire([`across ${z} 1`, netClass], a, { ref: z, pin: '1' }, switchedBy, { ...mains, note })
  build.wire([`across ${z} 2`, netClass], b, { ref: z, pin: '2' }, switchedBy, mains)
}

/** Suppression of a load at one of its switched terminals: across the contact, across the load, or over a coil. */
function suppress(
  growing: Growing,
  { load, poles }: Hung,
  switched: Terminal,
  contact: readonly [Terminal, Terminal] | null,
): void {
  const { build, site } = growing
  const across = [switched, poles.back] as const
  if (load.suppression === 'snubber')
    rc(growing, snubberFor(loadAmps(site, load)).words, contact ?? across, poles, `snubber of ${load.name}`)
  if (load.suppression === 'varistor') {
    const volts = load.supply === 'mains' ? (site.mains.volts === 230 ? 275 : 150) : Math.ceil(load.volts * 1.5)
    const rv = build.device('RV', 'varistor', `across ${load.name}`, `varistor, ${volts} V AC`)
    build.wire([`across ${rv}`, poles.netClass], switched, { ref: rv, pin: '1' }, poles.switchedBy, poles.words)
    build.wire([`across ${rv}`, poles.netClass], poles.back, { ref: rv, pin: '2' }, poles.backBy, poles.words)
  }
  if (load.suppression === 'diode') {
    const v = build.device('V', 'diode', `across ${load.name}`, 'diode, 3 A, 100 V or more')
    build.wire([`across ${v}`, poles.netClass], switched, { ref: v, pin: 'K' }, poles.switchedBy, {
      ...poles.words,
      note: 'the ring towards +',
    })
    build.wire([`across ${v}`, poles.netClass], poles.back, { ref: v, pin: 'A' }, poles.backBy, poles.words)
  }
}

/** A contactor whose coil hangs where the load would; gives the terminal that is switched for the load. */
function contactor(growing: Growing, hung: Hung, profileId: string, switchedNet: string, coilFrom: Terminal): Terminal {
  const { build, site } = growing
  const { load, poles } = hung
  const profile = moduleIn(site, 'contactor', profileId)
  const coil =
    load.supply === 'mains' ? `coil ${site.mains.volts} V AC` : `coil ${load.volts} V ${load.current.toUpperCase()}`
  const km = build.device('KM', 'contactor', `for ${load.name}`, `${profile?.name ?? profileId}, ${coil}`)
  const a1 = { ref: km, pin: 'A1' }
  const a2 = { ref: km, pin: 'A2' }
  build.wire([`${switchedNet} coil`, poles.netClass], coilFrom, a1, poles.switchedBy, {
    ...poles.words,
    note: 'the relay works the coil only',
  })
  build.wire(poles.backNet, poles.back, a2, poles.backBy, poles.words)
  if (load.suppression === 'diode' && load.supply !== 'mains') {
    const v = build.device('V', 'diode', `across the coil of ${km}`, 'diode, 1 A, 100 V or more')
    build.wire(['', poles.netClass], a1, { ref: v, pin: 'K' }, poles.switchedBy, poles.words)
    build.wire(['', poles.netClass], a2, { ref: v, pin: 'A' }, poles.backBy, poles.words)
  } else if (load.suppression !== 'none') rc(growing, COIL_SNUBBER, [a1, a2], poles, `across the coil of ${km}`)
  build.wire(poles.fedNet, poles.fed, { ref: km, pin: '1' }, poles.fedBy, {
    ...poles.words,
    note: `${load.name}: its own wire from the fuse or breaker`,
  })
  return { ref: km, pin: '2' }
}

/** A capacitor in series with a regulator's contact, with the resistor that empties it. */
function seriesCapacitor(
  { build, site }: Growing,
  { poles }: Hung,
  net: string,
  from: Terminal,
  end: Terminal,
  microfarads: number,
  note: string,
): void {
  const volts = site.mains.volts
  const type = `capacitor, ${microfarads} µF, ${volts === 230 ? 440 : 250} V AC, motor run`
  const c = build.device('C', 'capacitor', `${microfarads} µF`, type, {
    notes: ['holds its charge: empty it before you touch it'],
  })
  const bleed = bleedOhms(microfarads, volts)
  const watts = Math.max(0.5, Math.ceil(bleedWatts(bleed, volts) * 4) / 2)
  const r = build.device(
    'R',
    'resistor',
    ohms(bleed),
    `resistor ${ohms(bleed)}, ${watts} W, ${volts === 230 ? 500 : 250} V, bleed`,
  )
  const { netClass, switchedBy, words } = poles
  build.wire([net, netClass], from, { ref: c, pin: '1' }, switchedBy, words)
  build.wire([net, netClass], { ref: c, pin: '1' }, { ref: r, pin: '1' }, switchedBy, {
    ...words,
    note: `${ohms(bleed)} bleed`,
  })
  build.wire([`switched motor of ${end.ref}`, netClass], end, { ref: c, pin: '2' }, switchedBy, { ...words, note })
  build.wire(['', netClass], { ref: c, pin: '2' }, { ref: r, pin: '2' }, switchedBy, words)
}

/** A load's terminal of an output, named as the output is; never one that the load has already. */
function endOf({ build }: Growing, { channel, poles, e }: Hung, relay: Relay): Terminal {
  const { words } = outputsOf(channel)[relay.contact]!
  const regulator = channel.kind === 'stepped' && channel.capacitors !== undefined
  if (regulator || !words) return { ref: e, pin: poles.pins[0] }
  const named = { ref: e, pin: words }
  const isFree = ![...poles.pins, 'PE'].includes(words) && build.netOf(named) === undefined
  return isFree ? named : { ref: e, pin: `${words} ${relay.contact + 1}` }
}

/** From one contact on to the load: through contactor or capacitor, to the load's terminal. */
function outlet(growing: Growing, hung: Hung, relay: Relay, from: Terminal, com: Terminal): void {
  const { build } = growing
  const { channel, load, poles } = hung
  const { netClass, switchedBy, words } = poles
  const net = `switched ${relayName(relay)}`
  const end = endOf(growing, hung, relay)
  const note = [`${load.name}, ${load.watts} W`, contactUsed(channel) === 'NC' ? STRIKE : ''].filter(Boolean).join('; ')
  if (load.contactor !== null) {
    const pole = contactor(growing, hung, load.contactor, net, from)
    build.wire([net, netClass], pole, end, switchedBy, { ...words, note })
    return
  }
  const capacitors = channel.kind === 'stepped' ? channel.capacitors : undefined
  const microfarads = capacitors?.[relay.contact] ?? null
  if (microfarads !== null) seriesCapacitor(growing, hung, net, from, end, microfarads, note)
  else if (capacitors)
    build.wire([`switched motor of ${end.ref}`, netClass], end, from, switchedBy, {
      ...words,
      note: `${note}; straight, past the capacitors`,
    })
  else build.wire([net, netClass], from, end, switchedBy, { ...words, note })
  suppress(growing, hung, from, channel.kind === 'paired' ? null : [com, from])
}

const INTERLOCK = 'interlock: it gets line only while the other relay rests, so both can never be live'

/** The contacts of a channel between the feed and the load. */
function contacts(growing: Growing, hung: Hung): void {
  const { build } = growing
  const { channel, relays, at, poles, load } = hung
  const use = contactUsed(channel)
  const [first, second] = relays
  const pair = channel.kind === 'paired' && first !== undefined && second !== undefined
  for (const relay of relays) {
    const com = at(relay, 'COM')
    if (pair && relay === second)
      build.wire([`through ${relayName(first)} at rest`, poles.netClass], at(first, 'NC'), com, poles.fedBy, {
        ...poles.words,
        note: INTERLOCK,
      })
    else
      build.wire(poles.fedNet, poles.fed, com, poles.fedBy, {
        ...poles.words,
        note: relay === first ? `${load.name}, ${load.watts} W` : '',
      })
    outlet(growing, hung, relay, at(relay, use), com)
  }
}

/** The other pole of the load, and its earth. */
function others({ build }: Growing, { poles, e }: Hung): void {
  build.wire(poles.backNet, poles.back, { ref: e, pin: poles.pins[1] }, poles.backBy, poles.words)
  if (poles.earth)
    build.wire(['PE', 'mains'], poles.earth, { ref: e, pin: 'PE' }, 'earth', {
      ...poles.words,
      note: 'as the load requires',
    })
}

/** What nobody has named stands there all the same, on the safe side: it may be mains. */
function unnamed({ build }: Growing, channel: Channel, relays: readonly Relay[], at: ContactAt): void {
  const title = `load of ${channel.name}, not named yet`
  const note = 'it may be mains: name it on the bench, and treat it as mains until then'
  const e = build.device('E', 'load', title, title, { notes: ['treat it as mains'] })
  build.under(`${e} ${title}`)
  for (const relay of relays) {
    const step = relays.length > 1 ? ` ${relay.contact + 1}` : ''
    build.wire([`feed of ${relayName(relay)}`, 'mains'], at(relay, 'COM'), { ref: e, pin: `its feed${step}` }, null, {
      mains: true,
      note,
    })
    build.wire(
      [`switched ${relayName(relay)}`, 'mains'],
      at(relay, contactUsed(channel)),
      { ref: e, pin: `its terminal${step}` },
      null,
      { mains: true, note },
    )
  }
}

const DRY = 'two wires across its button input, and no supply; measure there first: under 30 V, and no mains'

function dry({ build }: Growing, load: Load, relays: readonly Relay[], at: ContactAt): void {
  const e = build.device('E', 'load', load.name, `${load.name}, button input`, { notes: ['no supply of ours'] })
  build.under(`${e} ${load.name}`)
  for (const relay of relays) {
    const step = relays.length > 1 ? ` ${relayName(relay)}` : ''
    build.wire([`button of ${relayName(relay)} 1`, 'signal'], at(relay, 'COM'), { ref: e, pin: `1${step}` }, 'signal', {
      note: DRY,
    })
    build.wire(
      [`switched button of ${relayName(relay)}`, 'signal'],
      at(relay, 'NO'),
      { ref: e, pin: `2${step}` },
      'signal',
    )
  }
}

const notesOf = (channel: Channel): string[] =>
  channel.kind === 'paired' ? ['end switches set by hand before the first run'] : []

/** Wires the load of a channel; `shared`: supplies of low-voltage loads that are there already. */
export function wireLoad(
  growing: Growing,
  relays: readonly Relay[],
  at: ContactAt,
  load: Load | undefined,
  points: MainsPoints | null,
  shared: Map<string, string>,
): void {
  const { build } = growing
  const { channel } = relays[0]!
  if (!load) return unnamed(growing, channel, relays, at)
  if (load.supply === 'dry') return dry(growing, load, relays, at)
  const e = build.device('E', 'load', load.name, `${load.name}, ${load.watts} W`, { notes: notesOf(channel) })
  build.under(`${e} ${load.name}`)
  const poles = load.supply === 'mains' ? mainsPoles(points!, load) : lowPoles(growing, load, shared)
  const hung: Hung = { channel, load, relays, at, e, poles }
  contacts(growing, hung)
  others(growing, hung)
}

/** The printed output of a boxed board that a relay's pin works. */
function boxedOutput(growing: Growing, relay: Relay): Terminal {
  const { board, u, site, controller } = growing
  const outputs = board.boxed?.outputs ?? []
  const written = controller.pins[relay.role]?.pin
  const reading = written === undefined ? undefined : readPinOn(site, controller, written)
  const index = reading?.kind === 'spot' ? (board.boxed?.relays.indexOf(reading.spot.gpio) ?? -1) : -1
  return { ref: u, pin: outputs[index < 0 ? relay.relay - 1 : index] ?? `output ${relay.relay}` }
}

/** A load of a boxed board: the box switches the line inside, so only its terminals are wired. */
export function wireBoxedLoad(
  growing: Growing,
  relays: readonly Relay[],
  load: Load | undefined,
  points: MainsPoints,
): void {
  const { build } = growing
  const { channel } = relays[0]!
  const title = load?.name ?? `load of ${channel.name}, not named yet`
  const e = build.device('E', 'load', title, load ? `${title}, ${load.watts} W` : title)
  build.under(`${e} ${title}`)
  const note = load ? `${title}, ${load.watts} W` : 'name it on the bench, and treat it as mains until then'
  for (const relay of relays) {
    const { words } = outputsOf(channel)[relay.contact]!
    const to = { ref: e, pin: words || 'L' }
    build.wire([`switched ${relayName(relay)}`, 'mains'], boxedOutput(growing, relay), to, 'switched', {
      mains: true,
      note,
    })
  }
  build.wire(['N', 'mains'], points.neutral, { ref: e, pin: 'N' }, 'neutral', { mains: true })
  build.wire(['PE', 'mains'], points.earth, { ref: e, pin: 'PE' }, 'earth', {
    mains: true,
    note: 'as the load requires',
  })
}
