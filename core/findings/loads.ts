import { CONTACTORS, type ContactorProfile } from '../boards'
import {
  contactorThatFits,
  contactRatingOf,
  contactVerdict,
  DC_ARC_VOLTS,
  figure,
  inSentence,
  loadAmps,
  loadVolts,
  SILVER_MILLIAMPS,
  snubberFor,
  snubberLeak,
  suppressionFor,
  type ContactVerdict,
} from '../electrics'
import { limitOf, loadOf, outputRoles, type Channel, type Load, type Site } from '../site'
import { channelPlace, type Check, type Finding, type Fix, type Where } from './finding'

/** Loads against the contacts that they hang on: currents, inrush, volts, suppression. */

interface Loaded {
  readonly channel: Channel
  readonly load: Load
  readonly verdict: ContactVerdict | undefined
}

const loaded = (site: Site): Loaded[] =>
  site.channels.flatMap((channel) => {
    const load = loadOf(site, channel.load)
    return load ? [{ channel, load, verdict: contactVerdict(site, channel) }] : []
  })

type LoadCheck = (site: Site, all: readonly Loaded[]) => Finding[]

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

const takeContactor = (load: Load, profile: ContactorProfile, label: string): Fix => ({
  label,
  change: changeLoad(load, (l) => {
    l.contactor = profile.id
  }),
})

/** A contactor that carries the load, where one does; it takes mains and alternating current. */
function withContactor(site: Site, { load }: Loaded): Fix[] {
  const fits =
    load.supply === 'mains' && load.contactor === null ? contactorThatFits(site, load, CONTACTORS) : undefined
  return fits ? [takeContactor(load, fits, 'Fit a contactor')] : []
}

/** What hangs on the contact, as a sentence begins with it. */
const hangs = ({ load, verdict }: Loaded): string => (verdict?.contactor ? `The contactor of ${load.name}` : load.name)

/** L01 contact rating and category */
const contactRating: LoadCheck = (site, all) =>
  all.flatMap((one): Finding[] => {
    const { verdict } = one
    if (!verdict || verdict.amps <= verdict.mayAmps) return []
    return [
      {
        id: 'L01',
        severity: 'danger',
        title: 'Contact overloaded',
        where: atLoad(one),
        what:
          `${hangs(one)} takes ${figure(verdict.amps)} A (${verdict.category}); the contact may carry ` +
          `${figure(verdict.mayAmps)} A of that kind.`,
        why: 'An overloaded contact overheats, welds shut, or burns.',
        fixes: withContactor(site, one),
      },
    ]
  })

/** L02 inrush */
const inrush: LoadCheck = (site, all) =>
  all.flatMap((one): Finding[] => {
    const { verdict } = one
    if (!verdict || verdict.inrushFits || verdict.amps > verdict.mayAmps) return []
    return [
      {
        id: 'L02',
        severity: 'warning',
        title: 'Inrush may weld the contact',
        where: atLoad(one),
        what: `${hangs(one)} draws about ${figure(verdict.inrushAmps)} A when it is switched on (${verdict.category}).`,
        why: 'Sooner or later the contact welds and stays closed.',
        fixes: withContactor(site, one),
      },
    ]
  })

/** L03 continuous over 80 % (NEC 210.20(A)) */
const continuousLoad: LoadCheck = (site, all) =>
  all.flatMap((one): Finding[] => {
    const { verdict, load } = one
    if (!verdict || verdict.contactor || !load.continuous || verdict.amps > verdict.mayAmps || verdict.used <= 1)
      return []
    return [
      {
        id: 'L03',
        severity: 'warning',
        title: 'Continuous load over 80 %',
        where: atLoad(one),
        what:
          `${load.name} takes ${figure(verdict.amps)} A for hours: counted at 125 % it is ` +
          `${figure(verdict.used * 100)} % of the contact's ${figure(verdict.mayAmps)} A.`,
        why: 'Contacts and terminals run hot for hours.',
        fixes: withContactor(site, one),
      },
    ]
  })

/** L17 the load on the contactor, which is what carries it */
const contactorRating: LoadCheck = (site, all) =>
  all.flatMap((one): Finding[] => {
    const { load, verdict } = one
    const contactor = verdict?.contactor
    if (!contactor || contactor.used <= 1) return []
    const bigger = contactorThatFits(site, load, CONTACTORS)
    return [
      {
        id: 'L17',
        severity: 'danger',
        title: 'Contactor overloaded',
        where: atLoad(one),
        what:
          `${load.name} takes ${figure(contactor.amps)} A${load.continuous ? ', at 125 % since it is on for hours' : ''}; ` +
          `${inSentence(contactor.name)}, may carry ${figure(contactor.mayAmps)} A of that kind.`,
        why: 'Its contacts overheat, weld shut, or burn: nothing switches the load off then.',
        fixes: bigger ? [takeContactor(load, bigger, `Use the ${inSentence(bigger.name)}`)] : [],
      },
    ]
  })

