import { boardIn, moduleIn, type Port } from '../boards'
import { circuitOf, connectionRows, coprocessorLine, type Circuit } from '../wiring'
import { NO_PIN, type ControllerImage } from '../image'
import { topics } from '../topics'
import {
  channelOf,
  hubOf,
  inputsOn,
  linksOn,
  mainOf,
  pointOf,
  remotesOn,
  roomOf,
  setWordsText,
  type Controller,
  type Link,
  type Service,
  type Site,
} from '../site'
import { linkTable } from '../ways'
import { serviceKindIn } from '../services'
import { codeName } from '../infrared'
import { cautionsFor } from './cautions'
import { inMarkdown } from './markdown'
import { portOf } from './ports'

const cell = (text: string | number): string => String(text).replace(/\|/g, '\\|').replace(/\n/g, ' ')
const table = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  [
    `| ${head.join(' | ')} |`,
    `|${head.map(() => '---').join('|')}|`,
    ...rows.map((row) => `| ${row.map(cell).join(' | ')} |`),
  ].join('\n')

function cautions(site: Site, controller: string): string {
  const lines = cautionsFor(site, controller)
  return lines.length > 0 ? `\n## First\n\n${lines.map((line) => `- ${line}`).join('\n')}\n` : ''
}

type Lines = readonly string[]
/** A headed table; nothing where it has no rows. */
const section = (
  head: string,
  columns: Lines,
  rows: readonly (readonly (string | number)[])[],
  ...after: Lines
): Lines => (rows.length ? ['', `## ${head}`, '', table(columns, rows), ...after.flatMap((line) => ['', line])] : [])

const pointTable = (word: string, points: Service['points']): string =>
  table(
    [word, 'name', 'type', 'min', 'max', 'step', 'default', 'unit', 'app may', 'goes up'],
    points.map(({ vp, name, type, min, max, step, default: usual, unit, access, update }) => [
      `vp${vp}`,
      name,
      type,
      min,
      max,
      step,
      usual,
      unit,
      access,
      update.policy === 'change' ? 'on change' : `each ${update.everyMs} ms`,
    ]),
  )

const widgetTable = (widgets: Service['widgets'], points: Service['points']): string =>
  table(
    ['widget', 'kind', 'point', 'labels'],
    widgets.map(({ name, kind, inverted, point, labels }) => [
      name,
      `${kind}${inverted ? ' (inverted: see finding M03)' : ''}`,
      `vp${points.find(({ id }) => id === point)!.vp}`,
      labels?.join(' / ') ?? '',
    ]),
  )

/** An app service as one controller's maker sets it up; nothing where the controller has no point there. */
function serviceLines(site: Site, service: Service, controller: Controller): Lines {
  const points = service.points.filter((point) => point.controller === controller.id)
  if (points.length === 0) return []
  const widgets = service.widgets.filter((widget) => points.some((point) => point.id === widget.point))
  const kind = serviceKindIn(site, service.kind)
  const word = kind?.pointWord ?? 'point'
  const once = kind?.secrets.filter((secret) => secret.shownOnce).map((secret) => secret.label) ?? []
  return [
    '',
    `## ${service.name} (${kind?.name ?? service.kind})`,
    '',
    ...(kind?.steps.map((step, i) => `${i + 1}. ${step}.`) ?? []),
    '',
    `Each ${word} of ${controller.name}:`,
    '',
    pointTable(word, points),
    '',
    'Widgets. None is inverted: the firmware does that, once.',
    '',
    widgetTable(widgets, points),
    ...(once.length ? ['', `Shown a single time: ${once.join(', ')}. Put it into the credentials at once.`] : []),
  ]
}

