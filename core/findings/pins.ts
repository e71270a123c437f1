import { boardIn, gpioSpots, moduleIn, pinName, type BoardProfile, type GpioSpot } from '../boards'
import { FORBIDDEN, pinCost, planAndWrite, planPins, readPinOn, replanRoles, restLevelOf } from '../pins'
import { pulledVolts, pullsText, readsAs, THRESHOLD } from '../electrics'
import { coprocessorOf, roleName, rolesOf, serialSignalOf, type Controller, type Role, type Site } from '../site'
import { isDriven, levelStep, pullsAtStart, pullsOfInput } from '../wiring'
import { controllerPlace, fit, type Check, type Finding, type Fix, type Where } from './finding'

interface Placed {
  readonly controller: Controller
  readonly board: BoardProfile
  readonly role: Role
  readonly written: string
  readonly spot: GpioSpot
}

/** Roles whose pin is known on their board. */
function placedRoles(site: Site): Placed[] {
  return site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    if (!board) return []
    return rolesOf(site, controller.id).flatMap((role): Placed[] => {
      const written = controller.pins[role.id]?.pin
      const reading = written === undefined ? undefined : readPinOn(site, controller, written)
      return written !== undefined && reading?.kind === 'spot'
        ? [{ controller, board, role, written, spot: reading.spot }]
        : []
    })
  })
}

const whereOf = (controller: Controller, role: Role): Where => ({
  thing: role.kind === 'output' ? 'channel' : role.kind === 'input' ? 'input' : 'part',
  id: role.kind === 'output' ? role.channel.id : role.kind === 'input' ? role.input.id : role.part.id,
  name: roleName(role),
  controller: controller.id,
  role: role.id,
  step: 'bench',
})

/** The pins of a controller after a change of a copy, so that a fix can be tried before it is offered. */
function pinsAfter(site: Site, controller: Controller, change: (copy: Site) => void): Controller['pins'] {
  const copy: Site = {
    ...site,
    controllers: site.controllers.map((one) => (one.id === controller.id ? { ...one, pins: { ...one.pins } } : one)),
  }
  change(copy)
  return copy.controllers.find((one) => one.id === controller.id)!.pins
}

/**
 * Planning anew, of these roles alone or else of all: offered only where it moves one of them, since a fix that changes
 * nothing is none.
 */
function replan(site: Site, controller: Controller, ...roles: string[]): Fix[] {
  const wishes: Fix[] = [
    { label: 'Plan this pin again', change: (draft) => replanRoles(draft, controller.id, roles) },
    { label: 'Plan all pins again', change: (draft) => planAndWrite(draft, controller.id) },
  ]
  const moves = (fix: Fix): boolean => {
    const after = pinsAfter(site, controller, fix.change)
    return roles.some((role) => after[role]?.pin !== controller.pins[role]?.pin)
  }
  const first = wishes.find(moves)
  return first ? [first] : []
}

const found = (
  id: string,
  severity: Finding['severity'],
  title: string,
  where: Where,
  what: string,
  why: string,
  fixes: Fix[] = [],
): Finding => ({ id, severity, title, where, what, why, fixes })

/** P01 two roles on one pin */
export const twoRolesOnOnePin: Check = (site) => {
  const byPin = new Map<string, Placed[]>()
  for (const placed of placedRoles(site)) {
    const key = `${placed.controller.id}/${placed.spot.gpio}`
    byPin.set(key, [...(byPin.get(key) ?? []), placed])
  }
  return [...byPin.values()]
    .filter(
      (list) =>
        list.length > 1 &&
        !list.every(
          ({ role }) =>
            role.kind === 'signal' &&
            role.signal.need.startsWith('i2c') &&
            role.signal.need === (list[0]!.role.kind === 'signal' ? list[0]!.role.signal.need : ''),
        ),
    )
    .map((list) => {
      const [first, ...rest] = list as [Placed, ...Placed[]]
      const names = list.map((placed) => roleName(placed.role)).join(' and ')
      return found(
        'P01',
        'error',
        'Pin used twice',
        whereOf(first.controller, rest[0]!.role),
        `${pinName(first.spot)} is assigned to ${names}.`,
        'A pin carries one signal: each role would work the other.',
        replan(site, first.controller, ...rest.map((placed) => placed.role.id)),
      )
    })
}