/** L05 load type unknown */
const unknownLoad: LoadCheck = (_, all) =>
  all
    .filter(({ load }) => load.type === 'unknown' && load.supply !== 'dry')
    .map((one) => ({
      id: 'L05',
      severity: 'note',
      title: 'Load type unknown',
      where: atLoad(one),
      what: `The type of ${one.load.name} is unknown: the worst inrush and category are assumed.`,
      why: 'A contact can only be checked for a known load.',
      fixes: [
        {
          label: 'Set type: LED lamp',
          change: changeLoad(one.load, (l) => {
            l.type = 'led'
          }),
        },
        {
          label: 'Set type: motor',
          change: changeLoad(one.load, (l) => {
            l.type = 'motor'
          }),
        },
      ],
    }))

/** L07 motor, coil or strike without suppression */
const noSuppression: LoadCheck = (site, all) =>
  all.flatMap((one): Finding[] => {
    const { load, channel } = one
    const wanted = load.type === 'unknown' ? null : suppressionFor(site, channel, load)
    if (!wanted || load.suppression !== 'none') return []
    const title = load.contactor !== null ? 'Contactor coil' : load.type === 'motor' ? 'Motor' : 'Coil'
    return [
      {
        id: 'L07',
        severity: 'warning',
        title: `${title} without suppression`,
        where: atLoad(one),
        what:
          `${hangs(one)} is switched without ${wanted.kind === 'snubber' ? 'a snubber' : 'a diode'}. Start with ` +
          `${wanted.words} (common practice).`,
        why: 'Each switch-off draws an arc: the contact wears and the board may reset.',
        fixes: [
          {
            label: wanted.kind === 'snubber' ? 'Fit the snubber' : 'Fit the diode',
            change: changeLoad(load, (l) => {
              l.suppression = wanted.kind
            }),
          },
        ],
      },
    ]
  })

/** L18 suppression of the wrong kind: an RC at direct current does little, a diode at alternating current is a short */
const wrongSuppression: LoadCheck = (site, all) =>
  all.flatMap((one): Finding[] => {
    const { load } = one
    if (load.supply === 'dry' || load.suppression === 'none' || load.suppression === 'varistor') return []
    const direct = load.supply === 'low-voltage' && load.current === 'dc'
    const wanted = direct ? 'diode' : 'snubber'
    if (load.suppression === wanted) return []
    return [
      {
        id: 'L18',
        severity: direct ? 'warning' : 'danger',
        title: direct ? 'Snubber on direct current' : 'Diode on alternating current',
        where: atLoad(one),
        what: `${load.name} is at ${loadVolts(site, load)} V ${direct ? 'DC' : 'AC'} with a ${load.suppression} fitted.`,
        why: direct
          ? 'An RC snubber leaves most of the voltage spike of a coil; a diode removes it.'
          : 'A diode shorts every other half wave: it bursts, and the breaker may trip.',
        fixes: [
          {
            label: direct ? 'Fit a diode instead' : 'Fit a snubber instead',
            change: changeLoad(load, (l) => {
              l.suppression = wanted
            }),
          },
        ],
      },
    ]
  })

/** L14 volts across the contact against what is printed on it, and L15 direct current that arcs */
const contactVolts: LoadCheck = (_, all) =>
  all.flatMap((one): Finding[] => {
    const { verdict, load } = one
    if (!verdict) return []
    const { volts, mayVolts } = verdict
    if (volts > mayVolts)
      return [
        {
          id: 'L14',
          severity: 'danger',
          title: 'Contact voltage too low',
          where: atLoad(one),
          what: `${load.name} has ${volts} V; the contact is rated ${mayVolts} V.`,
          why: 'The open contact arcs over and burns.',
          fixes: [],
        },
      ]
    if (load.supply !== 'low-voltage' || load.current !== 'dc' || volts <= DC_ARC_VOLTS) return []
    return [
      {
        id: 'L15',
        severity: 'warning',
        title: 'Direct current above 30 V',
        where: atLoad(one),
        what:
          `${load.name} is switched at ${volts} V DC. Above ${DC_ARC_VOLTS} V the usual contact can break about a tenth of ` +
          `its rating: ${figure(verdict.mayAmps)} A here, against ${figure(verdict.amps)} A.`,
        why: 'Direct current has no zero crossing that ends an arc: it stays between the contacts and melts them.',
        fixes: [],
      },
    ]
  })

/** W below which a lamp glows, or a small motor hums, on what a snubber lets pass (common practice). */
const GLOWS_WATTS = 25

