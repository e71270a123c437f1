import { boardIn } from '../boards'
import { baseDrive, OPTO, ohms, optoChain, pinLoad } from '../electrics'
import { channelsOn, loadOf, relaysOn, type Controller, type RelayModule, type Site } from '../site'
import { controllerPlace, type Check, type Finding, type Where } from './finding'

const whereOf = (controller: Controller): Where => ({
  ...controllerPlace(controller),
  step: 'bench',
})

const changeModule = (controller: Controller, change: (module: RelayModule) => void) => (draft: Site) => {
  const { module } = draft.controllers.find((c) => c.id === controller.id)!
  if (module) change(module)
}

/** D01 coil-supply jumper on with 3.3 V logic */
export const jumperWithLowLogic: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    const { module } = controller
    if (!board || !module || module.input !== 'opto' || module.active !== 'low' || module.coilJumper === 'removed')
      return []
    const chain = optoChain(module, board.logicVolts)
    if (chain.releaseMarginVolts > 0) return []
    const mains = channelsOn(site, controller.id).some((channel) => loadOf(site, channel.load)?.supply === 'mains')
    return [
      {
        id: 'D01',
        severity: mains ? ('danger' as const) : ('error' as const),
        title: 'relay may never let go',
        where: whereOf(controller),
        what:
          `With the coil-supply jumper ${module.coilJumper} the opto chain sees ${module.coilVolts} V; a ` +
          `${board.logicVolts} V high leaves ${chain.offVolts.toFixed(1)} V across it, the knee is near ` +
          `${OPTO.kneeVolts} V: ${chain.offMilliamps.toFixed(2)} mA still flow, release margin ` +
          `${chain.releaseMarginVolts.toFixed(1)} V.`,
        why: mains ? 'A relay told off may stay closed: the load stays live.' : 'A relay told off may stay closed.',
        fixes:
          module.coilJumper === 'fitted'
            ? [
                {
                  label: 'Take the jumper off: logic side on 3.3 V',
                  change: (draft) => {
                    draft.controllers.find((c) => c.id === controller.id)!.module!.coilJumper = 'removed'
                  },
                },
              ]
            : [],
      },
    ]
  })

/** Relay modules as they are sold (common practice). */
const MODULE_WAYS = [1, 2, 4, 8, 16] as const

/** D06 more outputs than the relay module has relays */
export const tooFewRelays: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const { module, name } = controller
    const wanted = relaysOn(site, controller.id).length
    if (!module || wanted <= module.ways) return []
    const ways = MODULE_WAYS.find((count) => count >= wanted)
    return [
      {
        id: 'D06',
        severity: 'error',
        title: 'more outputs than relays',
        where: whereOf(controller),
        what: `${wanted} of ${module.ways} relays of the module at ${name} are used.`,
        why: 'The sheets would name inputs and contacts that the module does not have.',
        fixes: ways
          ? [{ label: `Take a module of ${ways}`, change: changeModule(controller, (own) => void (own.ways = ways)) }]
          : [],
      },
    ]
  })

/** D02 opto LED current too low to pull in */
export const tooLittleToPullIn: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    const { module } = controller
    if (!board || module?.input !== 'opto') return []
    const { onMilliamps } = optoChain(module, board.logicVolts)
    if (onMilliamps >= OPTO.pullInMilliamps) return []
    return [
      {
        id: 'D02',
        severity: 'error',
        title: 'relay may not pull in',
        where: whereOf(controller),
        what:
          `Through ${ohms(module.inputOhms)} the opto gets ${onMilliamps.toFixed(2)} mA; about ` +
          `${OPTO.pullInMilliamps} mA are needed.`,
        why: 'The indicator glows and the relay stays open, or chatters.',
        fixes: [
          {
            label: 'I fit 1 kΩ',
            change: changeModule(controller, (m) => {
              m.inputOhms = 1_000
            }),
          },
        ],
      },
    ]
  })

/** D03 coil current taken from the logic regulator */
export const coilsFromRegulator: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    const { module, supply } = controller
    if (!board || !module || !supply?.coilsFromLogic) return []
    const milliamps = (module.coilVolts / module.coilOhms) * 1000 * relaysOn(site, controller.id).length
    return [
      {
        id: 'D03',
        severity: 'error',
        title: 'coils on the logic regulator',
        where: whereOf(controller),
        what:
          `${Math.round(milliamps)} mA of coils hang on the board's ${board.logicVolts} V regulator, which ` +
          `gives ${board.regulator.milliamps} mA to the board as well.`,
        why:
          `${module.coilVolts} V coils do not pull in from ${board.logicVolts} V, and the board resets ` +
          'when they try.',
        fixes: [
          {
            label: 'Feed the coils from the source',
            change: (draft) => {
              draft.controllers.find((c) => c.id === controller.id)!.supply!.coilsFromLogic = false
            },
          },
        ],
      },
    ]
  })

/** D04 bare relay without driver transistor or diode */
export const bareRelay: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    const { module } = controller
    if (!board || !module || module.driver === 'module' || module.driver === 'transistor-and-diode') return []
    const drive = baseDrive(module.coilVolts, module.coilOhms, board.logicVolts)
    const what =
      module.driver === 'none'
        ? `A coil of ${Math.round(drive.coilMilliamps)} mA hangs on a pin that gives ` +
          `${board.pinMilliamps.recommended} mA.`
        : 'There is no diode across the coil.'
    return [
      {
        id: 'D04',
        severity: 'error',
        title: 'bare relay without its driver',
        where: whereOf(controller),
        what:
          `${what} Fit an NPN transistor with ${ohms(drive.baseOhms)} to its base ` +
          `(${drive.baseMilliamps.toFixed(1)} mA) and a diode across the coil.`,
        why: 'The pin is overloaded, and the coil’s kick when it lets go destroys what drives it.',
        fixes: [
          {
            label: 'I fit transistor and diode',
            change: changeModule(controller, (m) => {
              m.driver = 'transistor-and-diode'
            }),
          },
        ],
      },
    ]
  })

/** D05 pin current limit, and the sum for the port */
export const pinCurrent: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    const load = pinLoad(site, controller)
    if (!board || !load) return []
    const { each, all } = load
    const { recommended, absolute, total } = board.pinMilliamps
    if (each <= recommended && all <= total) return []
    const over =
      each > absolute
        ? `${each.toFixed(1)} mA a pin, over the absolute ${absolute} mA`
        : each > recommended
          ? `${each.toFixed(1)} mA a pin, over the recommended ${recommended} mA`
          : `${all.toFixed(0)} mA from all pins together, over ${total} mA`
    return [
      {
        id: 'D05',
        severity: each > absolute ? 'danger' : 'warning',
        title: 'too much from a pin',
        where: whereOf(controller),
        what: `${over}.`,
        why: 'The pin, or the whole port, gets warm and ages; at the absolute limit it dies.',
        fixes: [],
      },
    ]
  })

export const driveChecks: readonly Check[] = [
  jumperWithLowLogic,
  tooLittleToPullIn,
  tooFewRelays,
  coilsFromRegulator,
  bareRelay,
  pinCurrent,
]
