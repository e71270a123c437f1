import { FIRST_TOLD_GPIO, moduleIn } from '../boards'
import { bleedOhms, bleedWatts, ohms } from '../electrics'
import { readPinOn } from '../pins'
import { outputsOf, type Channel, type Load, type Relay } from '../site'
import type { Terminal } from './circuit'
import type { Growing } from './growing'
import type { MainsPoints } from './mainsWires'
import { lowPoles, mainsPoles, type Poles } from './poles'
import { relayName, type ContactAt } from './relayWires'
import { suppress, suppressCoil } from './suppression'

/** What hangs on the contacts: loads with their contactors, interlocks, capacitors and suppression. */

type Net = Poles['fedNet']

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
  const [coilBack, coilNet, coilBy] = poles.coilBack
  build.wire(coilNet, coilBack, a2, coilBy, poles.words)
  suppressCoil(growing, load, poles, a1, a2, km)
  build.wire(poles.fedNet, poles.fed, { ref: km, pin: '1' }, poles.fedBy, {
    ...poles.words,
    note: `${load.name}: its own wire from the fuse or breaker`,
  })
  if (!load.acrossLines) return { ref: km, pin: '2' }
  // both lines go through it, or the load stands at mains while it is off
  const words = { ...poles.words, note: `${load.name}: the other line` }
  build.wire(poles.backNet, poles.back, { ref: km, pin: '3' }, poles.backBy, words)
  build.wire(
    [`${switchedNet} 2`, poles.netClass],
    { ref: km, pin: '4' },
    { ref: hung.e, pin: poles.pins[1] },
    'switched',
    words,
  )
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
  suppress(growing, load, poles, from, channel.kind === 'paired' ? null : com)
  if (load.parallelSwitch) oldSwitch(growing, hung, [net, netClass], from, com)
}

/** The switch that was there before, beside the contact: it works the load with the controller off, or dead. */
function oldSwitch({ build }: Growing, { load, poles }: Hung, net: Net, from: Terminal, com: Terminal): void {
  const s = build.device('S', 'switch', `old switch of ${load.name}`, 'switch, as it was in the wall', {
    notes: ['in parallel with the contact: the state of the load is unknown'],
  })
  const note = 'in parallel with the contact: live even with the relay off; prove it dead'
  build.wire(poles.fedNet, com, { ref: s, pin: '1' }, poles.fedBy, { ...poles.words, note })
  build.wire(net, from, { ref: s, pin: '2' }, poles.switchedBy, { ...poles.words, note })
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
function others({ build }: Growing, { poles, e, load }: Hung): void {
  if (!(load.acrossLines && load.contactor !== null))
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

/** What stands already: supplies of low-voltage loads by their names, and loads that hang on another channel too. */
export interface Place {
  readonly supplies: Map<string, string>
  readonly loads: Map<string, Pick<Hung, 'e' | 'poles'>>
}

/** Wires the load of a channel. One that another channel switches as well is one thing, with contacts side by side. */
export function wireLoad(
  growing: Growing,
  relays: readonly Relay[],
  at: ContactAt,
  load: Load | undefined,
  points: MainsPoints | null,
  standing: Place,
): void {
  const { build } = growing
  const { channel } = relays[0]!
  if (!load) return unnamed(growing, channel, relays, at)
  if (load.supply === 'dry') return dry(growing, load, relays, at)
  const there = standing.loads.get(load.id)
  const e =
    there?.e ?? build.device('E', 'load', load.name, `${load.name}, ${load.watts} W`, { notes: notesOf(channel) })
  build.under(`${e} ${load.name}`)
  const fedBy = load.feed.from === 'load' ? (standing.loads.get(load.feed.load)?.e ?? null) : null
  const poles =
    there?.poles ??
    (load.supply === 'mains' ? mainsPoles(points!, load) : lowPoles(growing, load, standing.supplies, fedBy))
  standing.loads.set(load.id, { e, poles })
  const hung: Hung = { channel, load, relays, at, e, poles }
  contacts(growing, hung)
  if (!there) others(growing, hung)
}

/** The printed output of a boxed board that a relay's pin works. */
function boxedOutput(growing: Growing, relay: Relay): Terminal {
  const { board, u, site, controller } = growing
  const outputs = board.boxed?.outputs ?? []
  const written = controller.pins[relay.role]?.pin
  const reading = written === undefined ? undefined : readPinOn(site, controller, written)
  const gpio = reading?.kind === 'spot' ? reading.spot.gpio : -1
  const index = gpio >= FIRST_TOLD_GPIO ? gpio - FIRST_TOLD_GPIO : (board.boxed?.relays.indexOf(gpio) ?? -1)
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
  // its outputs give line: what is not for mains is not wired there at all (finding L21)
  if (load && load.supply !== 'mains') return
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
