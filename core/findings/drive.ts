import { boardIn, moduleIn, type BoardProfile } from '../boards'
import { baseDrive, chainOhms, OPTO, ohms, optoChain, pinLoad, pullInMilliamps, touchesMains } from '../electrics'
import { relaysOn, type Controller, type RelayModule, type Site } from '../site'
import { controllerPlace, fit, type Check, type Finding, type Fix, type Where } from './finding'

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
    const mains = touchesMains(site, controller)
    return [
      {
        id: 'D01',
        severity: mains ? ('danger' as const) : ('error' as const),
        title: 'Relay may not release',
        where: whereOf(controller),
        what:
          `With the coil-supply jumper ${module.coilJumper} the opto chain sees ${module.coilVolts} V; a ` +
          `${board.logicVolts} V high leaves ${chain.offVolts.toFixed(1)} V across it, the knee is near ` +
          `${OPTO.kneeVolts} V: ${chain.offMilliamps.toFixed(2)} mA still flow, release margin ` +
          `${chain.releaseMarginVolts.toFixed(1)} V.`,
        why: mains
          ? 'A relay that is turned off may stay closed: the load stays live.'
          : 'A relay that is turned off may stay closed.',
        fixes:
          module.coilJumper === 'fitted'
            ? [
                {
                  label: 'Remove the jumper: run the logic side from 3.3 V',
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
    const wanted = Math.max(0, ...relaysOn(site, controller.id).map(({ relay }) => relay))
    if (!module || wanted <= module.ways) return []
    const ways = MODULE_WAYS.find((count) => count >= wanted)
    return [
      {
        id: 'D06',
        severity: 'error',
        title: 'More outputs than relays',
        where: whereOf(controller),
        what: `${wanted} of ${module.ways} relays of the module at ${name} are used.`,
        why: 'The sheets would name inputs and contacts that the module does not have.',
        fixes: ways
          ? [
              {
                label: `Use a module with ${ways} relays`,
                change: changeModule(controller, (own) => void (own.ways = ways)),
              },
            ]
          : [],
      },
    ]
  })

/** D10 two channels said to stand on one relay */
export const relayTwice: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const relays = relaysOn(site, controller.id)
    return relays.flatMap((one, i): Finding[] => {
      const first = relays.slice(0, i).find(({ relay }) => relay === one.relay)
      if (!first || first.channel.id === one.channel.id) return []
      const { id, name } = one.channel
      return [
        {
          id: 'D10',
          severity: 'danger',
          title: 'Two channels on one relay',
          where: { ...whereOf(controller), channel: id, role: one.role },
          what: `${first.channel.name} and ${name} are both assigned to K${one.relay} of ${controller.name}.`,
          why: 'Both loads are on one contact, and two pins of the board drive one input against each other.',
          fixes: [
            {
              label: `Move ${name} to the next free relay`,
              change: (draft) => {
                delete draft.channels.find((channel) => channel.id === id)!.relay
              },
            },
          ],
        },
      ]
    })
  })

/** D02 opto LED current too low to pull in */
export const tooLittleToPullIn: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    const { module } = controller
    if (!board || module?.input !== 'opto' || module.driver !== 'module') return []
    const { onMilliamps } = optoChain(module, board.logicVolts)
    const [least, usual] = [pullInMilliamps(module, 'least'), pullInMilliamps(module, 'usual')]
    if (onMilliamps >= least) return []
    const coil = Math.round((module.coilVolts / module.coilOhms) * 1000)
    return [
      {
        id: 'D02',
        severity: onMilliamps < usual ? ('error' as const) : ('warning' as const),
        title: 'Relay may not pull in',
        where: whereOf(controller),
        what:
          `Through ${ohms(module.inputOhms)} the opto gets ${onMilliamps.toFixed(2)} mA; a coil of ${coil} mA asks for ` +
          `${least.toFixed(2)} mA of the weakest parts (${usual.toFixed(2)} mA of usual ones).`,
        why: 'The indicator lights and the relay stays open, or chatters when warm.',
        fixes: strongerDrive(controller, board, least),
      },
    ]
  })

