import { LIGHT_STATES, LIGHT_WORDS } from '../device'
import { boardIn, moduleIn, UNDRIVEN, type Port } from '../boards'
import { circuitOf, connectionRows, coprocessorLine, type Circuit } from '../wiring'
import { NO_PIN, type ControllerImage } from '../image'
import { inputsOn, mainOf, sensorOf, type Controller, type Site } from '../site'
import { cautionsFor } from './cautions'
import { inMarkdown } from './markdown'
import { lacksNetwork, lacksNetworkLine, portOf } from './ports'
import { section, table, type Lines } from './sheetTable'

function cautions(site: Site, controller: string): string {
  const lines = cautionsFor(site, controller)
  return lines.length > 0 ? `\n## First\n\n${lines.map((line) => `- ${line}`).join('\n')}\n` : ''
}

/** What a maker pins for a build, with room for the versions. */
export const pinnedTools = (site: Site, controller: Controller): readonly string[] => [
  ...(portOf(site, controller) === 'avr'
    ? ['compiler (avr-g++ --version)', 'avr-libc', 'avrdude']
    : ['board package', 'its compiler']),
  'your sketch or changes (revision)',
]

const ownLine = ({ sends, hears }: ControllerImage['line']) =>
  sends === NO_PIN ? null : { sends: `GPIO ${sends}`, hears: String(hears) }

/** What the link of a board says on its flash steps: where the port stands, and of a coprocessor what it is. */
function lineSteps(site: Site, controller: Controller, { serial, line }: ControllerImage): Lines {
  const main = mainOf(site, controller.id)
  // the tables of a pair are the main board's: their pins are not the coprocessor's
  const at = main ? coprocessorLine(boardIn(site, controller.board)!) : ownLine(line)
  return [
    ...(portOf(site, controller) === 'board-core' && serial !== null && at !== null
      ? [
          `The serial link is on ${at.sends} (sends) and ${at.hears} (hears): name the ` +
            `port that stands there in settings.h (VESTIBULE_LINE), unless it is the board's first.`,
        ]
      : []),
    ...(main
      ? [
          `This board is the coprocessor of ${main.name}: it runs the same tables, drives nothing, and ` +
            `connects ${main.name} to the network. Its serial line goes to ${main.name}, crossed; what a ` +
            '5 V board sends goes through a divider or a level shifter first. Nothing else may speak on ' +
            'that line, its log included. Flash both boards of a pair from builds with the same tables.',
        ]
      : []),
  ]
}

/** What of the parts beside the board no port reads or writes by itself. */
function driverSteps(site: Site, controller: Controller, { sensors }: ControllerImage): Lines {
  const parts = controller.parts.flatMap(({ profile, name }) =>
    UNDRIVEN[profile] ? [`${name} (${UNDRIVEN[profile]})`] : [],
  )
  const how =
    portOf(site, controller) === 'avr'
      ? 'readSensor in `firmware/ports/avr/sensors.cpp` gives its reading in thousandths'
      : 'your sketch calls `controllerReads(NUMBER, THOUSANDTHS)` in loop()'
  const numbers = sensors.map(({ id }, i) => `${i} is ${sensorOf(site, id)?.name ?? id}`).join(', ')
  return [
    ...(parts.length ? [`Yours to write, the build does not: ${parts.join(', ')}.`] : []),
    ...(sensors.length ? [`Readings: ${how}; ${numbers}. Until then rules do what they do with an old reading.`] : []),
  ]
}

const PROGRAM_STEPS: Readonly<Record<Port, string>> = {
  avr:
    'In `firmware`, `make avr` compiles the program (gcc-avr 5.4 or newer, avr-libc 2.0 or newer); ' +
    '`make flash PORT=… PROGRAMMER=…` writes it.',
  'board-core': 'Follow `firmware/ports/board-core/README.md`: one line in settings.h, and the versions that you pin.',
}

