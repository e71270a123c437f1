import { boardIn, moduleIn } from '../boards'
import {
  cannotConvert,
  figure,
  MARGIN,
  MOST_DIP_VOLTS,
  railMilliamps,
  railsOf,
  reservoirFor,
  supplyBudget,
  type Rail,
  type RailKey,
} from '../electrics'
import { channelsOn, loadOf, outputRoles, type Controller, type Site, type SupplyPlan } from '../site'
import { supplyRange } from '../wiring'
import { controllerPlace, type Check, type Finding, type Fix, type Where } from './finding'

const whereOf = (controller: Controller): Where => ({
  ...controllerPlace(controller),
  step: 'bench',
})

const changePlan = (controller: Controller, change: (plan: SupplyPlan) => void) => (draft: Site) => {
  const { supply } = draft.controllers.find((c) => c.id === controller.id)!
  if (supply) change(supply)
}

/** Each controller whose supply is named, with its budget. */
const supplied = (site: Site) =>
  site.controllers.flatMap((controller) => {
    const budget = supplyBudget(site, controller)
    return budget && controller.supply ? [{ controller, budget, plan: controller.supply }] : []
  })

/** S01 budget exceeded: steady, peak, margin */
export const budgetExceeded: Check = (site) =>
  supplied(site).flatMap(({ controller, budget }): Finding[] => {
    const { source, peak, steady, margin } = budget
    if (margin >= MARGIN) return []
    const over = steady > source.milliamps || peak > source.milliamps
    return [
      {
        id: 'S01',
        severity: over ? 'error' : 'warning',
        title: over ? 'Supply too small' : 'Little supply headroom',
        where: whereOf(controller),
        what:
          `${source.name} gives ${source.milliamps} mA; steady ${figure(steady)} mA, peak ${figure(peak)} mA: ` +
          `${figure(margin * 100)} % headroom, ${MARGIN * 100} % recommended.`,
        why: over
          ? 'It browns out when all coils are on and the radio sends: the board resets and the relays drop.'
          : 'Ageing, heat and cable use up the rest.',
        fixes: [],
      },
    ]
  })

/** Part of its volts at which a coil must pull in, and what it stands (memory of usual relay data sheets). */
const COIL = { pullIn: 0.75, warm: 0.9, most: 1.1 } as const

type CoilTrouble = Pick<Finding, 'severity' | 'title' | 'why'>
function coilTrouble(part: number): CoilTrouble | null {
  if (part > COIL.most) return { severity: 'danger', title: 'Wrong coil voltage', why: 'The coils burn.' }
  if (part < COIL.pullIn)
    return {
      severity: 'error',
      title: 'Wrong coil voltage',
      why: 'They do not pull in: a coil needs 75 % of its voltage.',
    }
  return part < COIL.warm
    ? {
        severity: 'warning',
        title: 'Coil voltage is low',
        why: 'Above 75 % they pull in while cold; warm copper needs more, and then they chatter.',
      }
    : null
}

/** S02 coil voltage not the rail's */
export const coilVolts: Check = (site) =>
  supplied(site).flatMap(({ controller, plan }): Finding[] => {
    const { module } = controller
    const rail = railsOf(site, plan).find(({ key }) => key === 'coils')
    if (!module || !rail || plan.coilsFromLogic) return []
    const part = rail.volts / module.coilVolts
    const trouble = coilTrouble(part)
    if (!trouble) return []
    return [
      {
        id: 'S02',
        ...trouble,
        where: whereOf(controller),
        what:
          `The coils are for ${module.coilVolts} V, their supply has ${rail.volts} V: ` +
          `${Math.round(part * 100)} %.`,
        fixes: [],
      },
    ]
  })

/** S03 modem burst without reservoir or own supply */
export const burst: Check = (site) =>
  supplied(site).flatMap(({ controller, budget, plan }): Finding[] => {
    const { burstDip, burst: hardest } = budget
    if (burstDip === null || hardest === null || burstDip <= MOST_DIP_VOLTS) return []
    const dip = Number.isFinite(burstDip) ? `falls ${figure(burstDip)} V` : 'has no reservoir'
    const enough = reservoirFor(hardest.peak, hardest.ms)
    return [
      {
        id: 'S03',
        severity: plan.own === null ? 'error' : 'warning',
        title: 'Bursts pull the supply down',
        where: whereOf(controller),
        what:
          `At each burst of ${figure(hardest.ms)} ms the rail ${dip} (${plan.reservoirMicrofarads} µF, at the low end of ` +
          `its tolerance); at most ${MOST_DIP_VOLTS} V should be lost.`,
        why: 'The modem resets while it connects, again and again.',
        fixes:
          enough === undefined
            ? []
            : [
                {
                  label: `Fit ${enough} µF at the modem`,
                  change: changePlan(controller, (p) => {
                    p.reservoirMicrofarads = enough
                  }),
                },
              ],
      },
    ]
  })