/** P02 input-only pin as output */
export const inputOnlyAsOutput: Check = (site) =>
  placedRoles(site)
    .filter(({ role, spot }) => role.kind === 'output' && !spot.can.includes('output'))
    .map(({ controller, role, spot }) =>
      found(
        'P02',
        'error',
        'Input-only pin used as output',
        whereOf(controller, role),
        `${pinName(spot)} can only be read; ${roleName(role)} needs an output.`,
        'The pin has no driver: the relay never moves.',
        replan(site, controller, role.id),
      ),
    )

/** What a pin would be held at while the board starts, by what is connected; null: nothing decides it. */
function heldAtStart(
  site: Site,
  { controller, board, role, spot }: Placed,
): { level: 'low' | 'high' | 'either'; by: string } | null {
  const pulls = pullsAtStart(site, board, role, spot)
  const volts = pulledVolts(board.logicVolts, pulls)
  const pulled =
    pulls.length > 0 && volts !== null
      ? { level: readsAs(volts, board.logicVolts), by: `it stands there at ${pullsText(board.logicVolts, pulls)}` }
      : null
  if (role.kind === 'signal') return pulled
  if (role.kind === 'output') {
    const rest = restLevelOf(controller)
    return rest === 'free' ? null : { level: rest, by: `the relay module rests it ${rest}` }
  }
  // open, its pulls hold it; closed, the contact does
  if (pulled && pulled.level !== spot.startLevel?.level && role.input.pull === 'fitted') return pulled
  const { closedLevel } = role.input
  return { level: closedLevel, by: `${roleName(role)}, closed at start, holds it ${closedLevel}` }
}

/** A push switch where the board's own button stands, working the same way: closed it does what the button does. */
const isBoardsButton = ({ role, spot }: Placed): boolean =>
  role.kind === 'input' &&
  role.input.kind === 'momentary' &&
  role.input.pull !== 'fitted' &&
  spot.usedBy?.includes('button') === true

const pressedItPrograms = ({ controller, role, spot }: Placed): Finding =>
  found(
    'P03',
    'note',
    'Switch on the programming pin',
    whereOf(controller, role),
    `${roleName(role)} is on the pin of the board’s own button, ${pinName(spot)}.`,
    `Closed at power-up, ${spot.startLevel!.otherwise}.`,
  )

/** P19 a switch where the board's own button stands, told that it closes the other way */
export const againstTheButton: Check = (site) =>
  placedRoles(site).flatMap(({ controller, role, spot }): Finding[] => {
    if (role.kind !== 'input' || !spot.usedBy?.includes('button') || !spot.startLevel) return []
    const { input } = role
    // a button on a start-up pin pulls it to the level that the pin must not have
    const pulls = spot.startLevel.level === 'high' ? 'low' : 'high'
    if (input.closedLevel === pulls) return []
    return [
      found(
        'P19',
        'error',
        'Conflicts with the board’s button',
        whereOf(controller, role),
        `${roleName(role)} closes to ${input.closedLevel} on ${pinName(spot)}, where the board’s own button ` +
          `closes to ${pulls}.`,
        'Button and switch read opposite levels, and together they short the supply.',
        [
          {
            label: `Set: closes to ${pulls}`,
            change: (draft) => {
              draft.inputs.find((i) => i.id === input.id)!.closedLevel = pulls
            },
          },
        ],
      ),
    ]
  })

/** P03 boot-select pin that what is connected holds wrong at start */
export const heldWrongAtStart: Check = (site) =>
  placedRoles(site).flatMap((placed) => {
    const { controller, role, spot } = placed
    const { startLevel } = spot
    const held = startLevel && heldAtStart(site, placed)
    if (!startLevel || !held || held.level === startLevel.level) return []
    if (isBoardsButton(placed)) return [pressedItPrograms(placed)]
    return [
      found(
        'P03',
        startLevel.mild ? 'warning' : 'error',
        'Start-up pin at wrong level',
        whereOf(controller, role),
        `${pinName(spot)} must be ${startLevel.level} while the board starts; ${held.by}.`,
        `Otherwise ${startLevel.otherwise}.`,
        replan(site, controller, role.id),
      ),
    ]
  })

