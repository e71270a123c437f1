import { boardIn } from '../boards'
import { codeName } from '../infrared'
import { holderOf, serviceKindIn, wireOf, type CredentialNeed } from '../services'
import {
  channelOf,
  channelsOn,
  controllersOfGroup,
  hubOf,
  isFeed,
  kindOf,
  linksOn,
  pointOf,
  remotesOn,
  roomOf,
  sensorsOn,
  setWordsText,
  timeText,
  type Controller,
  type Hub,
  type Link,
  type Point,
  type Sensor,
  type Service,
  type Site,
  type Way,
} from '../site'
import { isInHouse } from '../image'
import { topics } from '../topics'
import { secretsRead } from '../wires'
import { carriedBy, linkTable } from '../ways'
import { inMarkdown } from './markdown'
import { modemLines } from './modemSheet'
import { pairingLines } from './pairingSheet'
import { lacksNetwork, lacksNetworkLine } from './ports'
import { rangeOf } from './pointsTable'
import { linksHere, macroOf, secretsOf } from './secretsFile'
import { section, stepLines, table, type Lines } from './sheetTable'
import { reachWords, wireLines } from './wireSheet'

/** What to set up in the services and hubs for one controller, step by step, from the one mapping. */
export const serviceSheet = (site: Site, controller: Controller): string => inMarkdown(site, controller, serviceText)

function serviceText(site: Site, controller: Controller): string {
  const lines: Lines = [
    `# ${controller.name}: service sheet`,
    '',
    `Site ${site.name}. This sheet is written from the site document: change it there, not here.`,
    ...(lacksNetwork(site, controller)
      ? ['', `**${lacksNetworkLine(site, controller)}** What follows is for then.`]
      : []),
    ...site.services.flatMap((service) => serviceLines(site, service, controller)),
    ...site.services.flatMap((service) => voiceLines(site, service, controller)),
    ...site.hubs.flatMap((hub) => hubLines(site, hub, controller)),
    ...groupLines(site, controller),
    ...pointTopicLines(site, controller),
    ...sensorLines(site, controller),
    ...gestureLines(site, controller),
    ...statusLines(site, controller),
    ...modemLines(site, controller),
    ...keyLines(site, controller),
    ...linksOn(site, controller.id).flatMap((link) => linkLines(site, link)),
  ]
  return `${lines.join('\n')}\n`
}

/** When a reading is said: by the clock, and at once when it leaves the dead band round the one said last. */
function reported({ sensorS }: Controller, { deadBand, unit }: Pick<Sensor, 'deadBand' | 'unit'>): string {
  const change = deadBand ? `when it changes by more than ${deadBand} ${unit}`.trim() : 'on each change'
  return `every ${timeText(sensorS * 1_000)}, and at once ${change}`
}

/** When a point's value goes up: at a change, and again before anybody can believe that it is lost. */
function goesUp(site: Site, controller: Controller, { update, carries, access }: Point): string {
  if (access === 'write' || carries.kind === 'group') return 'never (set only)'
  const held = update.policy === 'every' ? `at most every ${timeText(update.everyMs)}` : 'on change'
  if (carries.kind === 'sensor') {
    const sensor = sensorsOn(site, controller.id).find(({ id }) => id === carries.sensor)
    return sensor ? reported(controller, sensor) : held
  }
  return carries.kind === 'mode' ? held : `${held}, and every ${timeText(controller.heartbeatS * 1_000)}`
}

function pointTable(site: Site, service: Service, controller: Controller, points: readonly Point[]): string {
  const keys = points.some(({ key }) => key !== undefined)
  const word = serviceKindIn(site, service.kind)?.pointWord ?? 'point'
  const head = [word, 'name', ...(keys ? ['name at the service'] : []), 'type', 'min', 'max', 'step', 'default', 'unit']
  return table(
    [...head, 'app access', 'carries', 'reported'],
    points.map((point) => [
      `vp${point.vp}`,
      point.name,
      ...(keys ? [point.key ?? ''] : []),
      ...rangeOf(point),
      carriedBy(site, service, point),
      goesUp(site, controller, point),
    ]),
  )
}

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

