import { codeName } from '../infrared'
import { reachesDirectly, wireOf } from '../services'
import { topics } from '../topics'
import {
  contactsOf,
  controllerOf,
  hubOf,
  inputOf,
  inputRoles,
  keyOf,
  linkOf,
  outputRoles,
  pointOf,
  remoteOf,
  sensorOf,
  widgetsOf,
  type AppWay,
  type Channel,
  type Hub,
  type HubWay,
  type Input,
  type LinkWay,
  type RemoteWay,
  type Rule,
  type Service,
  type Site,
  type VoiceWay,
  type WallWay,
  type Way,
  kindOf,
  setWordsText,
  timeText,
} from '../site'
import { clockText, dayText } from './rules'

/** One station on the way from a finger to a contact, or back. */
export interface Station {
  readonly direction: 'to' | 'back'
  readonly text: string
}

type PinOf = (role: string) => string | null

const to = (text: string): Station => ({ direction: 'to', text })
const back = (text: string): Station => ({ direction: 'back', text })

/** The end of every path: what closes. */
function contacts(channel: Channel, pinOf: PinOf): Station[] {
  const pins = outputRoles(channel).map((role) => pinOf(role) ?? 'no pin yet')
  return kindOf(channel).closes(channel, pins).map(to)
}

/** Where the state of a channel stands: true for a door with a position contact. */
function truth(site: Site, channel: Channel): Station[] {
  const position = kindOf(channel).position(channel)
  if (!position) return []
  const contact = position.input ? inputOf(site, position.input) : undefined
  return [
    back(
      contact
        ? `${contact.name} closed means ${position.closedMeans}: the true state`
        : 'no position contact: unknown whether it moved',
    ),
  ]
}

/** What a selector's codes mean, and the switch without which they mean nothing. */
function detents(site: Site, input: Input): Station[] {
  if (input.kind !== 'selector') return []
  // as the table of the selector has them: bit 1 first
  const bitsOf = (code: number) => Array.from({ length: input.bits }, (_, bit) => (code >> bit) & 1).join('')
  const codes = input.table
    .flatMap((level, code) =>
      level === null ? [] : [`${bitsOf(code)} sets ${level === 0 ? 'off' : `level ${level}`}`],
    )
    .join(', ')
  const gate = input.gate ? inputOf(site, input.gate) : undefined
  return [to(codes), ...(gate ? [to(`only while ${gate.name} is closed, else off`)] : [])]
}

function wallPath(site: Site, way: WallWay, channel: Channel, pinOf: PinOf): Station[] {
  const input = inputOf(site, way.input)!
  const settle =
    input.settle === 'settle'
      ? `holds ${input.settleMs} ms, then counts`
      : `first edge counts, then ignored for ${input.settleMs} ms`
  const scheme = topics(site.id, channel.controller)
  const words = way.bindings.map((b) =>
    to(
      b.gesture === 'follow'
        ? 'closed is on, open is off'
        : b.gesture === 'select'
          ? 'sets the level'
          : `${b.gesture}: ${b.action}`,
    ),
  )
  const entity = site.hubs.flatMap((hub) => hub.entities).find((candidate) => candidate.channel === channel.id)
  return [
    to(
      `${input.name}, ${input.kind}: ${inputRoles(input)
        .map((role) => pinOf(role) ?? 'no pin yet')
        .join(', ')}, closes to ${input.closedLevel}`,
    ),
    to(settle),
    ...detents(site, input),
    ...(channel.kind === 'feed'
      ? [
          to(`hub heard: ${scheme.gesture(entity?.topic ?? channel.id)}, the hub works the lamps`),
          to('hub offline: it works the relay'),
        ]
      : []),
    ...words,
    ...contacts(channel, pinOf),
    ...truth(site, channel),
  ]
}

function appPath(site: Site, way: AppWay, channel: Channel, pinOf: PinOf): Station[] {
  const scheme = topics(site.id, channel.controller)
  const point = pointOf(site, way.service, way.point)!
  const own = ownConnection(
    site,
    site.services.find(({ id }) => id === way.service),
  )
  const words = kindOf(channel).scaling(channel, point.min, point.max)
  const sends = widgetsOf(site, way.service, point.id).map((widget) => {
    if (widget.kind === 'value' || widget.kind === 'gauge') return to(`${widget.kind} “${widget.name}”, display only`)
    if (widget.kind === 'push')
      return to(`push “${widget.name}” sends ${point.max} when pressed, ${point.min} when let go`)
    return to(
      `${widget.kind} “${widget.name}” sends ` +
        `${widget.inverted ? `${point.max} for off, ${point.min} for on` : `${point.min} for off, ${point.max} for on`}`,
    )
  })
  return [
    ...sends,
    to(`vp${point.vp}: ${point.min}–${point.max} by ${point.step}${point.unit ? ` ${point.unit}` : ''}`),
    to(own ?? scheme.pointSet(point.vp)),
    to(words.to),
    ...contacts(channel, pinOf),
    ...truth(site, channel),
    way.feedback === 'reports'
      ? back(`${own ?? scheme.pointState(point.vp)}: ${words.back}`)
      : back(way.feedback === 'silent' ? 'no state comes back' : 'unknown whether the state comes back'),
  ]
}