const RAIL_WORDS: Readonly<Record<RailKey, string>> = {
  board: 'the board draws',
  coils: 'the coils draw',
  own: 'what has a feed of its own draws',
}

/** Whoever hangs on a rail with the volts that it takes. */
function consumersOf(site: Site, controller: Controller, rail: Rail): { name: string; least: number; most: number }[] {
  const board = boardIn(site, controller.board)
  if (rail.key === 'board') return board ? [{ name: board.name, ...(board.supplyVolts ?? FIVE_VOLTS) }] : []
  if (rail.key === 'coils') return []
  return controller.parts.flatMap((part) => {
    const profile = moduleIn(site, 'part', part.profile)
    return profile?.rail === 'own' ? [{ name: part.name, ...(profile.supplyVolts ?? FIVE_VOLTS) }] : []
  })
}
const FIVE_VOLTS = { least: 4.5, most: 5.5 } as const

/** S07 volts of a rail against what hangs on it */
export const railVolts: Check = (site) =>
  supplied(site).flatMap(({ controller, plan }): Finding[] =>
    railsOf(site, plan).flatMap((rail) =>
      consumersOf(site, controller, rail)
        .filter(({ least, most }) => rail.volts < least || rail.volts > most)
        .map(({ name, least, most }): Finding => {
          const over = rail.volts > most
          return {
            id: 'S07',
            severity: over ? 'danger' : 'error',
            title: over ? 'Supply voltage too high' : 'Supply voltage too low',
            where: whereOf(controller),
            what: `${name} takes ${least} to ${most} V; its rail has ${rail.volts} V.`,
            why: over ? 'It is destroyed at the first power-up.' : 'It does not start, or resets when it sends.',
            fixes: [],
          }
        }),
    ),
  )

/** S07 a 3.3 V part on a 5 V board that has no 3.3 V pin for it */
export const partOnLogic: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    if (!board || board.lowRailMilliamps !== undefined) return []
    return controller.parts.flatMap((part): Finding[] => {
      const profile = moduleIn(site, 'part', part.profile)
      if (profile?.rail !== 'logic' || supplyRange(profile).most >= board.logicVolts) return []
      return [
        {
          id: 'S07',
          severity: 'danger',
          title: 'Supply voltage too high',
          where: { thing: 'part', id: part.id, name: part.name, controller: controller.id, step: 'bench' },
          what:
            `${part.name} takes at most ${supplyRange(profile).most} V; the ${board.name} has ${board.logicVolts} V, and ` +
            'its profile names no 3.3 V pin.',
          why: 'It is destroyed at the first power-up.',
          fixes: [],
        },
      ]
    })
  })

/** S10 a load on the controller's source, which has other volts */
export const loadOnSource: Check = (site) =>
  supplied(site).flatMap(({ controller, budget }): Finding[] =>
    channelsOn(site, controller.id).flatMap((channel): Finding[] => {
      const load = loadOf(site, channel.load)
      const { volts, name } = budget.source
      if (load?.supply !== 'low-voltage' || load.feed.from !== 'controller') return []
      if (load.volts === volts && load.current === 'dc') return []
      return [
        {
          id: 'S10',
          severity: volts > load.volts ? 'danger' : 'error',
          title: 'Load on the wrong supply',
          where: { ...whereOf(controller), channel: channel.id, role: outputRoles(channel)[0]! },
          what: `${load.name} is for ${load.volts} V ${load.current.toUpperCase()} and is on the ${name}, ${volts} V DC.`,
          why: volts > load.volts ? 'It burns.' : 'It does not work, or works only when cold.',
          fixes: [
            {
              label: 'Give it its own supply',
              change: (draft) => {
                draft.loads.find(({ id }) => id === load.id)!.feed = { from: 'own' }
              },
            },
          ],
        },
      ]
    }),
  )

/** S08 a converter that cannot make its volts, or gives less than is drawn */
export const converterTooWeak: Check = (site) =>
  supplied(site).flatMap(({ controller, plan }): Finding[] =>
    railsOf(site, plan).flatMap((rail): Finding[] => {
      const { converter, source, key } = rail
      if (!converter) return []
      const cannot = cannotConvert(rail)
      const drawn = railMilliamps(site, controller, key)
      const at = { id: 'S08', severity: 'error', where: whereOf(controller), fixes: [] } as const
      if (cannot)
        return [
          {
            ...at,
            title: 'Converter input too low',
            what: `${converter.name} needs ${cannot.needs} V before it; ${source.name} gives ${source.volts} V.`,
            why: 'Its output sags under load: what it feeds resets.',
          },
        ]
      if (drawn <= converter.milliamps) return []
      return [
        {
          ...at,
          title: 'Converter overloaded',
          what: `${converter.name} gives ${converter.milliamps} mA; ${RAIL_WORDS[key]} ${figure(drawn)} mA.`,
          why: 'It limits, overheats or fails, with everything that it feeds.',
        },
      ]
    }),
  )