/** The controllers that hold any of these credentials. */
function rotated(site: Site, needs: readonly CredentialNeed[], controller: Controller): string {
  const ids = new Set(needs.flatMap(({ controllers }) => controllers))
  const names = site.controllers.filter(({ id }) => ids.has(id)).map(({ name }) => name)
  return names.length ? names.join(' and ') : controller.name
}

/** What a holder's credentials are for this controller, by the macros that its code reads. */
function credentialLines(site: Site, controller: Controller, holder: string): Lines {
  const needs = secretsOf(site, controller).filter(({ key }) => key.startsWith(`${holder}/`))
  return needs.length === 0
    ? []
    : [
        '',
        table(
          ['credential', 'in secrets.h', 'read by', ''],
          needs.map((need) => [
            need.label,
            macroOf(need),
            secretsRead(site, controller.id).get(need.key) ?? 'no program',
            need.shownOnce ? 'shown one time only: store it at once' : '',
          ]),
        ),
        '',
        `When one of them changes: store it under Credentials, download secrets.h of ${rotated(site, needs, controller)}, ` +
          'compile and flash each. Until then the old one is refused there; switches, remote and rules work all the same.',
      ]
}

/** An app service as one controller's maker sets it up; nothing where the controller has no point there. */
function serviceLines(site: Site, service: Service, controller: Controller): Lines {
  const points = service.points.filter((point) => point.controller === controller.id)
  if (points.length === 0) return []
  const widgets = service.widgets.filter((widget) => points.some((point) => point.id === widget.point))
  const kind = serviceKindIn(site, service.kind)
  return [
    '',
    `## ${service.name} (${kind?.name ?? service.kind})`,
    '',
    ...stepLines(kind?.steps ?? []),
    ...credentialLines(site, controller, service.id),
    ...pairingLines(site, controller, service.kind),
    '',
    `Each ${kind?.pointWord ?? 'point'} of ${controller.name}:`,
    '',
    pointTable(site, service, controller, points),
    ...(widgets.length
      ? ['', 'Widgets. None is inverted: only the firmware inverts.', '', widgetTable(widgets, points)]
      : []),
    '',
    reachWords(site, controller, service),
    ...wireLines(site, controller, service.id),
  ]
}

type Voice = Extract<Way, { kind: 'voice' }>
const spokenHere = (site: Site, service: Service, controller: Controller): Voice[] =>
  site.ways.filter(
    (way): way is Voice =>
      way.kind === 'voice' && way.service === service.id && channelOf(site, way.channel)?.controller === controller.id,
  )

const nameOfHolder = (site: Site, id: string): string =>
  site.services.find((one) => one.id === id)?.name ?? site.hubs.find((one) => one.id === id)?.name ?? id

/** A voice service: the names, with what each is to say, and how it comes to know them. */
function voiceLines(site: Site, service: Service, controller: Controller): Lines {
  const ways = spokenHere(site, service, controller)
  if (ways.length === 0) return []
  const kind = serviceKindIn(site, service.kind)
  const { linkedThrough } = service
  const steps: Lines = linkedThrough
    ? [
        `In the voice service’s app, link your account at ${nameOfHolder(site, linkedThrough)}: no key is needed here`,
        'Start its device search',
        'Assign each to its room, with the name in the table',
        'Say each phrase of the table once',
      ]
    : (kind?.steps ?? [])
  const rows = ways.map((way) => {
    const channel = channelOf(site, way.channel)!
    return [
      way.name,
      roomOf(site, channel.room)?.name ?? '',
      kindOf(channel).spoken.example(channel as never, way.name),
      way.key ?? '',
      way.pin ? 'asks for a PIN' : '',
    ]
  })
  return [
    '',
    `## ${service.name} (${kind?.name ?? service.kind})`,
    '',
    ...stepLines(steps),
    ...(linkedThrough ? [] : credentialLines(site, controller, service.id)),
    '',
    table(['spoken name', 'room', 'phrase to try', 'id at the service', ''], rows),
    ...directLines(site, controller, service),
  ]
}