/** What to do at the board before and after the program goes onto it; nothing of a log that is silent here. */
function atTheBoard(site: Site, controller: Controller, image: ControllerImage): { before: Lines; after: Lines } {
  const { programming } = boardIn(site, controller.board)!
  const isFirst = (line: string): boolean => line.startsWith('First start')
  const logs = controller.serialLog && image.serial === null
  const told =
    controller.link === 'none'
      ? 'First start: the serial log is off; work a switch, and its relay’s indicator must follow.'
      : 'First start: the serial log is off here; the tables’ hash comes on the controller’s `log` topic.'
  return {
    before: programming.filter((line) => !isFirst(line)),
    after: programming.filter(isFirst).map((line) => (!logs && line.includes('serial log') ? told : line)),
  }
}

function stepsOf(site: Site, controller: Controller, image: ControllerImage): Lines {
  const port = portOf(site, controller)
  const joins = controller.link !== 'none'
  const { before, after } = atTheBoard(site, controller, image)
  return [
    ...(controller.twoLineFlash
      ? [
          'Write the flash in the mode of two data lines (DIO, or DOUT): two of its pins carry other things here, and in ' +
            'the mode of four lines the board does not start.',
        ]
      : []),
    ...(joins ? ['In `firmware`, copy secrets.example.h to secrets.h and fill it in.'] : []),
    ...lineSteps(site, controller, image),
    // what must be unplugged or held comes before what needs it
    ...before,
    PROGRAM_STEPS[port],
    ...(lacksNetwork(site, controller) ? [lacksNetworkLine(site, controller)] : []),
    ...driverSteps(site, controller, image),
    ...after,
    `The tables are ${image.hash}` +
      `${joins ? ': the firmware says so when its link comes up, and the logbook knows the build by them' : ''}.`,
    'Test in this order: controller alone, relays with no load, load. An indicator that is on while the ' +
      'lamp stays dark means lamp or wiring, not the controller.',
  ]
}

/** What to set on a board that nobody programs, from the hub that it is in. */
export const setupSteps = (site: Site, controller: Controller): string => inMarkdown(site, controller, setupText)

function setupText(site: Site, controller: Controller): string {
  const board = boardIn(site, controller.board)!
  const { number, what, switches } = board.boxed!.parameters!
  const follows = (input: string): boolean =>
    site.ways.some(
      (way) => way.kind === 'wall' && way.input === input && way.bindings.some(({ gesture }) => gesture === 'follow'),
    )
  const rows = inputsOn(site, controller.id).map(({ id, name, kind }) => {
    const value = kind === 'momentary' ? switches.momentary : follows(id) ? switches.follow : switches.flip
    return [
      name,
      kind === 'momentary' ? 'push switch' : follows(id) ? 'rocker that follows' : 'rocker that toggles',
      value,
    ]
  })
  const steps = [
    'Wire it as the connection list says, with the supply off.',
    'Include it in the mesh from the hub, close to it.',
    ...board.programming,
    'Test in this order: with no load, then with the load.',
  ]
  return (
    `# ${controller.name}: set-up steps\n\n${board.name}. It is not programmed: there is no firmware and no secrets file.\n` +
    `${cautions(site, controller.id)}` +
    `${section(`Parameter ${number}, ${what}`, ['switch', 'kind', 'value'], rows).join('\n')}\n\n## Steps\n\n` +
    `${steps.map((step, i) => `${i + 1}. ${step}`).join('\n')}\n`
  )
}

/** How to get this build onto its board, and what to look at first. */
export const flashSteps = (site: Site, controller: Controller, image: ControllerImage): string =>
  inMarkdown(site, controller, (printed, own) => flashText(printed, own, image))