/** S09 the 3.3 V pin of a 5 V board, which gives little */
export const lowRail: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const gives = boardIn(site, controller.board)?.lowRailMilliamps
    if (gives === undefined) return []
    const on = controller.parts.flatMap((part) => {
      const profile = moduleIn(site, 'part', part.profile)
      return profile?.rail === 'logic' && supplyRange(profile).most < 4.5 ? [{ part, profile }] : []
    })
    const drawn = on.reduce((sum, { profile }) => sum + profile.draw.peak, 0)
    if (drawn <= gives) return []
    return [
      {
        id: 'S09',
        severity: 'error',
        title: '3.3 V pin overloaded',
        where: whereOf(controller),
        what: `${on.map(({ part }) => part.name).join(', ')} draws ${figure(drawn)} mA; the 3.3 V pin gives ${gives} mA.`,
        why: 'The regulator behind the pin is small: its output falls, and what it feeds stops.',
        fixes: [],
      },
    ]
  })

/** S04 charger type */
export const chargerType: Check = (site) =>
  supplied(site).flatMap(({ controller, budget }): Finding[] =>
    budget.source.type === 'negotiating-charger'
      ? [
          {
            id: 'S04',
            severity: 'warning',
            title: 'Charger needs negotiation',
            where: whereOf(controller),
            what: `${budget.source.name} gives its current only to a device that requests it.`,
            why: 'The board never requests it: it gets little, or nothing.',
            fixes: [
              {
                label: 'Use a boxed 5 V 3 A supply',
                change: changePlan(controller, (p) => {
                  p.source = 'boxed-5v-3a'
                }),
              },
            ],
          },
        ]
      : [],
  )

/** K above its surroundings at which a regulator runs hot, and at which one at 40 °C shuts itself off (memory). */
const HOT_KELVIN = 60
const SHUTDOWN_KELVIN = 100

/** S05 heat of a linear drop */
export const linearDrop: Check = (site) =>
  supplied(site).flatMap(({ controller, budget }): Finding[] => {
    const hot = budget.heats.filter((heat) => heat.degrees > HOT_KELVIN)
    return hot.map((heat) => {
      const ends = heat.degrees > SHUTDOWN_KELVIN
      return {
        id: 'S05',
        severity: ends ? 'error' : 'warning',
        title: ends ? 'Regulator shuts down' : 'Regulator runs hot',
        where: whereOf(controller),
        what:
          `The ${heat.where} turns ${figure(heat.watts)} W to heat: about ${Math.round(heat.degrees)} K above ` +
          'its surroundings.',
        why: ends
          ? 'At that temperature it switches off, cools and starts again: the board keeps resetting.'
          : 'In a closed box it shuts down or fails early. A buck converter in front takes the drop.',
        fixes: bucksInstead(controller, heat.where),
      }
    })
  })

function bucksInstead(controller: Controller, where: string): Fix[] {
  if (where.startsWith('converter'))
    return [
      {
        label: 'Use a buck converter',
        change: changePlan(controller, (p) => {
          if (p.coils === 'linear-5v-1a') p.coils = 'buck-5v-3a'
          if (p.board === 'linear-5v-1a') p.board = 'buck-5v-3a'
        }),
      },
    ]
  if (controller.supply?.board !== null) return []
  return [
    {
      label: 'Fit a buck converter before the board',
      change: changePlan(controller, (p) => {
        p.board = 'buck-5v-3a'
      }),
    },
  ]
}

/** S06 all coils at once at power-up */
export const coilsAtOnce: Check = (site) =>
  supplied(site).flatMap(({ controller, budget }): Finding[] => {
    if (controller.staggerMs > 0 || budget.startTogether <= budget.source.milliamps * (1 - MARGIN)) return []
    return [
      {
        id: 'S06',
        severity: 'warning',
        title: 'All coils at once at power-up',
        where: whereOf(controller),
        what: `At power-up ${figure(budget.startTogether)} mA are drawn at once; the supply gives ${budget.source.milliamps} mA.`,
        why: 'The supply dips just when the board starts.',
        fixes: [
          {
            label: 'Set stagger: 150 ms',
            change: (draft) => {
              draft.controllers.find((c) => c.id === controller.id)!.staggerMs = 150
            },
          },
        ],
      },
    ]
  })

export const supplyChecks: readonly Check[] = [
  budgetExceeded,
  coilVolts,
  burst,
  chargerType,
  linearDrop,
  coilsAtOnce,
  railVolts,
  converterTooWeak,
  lowRail,
  loadOnSource,
  partOnLogic,
]
