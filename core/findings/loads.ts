import { boxFill, contactVerdict, figure, loadAmps, snubberFor, wireCaution } from '../electrics'
import { limitOf, loadOf, outputRoles, type Channel, type Controller, type Load, type Site } from '../site'
import type { Check, Finding, Where } from './finding'

interface Loaded {
  readonly channel: Channel
  readonly load: Load
  readonly verdict: NonNullable<ReturnType<typeof contactVerdict>> | undefined
}

const loaded = (site: Site): Loaded[] =>
  site.channels.flatMap((channel) => {
    const load = loadOf(site, channel.load)
    return load
      ? [
          {
            channel,
            load,
            verdict: contactVerdict(
              site,
              channel,
              site.controllers.find((c) => c.id === channel.controller)?.module ?? null,
            ),
          },
        ]
      : []
  })

const atLoad = ({ channel, load }: Loaded): Where => ({
  thing: 'load',
  id: load.id,
  name: load.name,
  channel: channel.id,
  controller: channel.controller,
  role: outputRoles(channel)[0]!,
  step: 'bench',
})

const changeLoad = (load: Load, change: (load: Load) => void) => (draft: Site) =>
  change(draft.loads.find((l) => l.id === load.id)!)

const withContactor = ({ load }: Loaded) => ({
  label: 'Put a contactor between',
  change: changeLoad(load, (l) => {
    l.contactor = true
  }),
})

/** L01 contact rating and category */
export const contactRating: Check = (site) =>
  loaded(site).flatMap((one): Finding[] => {
    const { verdict, load } = one
    if (!verdict || load.contactor || verdict.amps <= verdict.mayAmps) return []
    return [
      {
        id: 'L01',
        severity: 'danger',
        title: 'contact overloaded',
        where: atLoad(one),
        what:
          `${load.name} takes ${figure(verdict.amps)} A (${verdict.category}); the contact may carry ` +
          `${figure(verdict.mayAmps)} A of that kind.`,
        why: 'An overloaded contact overheats, welds shut, or burns.',
        fixes: [withContactor(one)],
      },
    ]
  })

/** L02 inrush */
export const inrush: Check = (site) =>
  loaded(site).flatMap((one): Finding[] => {
    const { verdict, load } = one
    if (!verdict || load.contactor || verdict.inrushFits || verdict.amps > verdict.mayAmps) return []
    return [
      {
        id: 'L02',
        severity: 'warning',
        title: 'inrush welds the contact',
        where: atLoad(one),
        what: `${load.name} draws about ${figure(verdict.inrushAmps)} A when it is switched on (${verdict.category}).`,
        why: 'Sooner or later the contact stays closed.',
        fixes: [withContactor(one)],
      },
    ]
  })

/** L03 continuous over 80 % (NEC 210.20(A)) */
export const continuousLoad: Check = (site) =>
  loaded(site).flatMap((one): Finding[] => {
    const { verdict, load } = one
    if (!verdict || load.contactor || !load.continuous || verdict.amps > verdict.mayAmps || verdict.used <= 1) return []
    return [
      {
        id: 'L03',
        severity: 'warning',
        title: 'continuous load over 80 %',
        where: atLoad(one),
        what:
          `${load.name} takes ${figure(verdict.amps)} A for hours: counted at 125 % it is ` +
          `${figure(verdict.used * 100)} % of the contact's ${figure(verdict.mayAmps)} A.`,
        why: 'Contacts and terminals run hot for hours.',
        fixes: [withContactor(one)],
      },
    ]
  })

/** L05 load type unknown */
export const unknownLoad: Check = (site) =>
  loaded(site)
    .filter(({ load }) => load.type === 'unknown')
    .map((one) => ({
      id: 'L05',
      severity: 'note',
      title: 'load not known',
      where: atLoad(one),
      what: `What ${one.load.name} is, is not said: inrush and category are taken as the worst.`,
      why: 'A contact can only be judged for a known load.',
      fixes: [
        {
          label: 'It is an LED lamp',
          change: changeLoad(one.load, (l) => {
            l.type = 'led'
          }),
        },
        {
          label: 'It is a motor',
          change: changeLoad(one.load, (l) => {
            l.type = 'motor'
          }),
        },
      ],
    }))