/** A bridge that speaks to the controller itself. */
function directLines(site: Site, controller: Controller, service: Service): Lines {
  const direct = holderOf(site, service.id)?.service.points.some((point) => point.controller === controller.id)
  return wireOf(site, service) && direct
    ? ['', reachWords(site, controller, service), ...wireLines(site, controller, service.id)]
    : []
}

/** A hub with a wire of its own knows each entity by a point. */
function wiredEntities(site: Site, controller: Controller, hub: Hub): Lines {
  const points = holderOf(site, hub.id)!.service.points.filter((point) => point.controller === controller.id)
  const rows = points.map(({ vp, name, key, min, max, access, carries }) => [
    ...[`vp${vp}`, name, key ?? '', carries.kind === 'sensor' ? 'a reading' : `${min} to ${max}`],
    access === 'write' ? 'never (set only)' : 'on change',
  ])
  return [
    '',
    table(['point', 'entity', 'name at the hub', 'value', 'reported'], rows),
    '',
    reachWords(site, controller, hub),
    ...wireLines(site, controller, hub.id),
  ]
}

function hubLines(site: Site, hub: Hub, controller: Controller): Lines {
  const scheme = topics(site.id, controller.id)
  const rows = site.ways.flatMap((way) => {
    const channel = channelOf(site, way.channel)!
    if (way.kind !== 'hub' || way.hub !== hub.id || channel.controller !== controller.id) return []
    const entity = hubOf(site, way.hub)!.entities.find((candidate) => candidate.id === way.entity)!
    const state = way.feedback === 'reports' ? scheme.state(entity.topic) : '(silent)'
    return [[entity.name, scheme.set(entity.topic), setWordsText(channel), state]]
  })
  if (rows.length === 0) return []
  const kind = serviceKindIn(site, hub.kind)
  const programmed = !boardIn(site, controller.board)?.boxed?.parameters
  return [
    '',
    `## ${hub.name} (${kind?.name ?? hub.kind})`,
    '',
    ...stepLines(kind?.steps ?? []),
    ...credentialLines(site, controller, hub.id),
    ...(programmed ? pairingLines(site, controller, hub.kind) : []),
    ...(wireOf(site, hub)
      ? wiredEntities(site, controller, hub)
      : [
          '',
          table(['entity', 'command topic (never retained)', 'words', 'state topic (retained)'], rows),
          '',
          reachWords(site, controller, hub),
        ]),
    ...watchLines(hub, site, controller),
  ]
}

function watchLines(hub: Hub, site: Site, controller: Controller): Lines {
  if (!hub.watch || !channelsOn(site, controller.id).some(isFeed)) return []
  const { watchMs, programs = [] } = hub.watch
  const also = programs.length ? `, and only while ${programs.join(' and ')} answer too` : ''
  return [
    '',
    `Let ${hub.name} send “alive” to \`${topics(site.id, controller.id).watch}\` each ${timeText(Math.floor(watchMs / 3))}, ` +
      `not retained${also}: after ${timeText(watchMs)} without it the switches work the power of the smart lamps.`,
  ]
}