/** P16 pulls against each other: an open contact that does not reach the level that it should have */
export const pullsAgainst: Check = (site) =>
  placedRoles(site).flatMap((placed): Finding[] => {
    const { controller, board, role, spot } = placed
    if (role.kind !== 'input' || role.input.sense === 'analogue') return []
    const pulls = pullsOfInput(board, role.input, spot)
    const volts = pulledVolts(board.logicVolts, pulls)
    const wanted = role.input.closedLevel === 'low' ? 'high' : 'low'
    if (volts === null || pulls.length < 2 || readsAs(volts, board.logicVolts) === wanted) return []
    return [
      found(
        'P16',
        'error',
        'Pulls against each other',
        whereOf(controller, role),
        `Open, ${roleName(role)} must read ${wanted}; ${pinName(spot)} has ${pullsText(board.logicVolts, pulls)}.`,
        'It may read as closed when open.',
        replan(site, controller, role.id),
      ),
    ]
  })

/** P04 relay on a pin that is active at start */
export const activeAtStart: Check = (site) =>
  placedRoles(site).flatMap(({ controller, role, spot }) => {
    if (role.kind !== 'output' || !spot.startActivity) return []
    const { level, ms, what } = spot.startActivity
    const lowActive = role.channel.active === 'low'
    if (level === 'high' && lowActive) return []
    const effect =
      level === 'pulses' ? `a ${lowActive ? 'low' : 'high'}-active relay may click` : 'a high-active relay closes'
    return [
      found(
        'P04',
        'warning',
        'Pin active at start-up',
        whereOf(controller, role),
        `${pinName(spot)} is ${level === 'high' ? 'high' : 'pulsing'} for about ${ms} ms at start ` +
          `(${what}): ${effect} for that time.`,
        `${roleName(role)} flashes at each start and after each power cut.`,
        replan(site, controller, role.id),
      ),
    ]
  })

/** P05 serial log or USB pins used while the log is on */
export const serialLogPins: Check = (site) =>
  placedRoles(site)
    .filter(({ controller, spot }) => controller.serialLog && spot.usedBy?.includes('serial-log'))
    .map(({ controller, role, spot }) =>
      found(
        'P05',
        'error',
        'Serial log pin used',
        whereOf(controller, role),
        `${pinName(spot)} carries the serial log, which is on; ${roleName(role)} is on it too.`,
        role.kind === 'output'
          ? 'Each line of the log switches the relay.'
          : 'The log and the programming cable work the input.',
        [
          ...replan(site, controller, role.id),
          {
            label: 'Turn the serial log off',
            change: (draft) => {
              draft.controllers.find((c) => c.id === controller.id)!.serialLog = false
            },
          },
        ],
      ),
    )

/** P06 flash pins */
export const flashPins: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    if (!board) return []
    return rolesOf(site, controller.id).flatMap((role) => {
      const reading = controller.pins[role.id] && readPinOn(site, controller, controller.pins[role.id]!.pin)
      return reading?.kind === 'hidden'
        ? [
            found(
              'P06',
              'error',
              'Reserved pin used',
              whereOf(controller, role),
              `GPIO ${reading.gpio} ${reading.why}; ${roleName(role)} is on it.`,
              'The board stops as soon as the pin is driven.',
              [...freeing(board, controller, reading.gpio), ...replan(site, controller, role.id)],
            ),
          ]
        : []
    })
  })

/** A line of the flash memory that another mode of writing it frees. */
const freeing = (board: BoardProfile, { id }: Controller, gpio: number): Fix[] =>
  gpioSpots(board).some((spot) => spot.gpio === gpio && spot.freedBy)
    ? [
        {
          label: 'Set: flash in two-line mode',
          change: (draft) => {
            draft.controllers.find((one) => one.id === id)!.twoLineFlash = true
          },
        },
      ]
    : []

/** P07 input without any pull */
export const noPull: Check = (site) =>
  placedRoles(site).flatMap(({ controller, board, role, spot }) => {
    if (role.kind !== 'input' || role.input.pull === 'fitted') return []
    const { input } = role
    const direction = input.closedLevel === 'low' ? 'up' : 'down'
    const internal = spot.can.includes(direction === 'up' ? 'pull-up' : 'pull-down')
    if (input.pull === 'internal' && internal) return []
    const set = (pull: 'internal' | 'fitted') => (draft: Site) => {
      draft.inputs.find((i) => i.id === input.id)!.pull = pull
    }
    // 10 kΩ: common practice for a short lead; the current is Ohm's law.
    const milliamps = (board.logicVolts / 10).toFixed(2)
    return [
      found(
        'P07',
        'error',
        'Input without a pull',
        whereOf(controller, role),
        `${pinName(spot)} ${input.pull === 'none' ? 'has no pull switched on' : `has no internal pull-${direction}`} ` +
          `and none is fitted at ${input.name}.`,
        'An open contact leaves the pin floating: it may read either level. 10 kΩ to ' +
          `${direction === 'up' ? `${board.logicVolts} V` : 'ground'} holds it with ${milliamps} mA.`,
        [
          ...(internal
            ? [{ label: `Use the board's own pull-${direction}`, change: set('internal') }]
            : replan(site, controller, role.id)),
          { label: `Fit a 10 kΩ pull-${direction}`, change: set('fitted') },
        ],
      ),
    ]
  })