/** L07 motor or transformer without suppression */
export const noSuppression: Check = (site) =>
  loaded(site).flatMap((one): Finding[] => {
    const { load } = one
    if (load.type !== 'motor' || load.suppression !== 'none' || load.contactor) return []
    const snubber = snubberFor(loadAmps(site, load))
    return [
      {
        id: 'L07',
        severity: 'warning',
        title: 'motor without suppression',
        where: atLoad(one),
        what:
          `${load.name} is switched without a snubber. Begin with ` +
          `${load.supply === 'mains' ? snubber.words : 'a diode across it'} (common practice).`,
        why: 'Each switching off draws an arc: the contact wears and the board may reset.',
        fixes: [
          {
            label: load.supply === 'mains' ? 'I fit the snubber' : 'I fit the diode',
            change: changeLoad(load, (l) => {
              l.suppression = l.supply === 'mains' ? 'snubber' : 'diode'
            }),
          },
        ],
      },
    ]
  })

/** L08 two supplies meeting in one box */
export const twoSupplies: Check = (site) =>
  loaded(site)
    .filter(({ load }) => load.sharesBox)
    .map((one) => ({
      id: 'L08',
      severity: 'danger',
      title: 'two supplies in one box',
      where: atLoad(one),
      what: `The conductors of ${one.load.name} share a box with another supply's, without a barrier.`,
      why: 'With one supply off the other is still live: whoever proved the first dead touches the second.',
      fixes: [
        {
          label: 'They are parted by a barrier',
          change: changeLoad(one.load, (l) => {
            l.sharesBox = false
          }),
        },
      ],
    }))

const atEnclosure = ({ id, name }: Controller): Where => ({
  thing: 'controller',
  id,
  name,
  controller: id,
  step: 'bench',
})

/** L09 enclosure fill */
export const enclosureFill: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const fill = controller.enclosure && boxFill(controller.enclosure)
    if (!fill || fill.fits) return []
    return [
      {
        id: 'L09',
        severity: 'error',
        title: 'box too full',
        where: atEnclosure(controller),
        what: `${fill.calculations[0]!.formula} (NEC 314.16(B)).`,
        why: 'Conductors are crushed and heat cannot leave. Elsewhere local code counts differently.',
        fixes: [],
      },
    ]
  })

/** L10 wire to breaker, as a caution */
export const wireToBreaker: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const caution = controller.enclosure && wireCaution(controller.enclosure)
    if (!caution) return []
    return [
      {
        id: 'L10',
        severity: 'warning',
        title: 'wire thin for its breaker',
        where: atEnclosure(controller),
        what: `${caution}.`,
        why: 'The breaker does not protect the wire.',
        fixes: [],
      },
    ]
  })

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
        where: {
          thing: 'load' as const,
          id: load.id,
          name: load.name,
          channel: channel.id,
          controller: channel.controller,
          step: 'bench' as const,
        },
        what: `${channel.name} switches the neutral of ${load.name} (${load.watts} W, ${site.mains.volts} V).`,
        why: 'With the relay open the load still stands at line voltage: whoever changes the lamp touches it.',
        fixes: [
          {
            label: 'Switch the line',
            change: (draft) => {
              draft.loads.find((l) => l.id === load.id)!.contact = 'line'
            },
          },
        ],
      },
    ]
  })

/** L06 heater with no time limit */
export const heaterWithoutLimit: Check = (site) =>
  site.channels.flatMap((channel) => {
    const load = loadOf(site, channel.load)
    if (load?.type !== 'heater' || limitOf(channel) !== null) return []
    return [
      {
        id: 'L06',
        severity: 'warning' as const,
        title: 'heater without a time limit',
        where: {
          thing: 'channel' as const,
          id: channel.id,
          name: channel.name,
          channel: channel.id,
          controller: channel.controller,
          step: 'bench' as const,
        },
        what: `${channel.name} heats with ${load.watts} W and nothing ends it but a command.`,
        why:
          'A lost command, a dead app or a forgetful evening leaves it on. A thermal cut-out of its own is ' +
          'needed all the same.',
        fixes: [
          {
            label: 'Off by itself after 60 min',
            change: (draft) => {
              const target = draft.channels.find((c) => c.id === channel.id)!
              if ('maxOnMs' in target) target.maxOnMs = 3_600_000
            },
          },
        ],
      },
    ]
  })

export const loadChecks: readonly Check[] = [
  contactRating,
  inrush,
  continuousLoad,
  neutralSwitched,
  unknownLoad,
  heaterWithoutLimit,
  noSuppression,
  twoSupplies,
  enclosureFill,
  wireToBreaker,
]
