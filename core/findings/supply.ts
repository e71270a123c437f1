import { moduleIn } from '../boards'
import { figure, MARGIN, supplyBudget } from '../electrics'
import { type Controller, type Site, type SupplyPlan } from '../site'
import { controllerPlace, type Check, type Finding, type Where } from './finding'

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
        title: over ? 'supply too small' : 'little in hand',
        where: whereOf(controller),
        what:
          `${source.name} gives ${source.milliamps} mA; steady ${figure(steady)} mA, peak ${figure(peak)} mA: ` +
          `${figure(margin * 100)} % in hand, ${MARGIN * 100} % are wanted.`,
        why: over
          ? 'It browns out when all coils are in and the radio sends: the board resets and the relays drop.'
          : 'Ageing, heat and cable take the rest.',
        fixes: [],
      },
    ]
  })

/** S02 coil voltage not the rail's */
export const coilVolts: Check = (site) =>
  supplied(site).flatMap(({ controller, budget, plan }): Finding[] => {
    const { module } = controller
    if (!module || plan.coilsFromLogic) return []
    const rail =
      plan.coils === null ? budget.source.volts : (moduleIn(site, 'supply', plan.coils)?.volts ?? budget.source.volts)
    if (rail === module.coilVolts) return []
    return [
      {
        id: 'S02',
        severity: rail > module.coilVolts ? 'danger' : 'error',
        title: 'coils on the wrong volts',
        where: whereOf(controller),
        what: `The coils are for ${module.coilVolts} V, their rail has ${rail} V.`,
        why: rail > module.coilVolts ? 'The coils burn.' : 'They do not pull in: a coil must have 75 % of its volts.',
        fixes: [],
      },
    ]
  })

/** S03 modem burst without reservoir or own supply */
export const burst: Check = (site) =>
  supplied(site).flatMap(({ controller, budget, plan }): Finding[] => {
    if (budget.burstDip === null || budget.burstDip <= 0.4) return []
    const dip = Number.isFinite(budget.burstDip) ? `falls ${figure(budget.burstDip)} V` : 'has no reservoir'
    return [
      {
        id: 'S03',
        severity: plan.own === null ? 'error' : 'warning',
        title: 'bursts pull the supply down',
        where: whereOf(controller),
        what: `At each burst the rail ${dip} (${plan.reservoirMicrofarads} µF); at most 0.4 V should be lost.`,
        why: 'The modem resets in the middle of joining, again and again.',
        fixes: [
          {
            label: 'I fit 3300 µF at the modem',
            change: changePlan(controller, (p) => {
              p.reservoirMicrofarads = 3_300
            }),
          },
        ],
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
            title: 'a charger that negotiates',
            where: whereOf(controller),
            what: `${budget.source.name} gives its current only to a device that asks for it.`,
            why: 'The board never asks: it gets little, or nothing.',
            fixes: [
              {
                label: 'A boxed 5 V 3 A supply instead',
                change: changePlan(controller, (p) => {
                  p.source = 'boxed-5v-3a'
                }),
              },
            ],
          },
        ]
      : [],
  )

/** S05 heat of a linear drop */
export const linearDrop: Check = (site) =>
  supplied(site).flatMap(({ controller, budget }): Finding[] => {
    const hot = budget.heats.filter((heat) => heat.degrees > 60)
    return hot.map((heat) => ({
      id: 'S05',
      severity: 'warning',
      title: 'regulator runs hot',
      where: whereOf(controller),
      what:
        `The ${heat.where} turns ${figure(heat.watts)} W to heat: about ${Math.round(heat.degrees)} K above ` +
        'its surroundings.',
      why: 'In a closed box it shuts down or dies young. A buck converter in front takes the drop.',
      fixes: heat.where.startsWith('converter')
        ? [
            {
              label: 'A buck converter instead',
              change: changePlan(controller, (p) => {
                if (p.coils === 'linear-5v-1a') p.coils = 'buck-5v-3a'
                if (p.board === 'linear-5v-1a') p.board = 'buck-5v-3a'
              }),
            },
          ]
        : [],
    }))
  })

/** S06 all coils at once at power-up */
export const coilsAtOnce: Check = (site) =>
  supplied(site).flatMap(({ controller, budget }): Finding[] => {
    if (controller.staggerMs > 0 || budget.startTogether <= budget.source.milliamps * (1 - MARGIN)) return []
    return [
      {
        id: 'S06',
        severity: 'warning',
        title: 'all coils at once at power-up',
        where: whereOf(controller),
        what: `At power-up ${figure(budget.startTogether)} mA are drawn at once, of ${budget.source.milliamps} mA.`,
        why: 'The supply dips just when the board starts.',
        fixes: [
          {
            label: 'Stagger by 150 ms',
            change: (draft) => {
              draft.controllers.find((c) => c.id === controller.id)!.staggerMs = 150
            },
          },
        ],
      },
    ]
  })

export const supplyChecks: readonly Check[] = [budgetExceeded, coilVolts, burst, chargerType, linearDrop, coilsAtOnce]