/** P08 analogue input unusable with the radio on */
export const analogueWithRadio: Check = (site) =>
  placedRoles(site)
    .filter(
      ({ controller, role, spot }) =>
        role.kind === 'input' &&
        role.input.sense === 'analogue' &&
        spot.analogueNeedsRadioOff &&
        controller.link === 'wifi',
    )
    .map(({ controller, role, spot }) =>
      found(
        'P08',
        'error',
        'Analogue pin fails with radio on',
        whereOf(controller, role),
        `${pinName(spot)} belongs to the second analogue bank, which the radio uses; ${roleName(role)} is read there.`,
        'Readings fail whenever Wi-Fi is on.',
        replan(site, controller, role.id),
      ),
    )

/** A part's signal whose level its board, or that it itself, does not stand. */
function stepsOf(site: Site, wanted: 'down' | 'up'): (Placed & { role: Extract<Role, { kind: 'signal' }> })[] {
  return placedRoles(site).flatMap((placed) => {
    const { role, board } = placed
    const profile = role.kind === 'signal' ? moduleIn(site, 'part', role.part.profile) : undefined
    if (role.kind !== 'signal' || !profile || levelStep(board, profile, role.signal) !== wanted) return []
    const { fitted = [] } = role.part
    const between = fitted.includes('level-shifter') || (wanted === 'down' && fitted.includes('divider'))
    // the coprocessor of a pair brings its own divider (core/wiring/pairWires.ts)
    if (between || isLineOfPair(site, placed.controller, role)) return []
    return [{ ...placed, role }]
  })
}

const isLineOfPair = (site: Site, controller: Controller, role: Extract<Role, { kind: 'signal' }>): boolean =>
  coprocessorOf(site, controller.id) !== undefined &&
  serialSignalOf(site, controller, 'serial-tx')?.part.id === role.part.id

/** P10 5 V signal into a 3.3 V pin, of the board or of a part */
export const fiveVoltsIn: Check = (site) => [...contactsAtFive(site), ...signalsDown(site)]

const contactsAtFive = (site: Site): Finding[] =>
  placedRoles(site).flatMap(({ controller, board, role, spot }) => {
    if (role.kind !== 'input' || role.input.volts <= board.logicVolts) return []
    const { input } = role
    return [
      found(
        'P10',
        'danger',
        '5 V into a 3.3 V pin',
        whereOf(controller, role),
        `${roleName(role)} brings ${input.volts} V to ${pinName(spot)}; the board takes ${board.logicVolts} V at most.`,
        'The pin, and often the board, is destroyed.',
        [
          {
            label: `Feed the contact from ${board.logicVolts} V`,
            change: (draft) => {
              draft.inputs.find((i) => i.id === input.id)!.volts = 3.3
            },
          },
        ],
      ),
    ]
  })

const signalsDown = (site: Site): Finding[] =>
  stepsOf(site, 'down').map(({ controller, board, role, spot }) => {
    const toPart = isDriven(role.signal)
    return found(
      'P10',
      'danger',
      toPart ? '5 V into a 3.3 V part' : '5 V into a 3.3 V pin',
      whereOf(controller, role),
      toPart
        ? `${pinName(spot)} sends ${board.logicVolts} V to ${roleName(role)}, which takes ${role.signal.volts} V at most.`
        : `${roleName(role)} brings ${role.signal.volts} V to ${pinName(spot)}; the board takes ${board.logicVolts} V at most.`,
      toPart ? 'The part is destroyed, at once or in weeks.' : 'The pin, and often the board, is destroyed.',
      [
        { label: 'Fit a divider', change: fit(controller, role.part.id, 'divider') },
        { label: 'Fit a level shifter', change: fit(controller, role.part.id, 'level-shifter') },
      ],
    )
  })