function flashText(site: Site, controller: Controller, image: ControllerImage): string {
  const board = boardIn(site, controller.board)!
  const steps = stepsOf(site, controller, image)
  const settings = board.settings.length
    ? `\n## Settings of the board package\n\n${table(
        ['setting', 'choose'],
        board.settings.map((row) => [row.name, row.value]),
      )}\n`
    : ''
  const light = image.light
    ? section(
        'The board’s light',
        ['it shows', ''],
        LIGHT_STATES.map((state) => [state, LIGHT_WORDS[state]]),
      ).join('\n')
    : ''
  return (
    `# ${controller.name}: flash steps\n\n${board.name}.\n${cautions(site, controller.id)}\n## ` +
    `Pinned\n\nThe same firmware comes only from the same versions. Fill this in, and copy it into the ` +
    `logbook with the flash.\n\n${table(
      ['what', 'version'],
      pinnedTools(site, controller).map((tool) => [tool, '']),
    )}\n${settings}\n## ` +
    `Steps\n\n${steps.map((step, i) => `${i + 1}. ${step}`).join('\n')}\n${light}\n\nThe data sheet of the part ` +
    `in hand decides wherever it differs from this sheet.\n`
  )
}

/** The connection list, to be ticked off with a pen. */
export const wiringSheet = (site: Site, controller: Controller): string => inMarkdown(site, controller, wiringText)

const RELAYS_TO_CHECK = [
  'its active level: with supply on and inputs open, no relay may be on',
  'what its jumper joins, and whether the indicator is in series with the opto’s LED',
  'what is printed on the relays: coil voltage; contact current and voltage',
]
const SUPPLY_TO_CHECK = ['its voltage and polarity, with a meter, before anything is connected']
const CONTACTOR_TO_CHECK = ['the voltage printed at its coil, and the current of its category, AC-1 or AC-3']

/** What to look at on the board and the parts in hand, since others of the same name differ. */
function toCheck(site: Site, controller: Controller, circuit: Circuit): readonly (readonly [string, string])[] {
  const board = boardIn(site, controller.board)!
  const of = (name: string, check: readonly string[] = []) => check.map((line) => [name, line] as const)
  return [
    ...of(board.name, board.check),
    ...of(board.name, board.boxed?.marks),
    ...(controller.module && !board.boxed ? of('relay module', RELAYS_TO_CHECK) : []),
    ...(controller.supply ? of('supply', SUPPLY_TO_CHECK) : []),
    ...(circuit.devices.some(({ kind }) => kind === 'contactor') ? of('contactor', CONTACTOR_TO_CHECK) : []),
    ...controller.parts
      .filter(({ name }) => circuit.devices.some(({ kind, title }) => kind === 'part' && title === name))
      .flatMap((part) => of(part.name, moduleIn(site, 'part', part.profile)?.check)),
  ]
}

/** Every thing by its one name. */
const namesOf = ({ devices }: Circuit): readonly (readonly string[])[] =>
  devices.map(({ ref, title, type, notes }) => [
    ref,
    type.toLowerCase().includes(title.toLowerCase()) ? type : `${title}: ${type}`,
    notes.join('; '),
  ])

/** What must be known of a box before anything else, where nobody can miss it. */
function boxNote(site: Site, controller: Controller): string {
  const board = boardIn(site, controller.board)!
  return board.boxed ? `\n> **Caution: ${board.name}: ${board.boxed.note}.**\n` : ''
}

function wiringText(site: Site, controller: Controller): string {
  const circuit = circuitOf(site, controller.id)
  const rows = connectionRows(site, circuit)
  const lines = (head: string, mains: boolean): string => {
    const wires = rows.filter((row) => row.mains === mains)
    const cells = wires.map((row) => ['☐', row.device, row.from, row.to, row.colour, row.note])
    return section(head, ['', 'device', 'from', 'to', 'colour', 'note'], cells).join('\n')
  }
  return (
    `# ${controller.name}: connections\n${boxNote(site, controller)}${cautions(site, controller.id)}\nColours are a suggestion for ` +
    `a ${site.mains.volts} V region; local code decides.\n` +
    `${section('Names', ['', 'what it is', 'caution'], namesOf(circuit)).join('\n')}\n` +
    `${section('Before you begin: check the parts in your hand', ['', 'check'], toCheck(site, controller, circuit)).join('\n')}\n\n` +
    `${lines('Low voltage', false)}\n${lines('Mains, supply off and proved dead', true)}\n`
  )
}