/** L19 a snubber across the contact that feeds a small load while it is off */
const snubberLeaks: LoadCheck = (site, all) =>
  all.flatMap((one): Finding[] => {
    const { load, channel } = one
    const across = load.suppression === 'snubber' && load.contactor === null && channel.kind !== 'paired'
    const lamp = load.type === 'led' || load.type === 'electronic' || load.type === 'unknown'
    if (!across || load.supply !== 'mains' || !lamp || load.watts > GLOWS_WATTS) return []
    const leak = snubberLeak(snubberFor(loadAmps(site, load)), site.mains.volts, site.mains.hertz)
    return [
      {
        id: 'L19',
        severity: 'warning',
        title: 'Snubber leaks into the load',
        where: atLoad(one),
        what:
          `The snubber across the open contact lets ${figure(leak)} mA pass at ${site.mains.volts} V ` +
          `${site.mains.hertz} Hz; ${load.name} has ${load.watts} W.`,
        why: 'A small LED lamp glows or flickers when off, and its terminals are always live.',
        fixes: [
          {
            label: 'Fit a varistor across it instead',
            change: changeLoad(load, (l) => {
              l.suppression = 'varistor'
            }),
          },
          {
            label: 'Set: no suppression',
            change: changeLoad(load, (l) => {
              l.suppression = 'none'
            }),
          },
        ],
      },
    ]
  })

/** L20 a power contact across a button input, whose few milliamperes do not keep silver clean */
const dryContact: LoadCheck = (site, all) =>
  all.flatMap((one): Finding[] => {
    const controller = site.controllers.find(({ id }) => id === one.channel.controller)!
    const rating = contactRatingOf(site, controller)
    if (one.load.supply !== 'dry' || !rating || rating.amps < 5 || controller.module?.contacts === 'gold') return []
    return [
      {
        id: 'L20',
        severity: 'warning',
        title: 'Power contact in a signal circuit',
        where: atLoad(one),
        what:
          `A silver contact of ${rating.amps} A wants about ${SILVER_MILLIAMPS} mA at 5 V to stay clean (common ` +
          `practice); through ${one.load.name}, a button input, only a few flow.`,
        why: 'After some months presses are missed. A gold contact or an opto output lasts.',
        fixes: controller.module
          ? [
              {
                label: 'Set contacts: gold',
                change: (draft) => {
                  draft.controllers.find(({ id }) => id === controller.id)!.module!.contacts = 'gold'
                },
              },
            ]
          : [],
      },
    ]
  })

/** L08 two supplies meeting in one box */
const twoSupplies: LoadCheck = (_, all) =>
  all
    .filter(({ load }) => load.sharesBox)
    .map((one) => ({
      id: 'L08',
      severity: 'danger',
      title: 'Two supplies in one box',
      where: atLoad(one),
      what: `The conductors of ${one.load.name} share a box with another supply's, without a barrier.`,
      why: 'With one supply off the other is still live: proving the first dead does not make the box safe.',
      fixes: [
        {
          label: 'Set: a barrier parts them',
          change: changeLoad(one.load, (l) => {
            l.sharesBox = false
          }),
        },
      ],
    }))

/** L04 neutral switched instead of line */
const neutralSwitched: LoadCheck = (site, all) =>
  all
    .filter(({ load }) => load.supply === 'mains' && load.contact === 'neutral')
    .map(({ channel, load }): Finding => ({
      id: 'L04',
      severity: 'danger',
      title: 'Neutral is switched',
      where: {
        thing: 'load',
        id: load.id,
        name: load.name,
        channel: channel.id,
        controller: channel.controller,
        step: 'bench',
      },
      what: `${channel.name} switches the neutral of ${load.name} (${load.watts} W, ${site.mains.volts} V).`,
      why: 'With the relay open the load is still at line voltage: anyone who changes the lamp can touch it.',
      fixes: [
        {
          label: 'Switch the line instead',
          change: changeLoad(load, (l) => {
            l.contact = 'line'
          }),
        },
      ],
    }))

/** L06 heater with no time limit */
const heaterWithoutLimit: LoadCheck = (_, all) =>
  all
    .filter(({ load, channel }) => load.type === 'heater' && limitOf(channel) === null)
    .map(({ channel, load }): Finding => ({
      id: 'L06',
      severity: 'warning',
      title: 'Heater without time limit',
      where: { ...channelPlace(channel), step: 'bench' },
      what: `${channel.name} heats with ${load.watts} W, and only a command turns it off.`,
      why: 'A lost command or a dead app leaves it on. A thermal cut-out is ' + 'needed in any case.',
      fixes: [
        {
          label: 'Turn off after 60 min',
          change: (draft) => {
            const target = draft.channels.find((c) => c.id === channel.id)!
            if ('maxOnMs' in target) target.maxOnMs = 3_600_000
          },
        },
      ],
    }))

const LOAD_CHECKS: readonly LoadCheck[] = [
  contactRating,
  inrush,
  continuousLoad,
  contactorRating,
  contactVolts,
  neutralSwitched,
  unknownLoad,
  heaterWithoutLimit,
  noSuppression,
  wrongSuppression,
  snubberLeaks,
  dryContact,
  twoSupplies,
]

/** All of them over the same verdicts: with 200 channels these are worked out once, not once a check. */
export const loadChecks: readonly Check[] = [
  (site) => {
    const all = loaded(site)
    return LOAD_CHECKS.flatMap((check) => check(site, all))
  },
]