/** P15 3.3 V that must count as high at 5 V */
export const tooLowToCount: Check = (site) =>
  stepsOf(site, 'up').flatMap(({ controller, board, role, spot }): Finding[] => {
    const toPart = isDriven(role.signal)
    const [sends, hears] = toPart ? [pinName(spot), roleName(role)] : [roleName(role), pinName(spot)]
    const [has, at] = toPart ? [board.logicVolts, role.signal.volts] : [role.signal.volts, board.logicVolts]
    const high = at * (toPart ? THRESHOLD.high : (board.inputHigh ?? THRESHOLD.high))
    if (has >= high) return []
    return [
      found(
        'P15',
        'warning',
        '3.3 V into a 5 V input',
        whereOf(controller, role),
        `${sends} sends ${has} V to ${hears}, which takes ${high.toFixed(1)} V and more for high.`,
        'It works on the bench and fails in the cold, or with another part of the same name.',
        [{ label: 'Fit a level shifter', change: fit(controller, role.part.id, 'level-shifter') }],
      ),
    ]
  })

/** P17 two serial lines on one port of the chip, or more lines than it has ports */
export const onePortTwice: Check = (site) => [...samePort(site), ...morePorts(site)]

const morePorts = (site: Site): Finding[] =>
  site.controllers.flatMap((controller): Finding[] => {
    const ports = boardIn(site, controller.board)?.serialPorts
    const lines = rolesOf(site, controller.id).filter(
      (role) => role.kind === 'signal' && role.signal.need === 'serial-tx',
    )
    const wanted = lines.length + (controller.serialLog ? 1 : 0)
    if (ports === undefined || wanted <= ports) return []
    return [
      found(
        'P17',
        'error',
        'Not enough serial ports',
        atBoard(controller),
        `${lines.map(roleName).join(', ')}${controller.serialLog ? ' and the serial log' : ''} want ${wanted} serial ` +
          `ports; the chip has ${ports}.`,
        'A line without a port is done in software, which loses characters, or stays silent.',
        controller.serialLog
          ? [
              {
                label: 'Turn the serial log off',
                change: (draft) => {
                  draft.controllers.find((c) => c.id === controller.id)!.serialLog = false
                },
              },
            ]
          : [],
      ),
    ]
  })

const samePort = (site: Site): Finding[] =>
  site.controllers.flatMap((controller): Finding[] => {
    const board = boardIn(site, controller.board)
    if (!board || board.pairs === 'matrix') return []
    const units = board.pairs.filter(({ kind, unit }) => kind === 'serial' && unit !== undefined)
    const sending = placedRoles(site).filter(
      ({ controller: own, role }) =>
        own.id === controller.id && role.kind === 'signal' && role.signal.need === 'serial-tx',
    )
    const unitOf = ({ spot }: Placed) => units.find(({ first }) => first === spot.gpio)?.unit
    return sending.flatMap((one, i): Finding[] => {
      const unit = unitOf(one)
      const first = sending.slice(0, i).find((other) => unit !== undefined && unitOf(other) === unit)
      if (!first) return []
      return [
        found(
          'P17',
          'error',
          'Serial port used twice',
          whereOf(controller, one.role),
          `${pinName(first.spot)} and ${pinName(one.spot)} are the same serial port of the chip; ${roleName(first.role)} ` +
            `and ${roleName(one.role)} both send there.`,
          'The chip connects a port to one pair of pins at a time: one of the two stays silent.',
          replan(site, controller, one.role.id),
        ),
      ]
    })
  })

/** P11 label given where GPIO was meant, or the reverse */
export const labelOrGpio: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    if (!board) return []
    return rolesOf(site, controller.id).flatMap((role) => {
      const written = controller.pins[role.id]?.pin
      const reading = written === undefined ? undefined : readPinOn(site, controller, written)
      if (reading?.kind !== 'spot' || !reading.otherwise) return []
      const { spot, otherwise } = reading
      const write = (pin: string) => (draft: Site) => {
        draft.controllers.find((c) => c.id === controller.id)!.pins[role.id]!.pin = pin
      }
      return [
        found(
          'P11',
          'warning',
          'Pin name ambiguous',
          whereOf(controller, role),
          `"${written}" is read as GPIO ${spot.gpio}, printed ${spot.label}; it could also mean ` +
            `${otherwise.label}, which is GPIO ${otherwise.gpio}.`,
          'Labels and GPIO numbers differ on this board: a wire could go to the wrong pin.',
          [
            { label: `Use ${spot.label} (GPIO ${spot.gpio})`, change: write(spot.label) },
            { label: `Use ${otherwise.label} (GPIO ${otherwise.gpio})`, change: write(otherwise.label) },
          ],
        ),
      ]
    })
  })