/** A service with a wire of its own hears nothing of the house's topics. */
const ownConnection = (site: Site, holder: Service | Hub | undefined): string | null =>
  holder && wireOf(site, holder) ? `over ${holder.name}’s own connection` : null

function hubPath(site: Site, way: HubWay, channel: Channel, pinOf: PinOf): Station[] {
  const scheme = topics(site.id, channel.controller)
  const hub = hubOf(site, way.hub)!
  const entity = hub.entities.find((candidate) => candidate.id === way.entity)!
  const own = ownConnection(site, hub)
  return [
    to(own ? `${entity.name}, ${own}` : `${scheme.set(entity.topic)}: ${setWordsText(channel)}`),
    ...contacts(channel, pinOf),
    ...truth(site, channel),
    back(way.feedback === 'reports' ? (own ?? `${scheme.state(entity.topic)}, retained`) : 'no state comes back'),
  ]
}

const deedOf = (way: RemoteWay | LinkWay): Station =>
  to(way.action === 'level' ? `level ${way.level ?? 0}` : way.action)

function remotePath(site: Site, way: RemoteWay, channel: Channel, pinOf: PinOf): Station[] {
  const key = keyOf(site, way.remote, way.key)!
  return [
    to(`“${key.name}” on ${remoteOf(site, way.remote)!.name}`),
    to(codeName(key.code)),
    to(
      key.repeat.policy === 'once'
        ? 'held or repeated within 250 ms: one press'
        : `held: again every ${key.repeat.everyMs} ms`,
    ),
    deedOf(way),
    ...contacts(channel, pinOf),
    back('the remote shows no state'),
  ]
}

function voicePath(site: Site, way: VoiceWay, channel: Channel, pinOf: PinOf): Station[] {
  const through = site.ways.find((other) => other.id === way.through)
  return [
    to(`“${way.name}”${way.pin ? ', after a spoken PIN' : ''}`),
    to(site.services.find((service) => service.id === way.service)?.name ?? way.service),
    ...(through && (through.kind === 'app' || through.kind === 'hub')
      ? pathOf(site, through, pinOf)
      : reachesDirectly(site, way)
        ? [
            to('over its own connection, by its id of this lamp'),
            ...contacts(channel, pinOf),
            ...truth(site, channel),
            back('the bridge is told of each change'),
          ]
        : [to('not connected: no point or entity behind it')]),
  ]
}

function linkPath(site: Site, way: LinkWay, channel: Channel, pinOf: PinOf): Station[] {
  const link = linkOf(site, way.link)!
  const controller = controllerOf(site, channel.controller)!
  return [
    to(`“${way.char}” on ${link.name}, ${link.baud} baud at both ends`),
    deedOf(way),
    ...contacts(channel, pinOf),
    back(`status line on change and every ${timeText(link.statusMs)}: ${channel.id}=…, from ${controller.name}`),
  ]
}

/** The whole path of a way, with its numbers, end to end. */
export function pathOf(site: Site, way: Way, pinOf: PinOf): Station[] {
  const channel = site.channels.find((candidate) => candidate.id === way.channel)!
  switch (way.kind) {
    case 'wall':
      return wallPath(site, way, channel, pinOf)
    case 'app':
      return appPath(site, way, channel, pinOf)
    case 'hub':
      return hubPath(site, way, channel, pinOf)
    case 'remote':
      return remotePath(site, way, channel, pinOf)
    case 'voice':
      return voicePath(site, way, channel, pinOf)
    case 'link':
      return linkPath(site, way, channel, pinOf)
  }
}

/** The path of a rule: what it reads, when it decides, what it does, and what keeps it from doing so. */
export function rulePath(site: Site, rule: Rule, pinOf: PinOf): Station[] {
  const channel = site.channels.find((candidate) => candidate.id === rule.channel)!
  const { auto } = controllerOf(site, channel.controller)!
  const hand = {
    yield: `a manual command pauses it for ${auto.yieldMinutes} min`,
    leave: 'a manual command turns auto off for the channel',
    ignore: 'a manual command is refused in auto',
  }[auto.hand]
  const level = rule.level !== null && contactsOf(channel) !== null ? `level ${rule.level}` : 'on'
  if (rule.kind === 'schedule')
    return [
      to(`${dayText(rule.days)} at ${clockText(rule.minute)}, local time; without a clock it does nothing`),
      to(rule.action === 'level' ? `level ${rule.level ?? 0}` : rule.action),
      to(hand),
      ...contacts(channel, pinOf),
    ]
  const sensor = sensorOf(site, rule.sensor)
  const unit = sensor?.unit ? ` ${sensor.unit}` : ''
  const above = rule.direction === 'above'
  return [
    to(
      `${sensor?.name ?? rule.sensor}: a reading every ${timeText(sensor?.everyMs ?? 0)}, out of date after ` +
        `${timeText(sensor?.staleMs ?? 3 * (sensor?.everyMs ?? 0))}`,
    ),
    to(
      `${level} at ${above ? '≥' : '≤'} ${rule.on}${unit}, off at ${above ? '≤' : '≥'} ` +
        `${rule.off}${unit}, unchanged between`,
    ),
    to(rule.dwellMs ? `stays as it is for ${timeText(rule.dwellMs)} at least` : 'may change at any reading'),
    to(`without a recent reading: ${rule.whenStale === 'off' ? 'off' : 'stays as it is'}`),
    to(hand),
    ...contacts(channel, pinOf),
  ]
}
