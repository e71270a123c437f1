import { boardIn } from '../boards'
import { connectionsOf } from '../wiring'
import { NO_PIN, type ControllerImage } from '../image'
import { topics } from '../topics'
import { mainOf, channelOf, pointOf, remotesOn, roomOf, type Controller, type Site, setWordsText } from '../site'
import { linkTable } from '../ways'
import { serviceKindIn } from '../services'
import { codeName } from '../infrared'
import { hasMains, MAINS_CAUTIONS } from './cautions'
import { portOf } from './ports'

const cell = (text: string | number): string => String(text).replace(/\|/g, '\\|').replace(/\n/g, ' ')
const table = (head: readonly string[], rows: readonly (readonly (string | number)[])[]): string =>
  [
    `| ${head.join(' | ')} |`,
    `|${head.map(() => '---').join('|')}|`,
    ...rows.map((row) => `| ${row.map(cell).join(' | ')} |`),
  ].join('\n')

const cautions = (site: Site, controller: string): string =>
  hasMains(site, controller) ? `\n## First\n\n${MAINS_CAUTIONS.map((line) => `- ${line}`).join('\n')}\n` : ''

/** What to set up in the app service and the hub for one controller, step by step, from the one mapping. */
export function serviceSheet(site: Site, controller: Controller): string {
  const parts: string[] = [
    `# ${controller.name}: service sheet`,
    '',
    `Site ${site.name}. Everything here comes from the site document; change it there, not here.`,
  ]
  for (const service of site.services) {
    const points = service.points.filter((point) => point.controller === controller.id)
    if (points.length === 0) continue
    const widgets = service.widgets.filter((widget) => points.some((point) => point.id === widget.point))
    const kind = serviceKindIn(site, service.kind)
    const word = kind?.pointWord ?? 'point'
    parts.push(
      '',
      `## ${service.name} (${kind?.name ?? service.kind})`,
      '',
      ...(kind?.steps.map((step, i) => `${i + 1}. ${step}.`) ?? []),
    )
    parts.push(
      '',
      `Each ${word} of ${controller.name}:`,
      '',
      table(
        [word, 'name', 'type', 'min', 'max', 'step', 'default', 'unit', 'app may', 'goes up'],
        points.map((p) => [
          `vp${p.vp}`,
          p.name,
          p.type,
          p.min,
          p.max,
          p.step,
          p.default,
          p.unit,
          p.access,
          p.update.policy === 'change' ? 'on change' : `each ${p.update.everyMs} ms`,
        ]),
      ),
    )
    parts.push(
      '',
      'Widgets. None is inverted: the firmware does that, once.',
      '',
      table(
        ['widget', 'kind', 'point', 'labels'],
        widgets.map((w) => [
          w.name,
          `${w.kind}${w.inverted ? ' (inverted: see finding M03)' : ''}`,
          `vp${points.find((p) => p.id === w.point)!.vp}`,
          w.labels?.join(' / ') ?? '',
        ]),
      ),
    )
    const once = kind?.secrets.filter((secret) => secret.shownOnce) ?? []
    if (once.length)
      parts.push(
        '',
        `Shown a single time: ${once.map((secret) => secret.label).join(', ')}. Put it into the credentials at once.`,
      )
  }
  const scheme = topics(site.id, controller.id)
  const hubRows = site.ways.flatMap((way) => {
    const channel = site.channels.find((candidate) => candidate.id === way.channel)!
    if (way.kind !== 'hub' || channel.controller !== controller.id) return []
    const entity = site.hubs
      .find((hub) => hub.id === way.hub)!
      .entities.find((candidate) => candidate.id === way.entity)!
    return [
      [
        entity.name,
        scheme.set(entity.topic),
        setWordsText(channel),
        way.feedback === 'reports' ? scheme.state(entity.topic) : '(silent)',
      ],
    ]
  })
  if (hubRows.length)
    parts.push(
      '',
      '## Local hub, over the broker',
      '',
      table(['entity', 'command topic (never retained)', 'words', 'state topic (retained)'], hubRows),
      '',
      `The controller says online or offline, retained, on \`${scheme.status}\`, and what it refuses on ` +
        `\`${scheme.log}\`.`,
    )
  const pointRows = site.ways.flatMap((way) => {
    const point = way.kind === 'app' ? pointOf(site, way.service, way.point) : undefined
    return point && point.controller === controller.id
      ? [[`vp${point.vp}`, scheme.pointSet(point.vp), scheme.pointHeld(point.vp), scheme.pointState(point.vp)]]
      : []
  })
  if (pointRows.length)
    parts.push(
      '',
      '## Topics of the points',
      '',
      table(
        ['point', 'set by a person', 'value held by the service (retained)', 'reported by the controller'],
        pointRows,
      ),
    )
  const spoken = site.ways.flatMap((way) => {
    const channel = way.kind === 'voice' ? channelOf(site, way.channel)! : undefined
    return way.kind === 'voice' && channel?.controller === controller.id
      ? [[way.name, roomOf(site, channel.room)?.name ?? '', way.pin ? 'asks for a PIN' : '']]
      : []
  })
  if (spoken.length) parts.push('', '## Spoken names', '', table(['name', 'room', ''], spoken))
  const keys = remotesOn(site, controller.id).flatMap((remote) =>
    remote.keys.map((key) => [
      remote.name,
      key.name,
      codeName(key.code),
      key.repeat.policy === 'once' ? 'once' : `each ${key.repeat.everyMs} ms`,
    ]),
  )
  if (keys.length) parts.push('', '## Remote keys', '', table(['remote', 'key', 'code', 'held'], keys))
  for (const link of site.links.filter((one) => one.controller === controller.id || one.other === controller.id)) {
    parts.push(
      '',
      `## ${link.name}, ${link.baud} baud at both ends`,
      '',
      table(
        ['character', 'target', 'action'],
        linkTable(site, link).map((row) => [row.char, row.target, row.action]),
      ),
      '',
      `A status line comes on each change and each ${link.statusMs / 1000} s.`,
    )
  }
  return `${parts.join('\n')}\n`
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

/** How to get this build onto its board, and what to look at first. */
export function flashSteps(site: Site, controller: Controller, image: ControllerImage): string {
  const board = boardIn(site, controller.board)!
  const main = mainOf(site, controller.id)
  const steps = [
    ...(controller.link === 'none' ? [] : ['In `firmware`, copy secrets.example.h to secrets.h and fill it in.']),
    ...(portOf(site, controller) === 'avr'
      ? [
          'In `firmware`, `make avr` compiles the program (gcc-avr 5.4 or newer, avr-libc 2.0 or newer); ' +
            '`make flash PORT=… PROGRAMMER=…` writes it.',
        ]
      : [
          'Follow `firmware/ports/board-core/README.md`: one settings file, your message client, the versions that you pin.',
        ]),
    ...(portOf(site, controller) === 'avr' && controller.link !== 'none'
      ? [
          'The program of this board has no network: points and entities do nothing here until a ' +
            'coprocessor stands for it. Switches, remote, rules and the serial link work.',
        ]
      : []),
    ...(portOf(site, controller) === 'board-core' && image.serial !== null && image.line.sends !== NO_PIN
      ? [
          `The serial link is on GPIO ${image.line.sends} (sends) and ${image.line.hears} (hears): name the ` +
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
    `The tables are ${image.hash}${controller.link === 'none' ? '' : ': the firmware says so when its link comes up, and the logbook knows the build by them'}.`,
    ...board.programming,
    'Test in this order: controller alone, relays with no load, load. An indicator that is on while the ' +
      'lamp stays dark means lamp or wiring, not the controller.',
  ]
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
export function wiringSheet(site: Site, controller: Controller): string {
  const rows = connectionsOf(site, controller.id)
  const lines = (mains: boolean) =>
    rows.filter((row) => row.mains === mains).map((row) => ['☐', row.device, row.from, row.to, row.colour, row.note])
  const low = `## Low voltage\n\n${table(['', 'device', 'from', 'to', 'colour', 'note'], lines(false))}\n`
  const high = lines(true).length
    ? `\n## Mains, supply off and proved ` +
      `dead\n\n${table(['', 'device', 'from', 'to', 'colour', 'note'], lines(true))}\n`
    : ''
  return (
    `# ${controller.name}: connections\n${cautions(site, controller.id)}\nColours are a suggestion for ` +
    `a ${site.mains.volts} V region; local code decides.\n\n${low}${high}`
  )
}