/** P12 capability missing */
export const capabilityMissing: Check = (site) => [...inputsThatCannot(site), ...signalsThatCannot(site)]

const signalsThatCannot = (site: Site): Finding[] =>
  placedRoles(site).flatMap(({ controller, role, spot }) => {
    if (role.kind !== 'signal' || pinCost(controller, role, spot).cost < FORBIDDEN) return []
    return [
      found(
        'P12',
        'error',
        'Pin lacks a function',
        whereOf(controller, role),
        `${pinName(spot)} has ${pinCost(controller, role, spot).against.join(', ')}; ${roleName(role)} needs it.`,
        'The part does not work.',
        replan(site, controller, role.id),
      ),
    ]
  })

const inputsThatCannot = (site: Site): Finding[] =>
  placedRoles(site)
    .filter(
      ({ role, spot }) =>
        role.kind === 'input' &&
        (role.input.sense === 'analogue' ? !spot.can.includes('analogue') : !spot.can.includes('input')),
    )
    .map(({ controller, role, spot }) => {
      const need =
        role.kind === 'input' && role.input.sense === 'analogue' ? 'an analogue reading' : 'a digital reading'
      return found(
        'P12',
        'error',
        'Pin lacks a function',
        whereOf(controller, role),
        `${pinName(spot)} does not give ${need}, which ${roleName(role)} needs.`,
        'The input never changes.',
        replan(site, controller, role.id),
      )
    })

const atBoard = ({ id, name }: Controller): Where => ({ thing: 'controller', id, name, controller: id, step: 'bench' })

/**
 * P09 more roles than pins that can carry them, and P13 role without a pin: both ask for the one plan of the controller
 */
export const rolesAndPins: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    const plan = planPins(site, controller.id)
    return [
      ...(plan.kind === 'impossible' ? [moreRolesThanPins(controller, plan.reason)] : []),
      ...withoutPin(site, controller, plan.kind === 'planned'),
    ]
  })

const moreRolesThanPins = (controller: Controller, reason: string): Finding =>
  found(
    'P09',
    'error',
    'Not enough pins',
    atBoard(controller),
    `${reason}.`,
    'They cannot all be placed: unlock a pin, fit pulls, add an expander, choose another board, or ' +
      'add a second controller.',
  )

function withoutPin(site: Site, controller: Controller, canBePlanned: boolean): Finding[] {
  const roles = rolesOf(site, controller.id)
  const missing = roles.filter((role) => !controller.pins[role.id])
  if (missing.length === 0) return []
  // those that have a pin may be soldered: they stay where they are
  const ids = missing.map(({ id }) => id)
  const plan: Fix = { label: 'Plan pins', change: (draft) => replanRoles(draft, controller.id, ids) }
  return [
    found(
      'P13',
      'error',
      'Pins not assigned',
      { ...atBoard(controller), role: missing[0]!.id },
      `${missing.length} of ${roles.length} roles have no pin yet: ${missing.map(roleName).join(', ')}.`,
      'Nothing can be built or wired until each role has its pin.',
      canBePlanned ? [plan] : [],
    ),
  ]
}

/** P14 pin that this board does not have */
export const unknownPin: Check = (site) =>
  site.controllers.flatMap((controller) => {
    const board = boardIn(site, controller.board)
    if (!board)
      return [
        found(
          'P14',
          'error',
          'Board has no profile',
          { ...controllerPlace(controller), step: 'bench' },
          `There is no board profile "${controller.board}".`,
          'Pins can neither be planned nor checked.',
        ),
      ]
    return rolesOf(site, controller.id).flatMap((role) => {
      const written = controller.pins[role.id]?.pin
      if (written === undefined || readPinOn(site, controller, written).kind !== 'unknown') return []
      return [
        found(
          'P14',
          'error',
          'Pin not on this board',
          whereOf(controller, role),
          `"${written}" is no pin of the ${board.name}, which has ${gpioSpots(board).length}.`,
          'There is no such pin to solder to.',
          replan(site, controller, role.id),
        ),
      ]
    })
  })

export const pinChecks: readonly Check[] = [
  twoRolesOnOnePin,
  inputOnlyAsOutput,
  heldWrongAtStart,
  againstTheButton,
  activeAtStart,
  serialLogPins,
  flashPins,
  noPull,
  analogueWithRadio,
  rolesAndPins,
  fiveVoltsIn,
  tooLowToCount,
  pullsAgainst,
  onePortTwice,
  labelOrGpio,
  capabilityMissing,
  unknownPin,
]