/** Groups that have a way of their own here. */
function groupLines(site: Site, controller: Controller): Lines {
  const { modeEntity } = controller
  const scheme = topics(site.id, controller.id)
  const mode = modeEntity
    ? [
        [
          `${controller.name}: auto, manual`,
          `${nameOfHolder(site, modeEntity.hub)}: “${modeEntity.name}”`,
          scheme.set('mode'),
        ],
      ]
    : []
  const rows = site.groups.flatMap((group) => {
    if (!controllersOfGroup(site, group).some(({ id }) => id === controller.id)) return []
    return (group.ways ?? []).flatMap((way) => {
      if (way.kind === 'hub')
        return [
          [group.name, `${nameOfHolder(site, way.hub)}: “${way.name}”`, topics(site.id, controller.id).set(group.id)],
        ]
      if (way.kind === 'voice')
        return [[group.name, `voice: “${way.name}”`, `by its ${way.through === 'hub' ? 'entity' : 'point'}`]]
      const point = pointOf(site, way.service, way.point)
      return point?.controller === controller.id
        ? [[group.name, `vp${point.vp}`, topics(site.id, controller.id).pointSet(point.vp)]]
        : []
    })
  })
  return section(
    'Groups and modes',
    ['group', 'way in', 'set'],
    [...rows, ...mode],
    'Words: on, off, toggle, up, down, stop; of a point 0 and 1. Only the hub knows who is at home: let it send off to a ' +
      'group at a departure, and manual while somebody stays.',
  )
}

function pointTopicLines(site: Site, controller: Controller): Lines {
  const scheme = topics(site.id, controller.id)
  // those of a service with a wire of its own go over that, and stand with it
  const points = site.services.flatMap((service) =>
    wireOf(site, service) ? [] : service.points.filter((point) => point.controller === controller.id),
  )
  const byNumber = [...new Map(points.map((point) => [point.vp, point])).values()]
  const rows = byNumber.map(({ vp, carries, access }) => [
    `vp${vp}`,
    carries.kind === 'sensor' ? '' : scheme.pointSet(vp),
    carries.kind === 'sensor' || carries.kind === 'group' ? '' : scheme.pointHeld(vp),
    access === 'write' || carries.kind === 'group' ? '' : scheme.pointState(vp),
  ])
  const columns = ['point', 'set by a person', 'value held by the service (retained)', 'reported by the controller']
  return section('Topics of the points', columns, rows)
}

const sensorLines = (site: Site, controller: Controller): Lines =>
  controller.link === 'none' || !isInHouse(site, controller)
    ? []
    : section(
        'Topics of the sensors',
        ['sensor', 'topic', 'unit', 'reported'],
        sensorsOn(site, controller.id).map(({ id, name, unit, deadBand }) => [
          name,
          topics(site.id, controller.id).sensor(id),
          unit,
          reported(controller, { deadBand, unit }),
        ]),
      )

function gestureLines(site: Site, controller: Controller): Lines {
  const topicOf = (id: string): string =>
    site.hubs.flatMap((hub) => hub.entities).find((entity) => entity.channel === id)?.topic ?? id
  const rows = channelsOn(site, controller.id)
    .filter(isFeed)
    .map(({ id, name }) => [name, topics(site.id, controller.id).gesture(topicOf(id))])
  const words = 'Words: press, release, hold, flip, closed, open. The hub works the smart lamps by them.'
  return section('Topics of the switches of feeds', ['feed', 'topic'], rows, words)
}

function statusLines(site: Site, controller: Controller): Lines {
  const scheme = topics(site.id, controller.id)
  if (controller.link === 'none') return []
  // on the broker of the house only: a service with a wire of its own shows on its page who is online
  if (!linksHere(site, controller).house) return []
  return [
    '',
    '## To know that it works',
    '',
    `The controller says online or offline, retained, on \`${scheme.status}\`; what it refuses, and the hash of its ` +
      `tables at each start, on \`${scheme.log}\`.`,
  ]
}

function keyLines(site: Site, controller: Controller): Lines {
  const rows = remotesOn(site, controller.id).flatMap((remote) =>
    remote.keys.map(({ name, code, repeat }) => [
      remote.name,
      name,
      codeName(code),
      repeat.policy === 'once' ? 'once' : `every ${timeText(repeat.everyMs)}`,
    ]),
  )
  return section(
    'Remote keys',
    ['remote', 'key', 'code', 'held'],
    rows,
    'Codes are hexadecimal: protocol, address, command.',
  )
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
  `A status line is sent on each change and every ${timeText(link.statusMs)}.`,
]
