import { boardIn } from '../boards'
import { conductorAmps, conductorSize, countsConductors, feedVerdict, figure, fillOf, touchesMains } from '../electrics'
import { loadOf, relaysOn, type Controller, type MainsFeed, type Relay, type Site } from '../site'
import { controllerPlace, type Check, type Finding, type Fix, type Where } from './finding'

/**
 * What protects the mains side, what its wire stands, and what must not lie beside it. Cautions: local code decides.
 */

const place = (controller: Controller): Where => ({ ...controllerPlace(controller), step: 'bench' })

const changeFeed =
  ({ id }: Controller, change: (feed: MainsFeed) => void) =>
  (draft: Site) => {
    const { mains } = draft.controllers.find((c) => c.id === id)!
    if (mains) change(mains)
  }

/** A usual circuit of the region (common practice). */
export const usualFeed = (site: Site): MainsFeed => ({
  ...(site.mains.volts === 230
    ? { breakerAmps: 16, conductor: { by: 'area', squareMillimetres: 1.5 } }
    : { breakerAmps: 15, conductor: { by: 'awg', awg: 14 } }),
  residualCurrent: 'fitted',
  fuseAmps: null,
})

/** L11 nobody said what protects the mains side */
export const protectionNotSaid: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    if (controller.mains || !touchesMains(site, controller)) return []
    const usual = usualFeed(site)
    return [
      {
        id: 'L11',
        severity: 'warning',
        title: 'Mains protection not entered',
        where: place(controller),
        what: `Breaker, wire and residual-current device of ${controller.name} are not entered.`,
        why: 'The sum of its loads and its wire cannot be checked, and the sheets leave them out.',
        fixes: [
          {
            label: `${usual.breakerAmps} A, ${conductorSize(usual.conductor)}, residual-current device`,
            change: (draft) => {
              draft.controllers.find((c) => c.id === controller.id)!.mains = usual
            },
          },
        ],
      },
    ]
  })

/** L12 all mains loads together against breaker and fuse */
export const loadsTogether: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const { mains } = controller
    if (!mains) return []
    const { amps } = feedVerdict(site, controller)
    const limit = Math.min(mains.breakerAmps, mains.fuseAmps ?? Number.POSITIVE_INFINITY)
    if (amps <= limit) return []
    return [
      {
        id: 'L12',
        severity: 'error',
        title: 'Loads exceed the breaker',
        where: place(controller),
        what:
          `All mains loads of ${controller.name} together take ${figure(amps)} A; its ` +
          `${limit === mains.breakerAmps ? 'breaker' : 'fuse'} allows ${limit} A.`,
        why: 'It trips with everything on; if it does not, wire and terminals run hot for hours.',
        fixes: [],
      },
    ]
  })

/** L10 wire to breaker, as a caution */
export const wireToBreaker: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const { mains } = controller
    const may = mains && conductorAmps(mains.conductor)
    if (!mains || may === null || mains.breakerAmps <= may) return []
    const source = mains.conductor.by === 'awg' ? 'NEC 310.16 and 240.4(D)' : 'IEC 60364-5-52, method B2'
    return [
      {
        id: 'L10',
        severity: 'danger',
        title: 'Wire too thin for its breaker',
        where: place(controller),
        what:
          `${conductorSize(mains.conductor)} carries ${figure(may)} A at most (${source}; local code decides); it is behind a ` +
          `${mains.breakerAmps} A breaker.`,
        why: 'The breaker does not protect the wire: it burns before the breaker trips.',
        fixes: [
          {
            label: `Set the breaker: ${Math.floor(may)} A`,
            change: changeFeed(controller, (feed) => {
              feed.breakerAmps = Math.floor(may)
            }),
          },
        ],
      },
    ]
  })

/** L13 no residual-current device, or nobody knows */
export const noResidualCurrent: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const { mains } = controller
    if (!mains || mains.residualCurrent === 'fitted' || !touchesMains(site, controller)) return []
    const unknown = mains.residualCurrent === 'unknown'
    const fitted: Fix = {
      label: 'Set: residual-current device fitted',
      change: changeFeed(controller, (feed) => {
        feed.residualCurrent = 'fitted'
      }),
    }
    return [
      {
        id: 'L13',
        severity: unknown ? 'note' : 'warning',
        title: unknown ? 'Residual-current device not entered' : 'No residual-current device',
        where: place(controller),
        what: unknown
          ? `It is not entered whether a residual-current device (ground-fault interrupter) protects ${controller.name}.`
          : `No residual-current device (ground-fault interrupter) protects ${controller.name}.`,
        why: 'A breaker protects the wire, not people: some tens of milliamperes kill and do not trip it.',
        fixes: [fitted],
      },
    ]
  })