function hubLines(site: Site, controller: Controller): Lines {
  const scheme = topics(site.id, controller.id)
  const rows = site.ways.flatMap((way) => {
    const channel = channelOf(site, way.channel)!
    if (way.kind !== 'hub' || channel.controller !== controller.id) return []
    const entity = hubOf(site, way.hub)!.entities.find((candidate) => candidate.id === way.entity)!
    const state = way.feedback === 'reports' ? scheme.state(entity.topic) : '(silent)'
    return [[entity.name, scheme.set(entity.topic), setWordsText(channel), state]]
  })
  return section(
    'Local hub, over the broker',
    ['entity', 'command topic (never retained)', 'words', 'state topic (retained)'],
    rows,
    `The controller says online or offline, retained, on \`${scheme.status}\`, and what it refuses on ` +
      `\`${scheme.log}\`.`,
  )
}

function pointTopicLines(site: Site, controller: Controller): Lines {
  const scheme = topics(site.id, controller.id)
  const rows = site.ways.flatMap((way) => {
    const point = way.kind === 'app' ? pointOf(site, way.service, way.point) : undefined
    if (point?.controller !== controller.id) return []
    return [[`vp${point.vp}`, scheme.pointSet(point.vp), scheme.pointHeld(point.vp), scheme.pointState(point.vp)]]
  })
  const columns = ['point', 'set by a person', 'value held by the service (retained)', 'reported by the controller']
  return section('Topics of the points', columns, rows)
}

function spokenLines(site: Site, controller: Controller): Lines {
  const rows = site.ways.flatMap((way) => {
    const channel = channelOf(site, way.channel)!
    if (way.kind !== 'voice' || channel.controller !== controller.id) return []
    return [[way.name, roomOf(site, channel.room)?.name ?? '', way.pin ? 'asks for a PIN' : '']]
  })
  return section('Spoken names', ['name', 'room', ''], rows)
}

function keyLines(site: Site, controller: Controller): Lines {
  const rows = remotesOn(site, controller.id).flatMap((remote) =>
    remote.keys.map(({ name, code, repeat }) => [
      remote.name,
      name,
      codeName(code),
      repeat.policy === 'once' ? 'once' : `each ${repeat.everyMs} ms`,
    ]),
  )
  return section('Remote keys', ['remote', 'key', 'code', 'held'], rows)
}

const linkLines = (site: Site, link: Link): Lines => [
  '',
  `## ${link.name}, ${link.baud} baud at both ends`,
  '',
  table(
    ['character', 'target', 'action'],
    linkTable(site, link).map((row) => [row.char, row.target, row.action]),
  ),
  '',
  `A status line comes on each change and each ${link.statusMs / 1000} s.`,
]

/** What to set up in the app service and the hub for one controller, step by step, from the one mapping. */
export const serviceSheet = (site: Site, controller: Controller): string => inMarkdown(site, controller, serviceText)

function serviceText(site: Site, controller: Controller): string {
  const lines: Lines = [
    `# ${controller.name}: service sheet`,
    '',
    `Site ${site.name}. Everything here comes from the site document; change it there, not here.`,
    ...site.services.flatMap((service) => serviceLines(site, service, controller)),
    ...hubLines(site, controller),
    ...pointTopicLines(site, controller),
    ...spokenLines(site, controller),
    ...keyLines(site, controller),
    ...linksOn(site, controller.id).flatMap((link) => linkLines(site, link)),
  ]
  return `${lines.join('\n')}\n`
}

/** What a maker pins for a build, with room for the versions. */
const pinned = (site: Site, controller: Controller): (readonly [string, string])[] => [
  ...(portOf(site, controller) === 'avr'
    ? [['compiler (avr-g++ --version)', ''] as const, ['avr-libc', ''] as const, ['avrdude', ''] as const]
    : [['board package', ''] as const, ['its compiler', ''] as const]),
  ...(portOf(site, controller) === 'avr' || controller.link === 'none'
    ? []
    : [['message client library', ''] as const, ['network library', ''] as const]),
  ['your sketch or changes (revision)', ''],
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
            `stands for ${main.name} on the network. Its serial line goes to ${main.name}, crossed; what a ` +
            '5 V board sends goes through a divider or a level shifter first. Nothing else may speak on ' +
            'that line, its log included. Flash both boards of a pair from builds with the same tables.',
        ]
      : []),
  ]
}