/** What brings the LED current up: to have looked at the chain, or a smaller resistor. */
function strongerDrive(controller: Controller, board: BoardProfile, least: number): Fix[] {
  const module = controller.module!
  const bare = optoChain({ ...module, chain: 'opto' }, board.logicVolts).onMilliamps
  const resistor = chainOhms(module, board.logicVolts, least)
  return [
    ...(module.chain === undefined && bare >= least
      ? [
          {
            label: 'Set: only the opto’s LED is in series',
            change: changeModule(controller, (m) => void (m.chain = 'opto')),
          },
        ]
      : []),
    ...(resistor !== null && resistor < module.inputOhms
      ? [{ label: `Fit ${ohms(resistor)}`, change: changeModule(controller, (m) => void (m.inputOhms = resistor)) }]
      : []),
  ]
}

/** V below its supply at which a PNP input lets go (common practice). */
const RELEASE_VOLTS = 0.5

/** D07 low-active transistor input that a high never turns off */
export const neverTurnsOff: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    const { module } = controller
    if (!board || module?.input !== 'transistor' || module.active !== 'low' || module.driver !== 'module') return []
    const supply = module.coilJumper === 'removed' ? board.logicVolts : module.coilVolts
    const left = supply - board.logicVolts
    if (left <= RELEASE_VOLTS) return []
    return [
      {
        id: 'D07',
        severity: 'danger',
        title: 'Relay does not release',
        where: whereOf(controller),
        what:
          `The transistor of a low-active input stands at ${supply} V; a high of ${board.logicVolts} V leaves ` +
          `${left.toFixed(1)} V on it, and it lets go below ${RELEASE_VOLTS} V.`,
        why: 'Every relay is closed from power-up, whatever the firmware does; and the pin gets more than its rated voltage.',
        fixes: [
          {
            label: 'Use a high-active module',
            change: (draft) => {
              const target = draft.controllers.find((c) => c.id === controller.id)!
              if (target.module) target.module.active = 'high'
              for (const channel of draft.channels) if (channel.controller === controller.id) channel.active = 'high'
            },
          },
        ],
      },
    ]
  })

/** D08 a part that draws more than its pin gives */
export const partOnPin: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    if (!board) return []
    return controller.parts.flatMap((part): Finding[] => {
      const drawn = moduleIn(site, 'part', part.profile)?.pinMilliamps ?? 0
      const { recommended, absolute } = board.pinMilliamps
      if (drawn <= recommended || part.fitted?.includes('transistor')) return []
      return [
        {
          id: 'D08',
          severity: drawn > absolute ? 'error' : 'warning',
          title: 'Part draws more than its pin gives',
          where: { thing: 'part', id: part.id, name: part.name, controller: controller.id, step: 'bench' },
          what: `${part.name} draws ${drawn} mA; a pin of this board gives ${recommended} mA, ${absolute} mA at most.`,
          why: 'The pin overheats and ages; at the absolute limit it fails.',
          fixes: [{ label: 'Fit a transistor', change: fit(controller, part.id, 'transistor') }],
        },
      ]
    })
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
        title: 'Coils on the logic regulator',
        where: whereOf(controller),
        what:
          `${Math.round(milliamps)} mA of coils are on the board's ${board.logicVolts} V regulator, which ` +
          `gives ${board.regulator.milliamps} mA to the board as well.`,
        why:
          `${module.coilVolts} V coils do not pull in from ${board.logicVolts} V, and the board resets ` +
          'when they switch.',
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
        ? `A coil of ${Math.round(drive.coilMilliamps)} mA is on a pin that gives ` +
          `${board.pinMilliamps.recommended} mA.`
        : 'There is no diode across the coil.'
    return [
      {
        id: 'D04',
        severity: 'error',
        title: 'Bare relay without driver',
        where: whereOf(controller),
        what:
          `${what} Fit an NPN transistor with ${ohms(drive.baseOhms)} to its base ` +
          `(${drive.baseMilliamps.toFixed(1)} mA) and a diode across the coil.`,
        why: 'The pin is overloaded, and the coil’s voltage spike at release destroys its driver.',
        fixes: [
          {
            label: 'Fit transistor and diode',
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
        title: 'Pin current too high',
        where: whereOf(controller),
        what: `${over}.`,
        why: 'The pin, or the whole port, overheats and ages; at the absolute limit it fails.',
        fixes: [],
      },
    ]
  })

export const driveChecks: readonly Check[] = [
  jumperWithLowLogic,
  tooLittleToPullIn,
  neverTurnsOff,
  partOnPin,
  tooFewRelays,
  relayTwice,
  coilsFromRegulator,
  bareRelay,
  pinCurrent,
]