type Side = 'mains' | 'low'
const sideOf = (site: Site, { channel }: Relay): Side | null => {
  const load = loadOf(site, channel.load)
  return load ? (load.supply === 'mains' ? 'mains' : 'low') : null
}

/** A free place for a channel's relays with an empty relay between it and the others. */
function freePlace(site: Site, controller: Controller, group: readonly Relay[]): number | null {
  const ways = controller.module?.ways ?? 0
  const others = relaysOn(site, controller.id).filter(({ channel }) => channel.id !== group[0]!.channel.id)
  const opposite = others.filter((one) => sideOf(site, one) !== sideOf(site, group[0]!)).map(({ relay }) => relay)
  const taken = new Set(others.map(({ relay }) => relay))
  for (let first = 1; first + group.length - 1 <= ways; first++) {
    const places = group.map((_, index) => first + index)
    if (places.every((at) => !taken.has(at) && !opposite.includes(at - 1) && !opposite.includes(at + 1))) return first
  }
  return null
}

/** L16 mains and extra-low voltage on neighbouring relays of one module */
export const neighbours: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    if (!controller.module || boardIn(site, controller.board)?.boxed) return []
    const relays = [...relaysOn(site, controller.id)].sort((a, b) => a.relay - b.relay)
    const meets = relays.flatMap((one, i): (readonly [Relay, Relay])[] => {
      const next = relays[i + 1]
      if (!next || next.relay !== one.relay + 1) return []
      const [a, b] = [sideOf(site, one), sideOf(site, next)]
      return a !== null && b !== null && a !== b ? [[one, next]] : []
    })
    return meets.map(([one, next]) => neighbour(site, controller, one, next))
  })

function neighbour(site: Site, controller: Controller, one: Relay, next: Relay): Finding {
  const low = sideOf(site, one) === 'low' ? one : next
  const group = relaysOn(site, controller.id).filter(({ channel }) => channel.id === low.channel.id)
  const free = freePlace(site, controller, group)
  const { name, id } = low.channel
  return {
    id: 'L16',
    severity: 'danger',
    title: 'Mains next to low voltage',
    where: { ...place(controller), channel: id, role: low.role },
    what:
      `K${one.relay} and K${next.relay} of ${controller.name} are neighbours: one switches mains, the other ` +
      'extra-low voltage.',
    why:
      'The terminals of neighbouring relays are a few millimetres apart: a strand, a drop of water or a slipped ' +
      'screwdriver puts mains on what people touch.',
    fixes:
      free === null
        ? []
        : [
            {
              label: `Move ${name} to K${free}, with an empty relay between`,
              change: (draft) => {
                const target = draft.channels.find((channel) => channel.id === id)
                // what nobody has said stays where it is now
                const now = relaysOn(draft, controller.id)
                for (const channel of draft.channels)
                  if (channel.controller === controller.id)
                    channel.relay ??= now.find((relay) => relay.channel.id === channel.id)!.relay
                if (target) target.relay = free
              },
            },
          ],
  }
}

/** L09 enclosure fill */
export const enclosureFill: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const fill = controller.enclosure && fillOf(site, controller.enclosure)
    if (!fill || fill.fits) return []
    return [
      {
        id: 'L09',
        severity: 'error',
        title: 'Box too full',
        where: place(controller),
        what: `${fill.calculations[0]!.formula} (${countsConductors(site) ? 'NEC 314.16(B)' : 'common practice'}).`,
        why: 'Conductors are crushed and heat cannot escape. Elsewhere local code counts differently.',
        fixes: [],
      },
    ]
  })

export const mainsChecks: readonly Check[] = [
  protectionNotSaid,
  loadsTogether,
  wireToBreaker,
  noResidualCurrent,
  neighbours,
  enclosureFill,
]