const PROGRAM_STEPS: Readonly<Record<Port, string>> = {
  avr:
    'In `firmware`, `make avr` compiles the program (gcc-avr 5.4 or newer, avr-libc 2.0 or newer); ' +
    '`make flash PORT=… PROGRAMMER=…` writes it.',
  'board-core':
    'Follow `firmware/ports/board-core/README.md`: one settings file, your message client, the versions that you pin.',
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
    ...(joins ? ['In `firmware`, copy secrets.example.h to secrets.h and fill it in.'] : []),
    ...lineSteps(site, controller, image),
    // what must be unplugged or held comes before what needs it
    ...before,
    PROGRAM_STEPS[port],
    ...(port === 'avr' && joins
      ? [
          'The program of this board has no network: points and entities do nothing here until a ' +
            'coprocessor stands for it. Switches, remote, rules and the serial link work.',
        ]
      : []),
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
  return (
    `# ${controller.name}: flash steps\n\n${board.name}.\n${cautions(site, controller.id)}\n## ` +
    `Pinned\n\nThe same bytes come out only of the same tools. Fill this in, and copy it into the ` +
    `logbook with the flash.\n\n${table(['what', 'version'], pinned(site, controller))}\n${settings}\n## ` +
    `Steps\n\n${steps.map((step, i) => `${i + 1}. ${step}`).join('\n')}\n\nThe data sheet of the part ` +
    `in hand decides wherever it differs from this sheet.\n`
  )
}

/** The connection list, to be ticked off with a pen. */
export const wiringSheet = (site: Site, controller: Controller): string => inMarkdown(site, controller, wiringText)

const RELAYS_TO_CHECK = [
  'the level that closes: fed, with nothing at its inputs, no relay may be in',
  'what its jumper joins, and whether the indicator is in series with the opto’s LED',
  'what is printed on the relays: volts of the coil; amperes and volts of the contact',
]
const SUPPLY_TO_CHECK = ['its volts and its poles, with a meter, before anything hangs on it']
const CONTACTOR_TO_CHECK = ['the volts printed at its coil, and the amperes of its category, AC-1 or AC-3']

/** What to look at on the board and the parts in hand, since others of the same name differ. */
function toCheck(site: Site, controller: Controller, circuit: Circuit): readonly (readonly [string, string])[] {
  const board = boardIn(site, controller.board)!
  const of = (name: string, check: readonly string[] = []) => check.map((line) => [name, line] as const)
  return [
    ...of(board.name, board.check),
    ...of(board.name, board.boxed ? [board.boxed.note, ...(board.boxed.marks ?? [])] : []),
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

function wiringText(site: Site, controller: Controller): string {
  const circuit = circuitOf(site, controller.id)
  const rows = connectionRows(site, circuit)
  const lines = (head: string, mains: boolean): string => {
    const wires = rows.filter((row) => row.mains === mains)
    const cells = wires.map((row) => ['☐', row.device, row.from, row.to, row.colour, row.note])
    return section(head, ['', 'device', 'from', 'to', 'colour', 'note'], cells).join('\n')
  }
  return (
    `# ${controller.name}: connections\n${cautions(site, controller.id)}\nColours are a suggestion for ` +
    `a ${site.mains.volts} V region; local code decides.\n` +
    `${section('Names', ['', 'what it is', 'mind'], namesOf(circuit)).join('\n')}\n` +
    `${section('Before you begin: look at what is in your hand', ['', 'look at'], toCheck(site, controller, circuit)).join('\n')}\n\n` +
    `${lines('Low voltage', false)}\n${lines('Mains, supply off and proved dead', true)}\n`
  )
}
