import { FIRST_EXPANDER_GPIO } from '../pins'
import {
  linksOf,
  NO_INPUT,
  NO_LEVEL,
  NO_PIN,
  type ControllerImage,
  type ImageAction,
  type ImageBinding,
  type ImageChannel,
  type ImageChar,
  type ImageDeed,
  type ImageInput,
  type ImageKey,
  type ImageLink,
  type ImagePoint,
  type ImageRule,
  type ImageSchedule,
  type ImageSensor,
} from '../image'
import { topicPrefix, watchTopic } from '../topics'

/**
 * A C string literal of a text's bytes in UTF-8: a password is written as it was typed, byte by byte. What is no plain
 * character becomes three octal digits, which end by themselves (C11, 6.4.4.4; a hexadecimal escape would take the
 * characters after it), and so does the question mark, since two of them begin a trigraph (C++14, 2.4).
 */
export const cString = (text: string): string => `"${[...new TextEncoder().encode(text)].map(literal).join('')}"`

const PLAIN = /^[ !#->@-[\]-~]$/
function literal(byte: number): string {
  const character = String.fromCharCode(byte)
  if (PLAIN.test(character)) return character
  return character === '"' || character === '\\' ? `\\${character}` : `\\${byte.toString(8).padStart(3, '0')}`
}

/** Ids and topics as arrays of their own, so that a board may keep them in flash; each text once. */
class WordTable {
  private readonly names = new Map<string, string>()
  readonly add = (text: string): string => {
    const name = this.names.get(text) ?? `W${this.names.size}`
    this.names.set(text, name)
    return name
  }
  rows(): string {
    return [...this.names]
      .map(([text, name]) => `constexpr char ${name}[] VESTIBULE_FLASH = ${cString(text)};`)
      .join('\n')
  }
}

const flag = (value: boolean): string => (value ? 'true' : 'false')

/** Rows of a shared list, each owner knowing where its own begin. */
function starts<T>(
  owners: readonly T[],
  rowsOf: (owner: T) => readonly number[],
): { all: number[]; first: Map<T, number> } {
  const all: number[] = []
  const first = new Map<T, number>()
  for (const owner of owners) {
    first.set(owner, all.length)
    all.push(...rowsOf(owner))
  }
  return { all, first }
}

type Word = (text: string) => string

const inputRow = (words: Word, input: ImageInput, firstPin: number, firstCode: number): string =>
  `{${words(input.id)}, ${firstPin}, ${input.gpios.length}, ${firstCode}, InputKind::${input.kind}, ` +
  `Pull::${input.pull}, ${flag(input.analogue)}, ${input.closedLevel}, Settle::${input.settle}, ` +
  `${input.settleMs}, ${input.holdMs}}`

const channelRow = (
  words: Word,
  channel: ImageChannel,
  firstOutput: number,
  firstPattern: number,
  ruled: boolean,
): string =>
  `{${words(channel.id)}, ${words(channel.topic)}, ChannelKind::${channel.kind}, ${firstOutput}, ` +
  `${channel.gpios.length}, ${firstPattern}, ${channel.patterns.length - 1}, ${channel.gapMs}, ` +
  `${flag(channel.wrap)}, ${channel.onLevel}, ${flag(channel.activeLow)}, ${channel.maxOnMs}UL, ` +
  `${channel.minOffMs}UL, PowerUp::${channel.powerUp}, ${channel.waitMs}UL, ` +
  `${flag(channel.otherwise === 'last')}, ${flag(channel.takesSet)}, ${flag(channel.reports)}, ` +
  `${flag(channel.essential)}, ${channel.contact}, ${flag(channel.contactMeansClosed)}, ${flag(ruled)}}`

/** `auto` is a word of C++, so the runtime says autoOn. */
const actionName = (action: ImageAction): string => `Action::${action === 'auto' ? 'autoOn' : action}`

const deedRow = (deed: ImageDeed): string =>
  `{${actionName(deed.action)}, ${deed.level}, Target::${deed.on}, ${deed.index}}`

const bindingRow = (binding: ImageBinding): string =>
  `{${binding.input}, Gesture::${binding.gesture}, ${deedRow(binding)}}`

/** The enum's names: "nec-ext" is necExt. */
const protocolEnum = (protocol: ImageKey['protocol']): string =>
  protocol.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase())

const keyRow = (key: ImageKey): string =>
  `{Protocol::${protocolEnum(key.protocol)}, ${key.address}, ${key.command}, ${key.everyMs}, ${deedRow(key)}}`

const charRow = (char: ImageChar): string =>
  `{'${char.char.replace(/['\\]/g, '\\$&')}', ${flag(char.source === 'nearby')}, ${deedRow(char)}}`

const pointRow = (point: ImagePoint): string =>
  `{${point.vp}, Carries::${point.carries}, ${point.index}, ${point.min}, ${point.max}, ${flag(point.reports)}` +
  ` VESTIBULE_OF_LINK(${point.link ?? 0})}`

const linkRow = (words: Word, link: ImageLink): string =>
  `{${words(link.id)}, ${flag(link.outage === 'service')}, ${flag(link.own)}, ${flag(link.logs)}}`

const sensorRow = (words: Word, sensor: ImageSensor): string =>
  `{${words(sensor.id)}, ${sensor.deadBand}L, ${sensor.staleMs}UL}`

const ruleRow = (rule: ImageRule): string =>
  `{${rule.sensor}, ${flag(rule.above)}, ${rule.on}L, ${rule.off}L, ${rule.dwellMs}UL, ` +
  `${flag(rule.staleOff)}, ${rule.channel}, ${rule.level}}`

const scheduleRow = (schedule: ImageSchedule): string =>
  `{${schedule.days}, ${schedule.minute}, ${schedule.channel}, ${actionName(schedule.action)}, ${schedule.level}, ` +
  `${flag(schedule.catchUp)}}`

/** A table, or a null pointer where it has no rows: C++ has no empty arrays. */
function table(type: string, name: string, rows: readonly string[]): string {
  if (rows.length === 0) return `constexpr const ${type}* ${name} = nullptr;`
  return `constexpr ${type} ${name}[] VESTIBULE_FLASH = {\n${rows.map((row) => `    ${row},`).join('\n')}\n};`
}

/** The longest status line: "S ", "id=v " for each channel, "?=65535 ", "*XX" and the end of the line. */
const statusBytes = (image: ControllerImage): number =>
  2 + image.channels.reduce((sum, channel) => sum + channel.id.length + 3, 0) + 8 + 3 + 1

/** The lists inside of things, laid end to end, and the rows that speak of them. */
function layout(image: ControllerImage) {
  const words = new WordTable()
  const pins = starts(image.inputs, (input) => input.gpios)
  const codes = starts(image.inputs, (input) => input.table)
  const outputs = starts(image.channels, (channel) => channel.gpios)
  const patterns = starts(image.channels, (channel) => channel.patterns)
  const members = starts(image.groups, (group) => group.members)
  const ruled = (index: number): boolean =>
    [...image.rules, ...image.schedules].some(({ channel }) => channel === index)
  return {
    words,
    pins,
    codes,
    outputs,
    patterns,
    members,
    prefix: words.add(topicPrefix(image.site, image.controller)),
    watch: words.add(watchTopic(image.site)),
    hash: words.add(image.hash),
    inputs: image.inputs.map((input) => inputRow(words.add, input, pins.first.get(input)!, codes.first.get(input)!)),
    channels: image.channels.map((channel, index) =>
      channelRow(words.add, channel, outputs.first.get(channel)!, patterns.first.get(channel)!, ruled(index)),
    ),
    links: linksOf(image).map((link) => linkRow(words.add, link)),
    sensors: image.sensors.map((sensor) => sensorRow(words.add, sensor)),
    gates: image.inputs.some(({ gate }) => gate !== undefined)
      ? image.inputs.map(({ gate }) => String(gate ?? NO_INPUT))
      : [],
    levels: image.groups.some(({ levels }) => levels)
      ? image.groups.flatMap(({ members: all, levels }) => all.map((_, at) => levels?.[at] ?? NO_LEVEL))
      : [],
    groups: image.groups.map(
      (group) =>
        `{${words.add(group.id)}, ${flag(group.takesSet === true)}, ${members.first.get(group)!}, ${group.members.length}}`,
    ),
  }
}
type Layout = ReturnType<typeof layout>

const isExpanded = (gpio: number): boolean => gpio >= FIRST_EXPANDER_GPIO && gpio !== NO_PIN

/** The longest topic that the runtime says or hears, with its end. */
function longestTopic(image: ControllerImage): number {
  const behind = [
    'vp/255/state',
    'mode/state',
    ...image.channels.map(({ topic }) => `${topic}/gesture`),
    ...image.groups.map(({ id }) => `${id}/set`),
    ...image.sensors.map(({ id }) => `sensor/${id}`),
  ]
  const prefix = topicPrefix(image.site, image.controller)
  return Math.max(watchTopic(image.site).length, ...behind.map((end) => prefix.length + end.length)) + 1
}

const constants = (image: ControllerImage, { pins, outputs }: Layout): string => `\
constexpr const char* CLIENT_ID = ${cString(`${image.site}.${image.controller}`)};
constexpr const char* STATUS_TOPIC = ${cString(`${topicPrefix(image.site, image.controller)}status`)};
constexpr size_t LONGEST_TOPIC = ${longestTopic(image)};
constexpr size_t LONGEST_PAYLOAD = ${linksOf(image).some(({ own }) => own) ? 96 : 72};
constexpr uint32_t TOLD_BAUD = ${image.told?.baud ?? 0}UL;
constexpr size_t TOLD_BYTES = ${image.told?.relays[0]?.on.length ?? 0};
constexpr size_t TOLD_RELAYS = ${image.told?.relays.length ?? 0};
constexpr uint8_t STATUS_LIGHT_PIN = ${image.light?.gpio ?? NO_PIN};
constexpr bool STATUS_LIGHT_LIT_HIGH = ${flag(image.light?.lit === 1)};
constexpr uint8_t RECEIVER_PIN = ${image.receiver};
constexpr bool HAS_LINK = ${flag(image.link)};
constexpr bool HAS_EXPANDER = ${flag([...pins.all, ...outputs.all].some(isExpanded))};
constexpr uint8_t LINE_SENDS = ${image.line.sends};
constexpr uint8_t LINE_HEARS = ${image.line.hears};
constexpr uint32_t BAUD = ${image.serial?.baud ?? 0}UL;
constexpr size_t STATUS_BYTES = ${statusBytes(image)};
constexpr size_t INPUT_COUNT = ${image.inputs.length};
constexpr size_t CHANNEL_COUNT = ${image.channels.length};
constexpr size_t LINK_COUNT = ${linksOf(image).length};
constexpr size_t POINT_COUNT = ${image.points.length};
constexpr size_t SENSOR_COUNT = ${image.sensors.length};
constexpr size_t RULE_COUNT = ${image.rules.length};`

/** Frames that let go of and pull in each relay that is told over the serial line, end to end. */
const toldFrames = ({ told }: ControllerImage): string =>
  told
    ? `\n\n// frames for each relay: to let go, to pull in\n${table(
        'uint8_t',
        'TOLD_FRAMES',
        told.relays.flatMap(({ off, on }) => [off.join(', '), on.join(', ')]),
      )}`
    : '\n\nconstexpr const uint8_t* TOLD_FRAMES = nullptr;'

/** A table under the names of its columns. */
const explained = (columns: string, type: string, name: string, rows: readonly string[]): string =>
  `// ${columns}\n${table(type, name, rows)}`

const lists = ({ pins, codes, outputs, patterns, members, levels, gates }: Layout): string =>
  [
    '// GPIO of each input contact, level of each selector code, gate of each input (255: none), GPIO of each output, closed',
    '// contacts of each level, channels of each group and what on gives to each (255: on)',
    table('uint8_t', 'INPUT_PINS', pins.all.map(String)),
    table('uint8_t', 'SELECTOR_CODES', codes.all.map(String)),
    table('uint8_t', 'GATES', gates),
    table('uint8_t', 'OUTPUT_PINS', outputs.all.map(String)),
    table('uint8_t', 'PATTERNS', patterns.all.map(String)),
    table('uint8_t', 'MEMBERS', members.all.map(String)),
    table('uint8_t', 'MEMBER_LEVELS', levels.map(String)),
  ].join('\n')

const DEED = '{action, level, target, index}'
const INPUT_COLUMNS = 'id, first pin, pins, first code, kind, pull, analogue, closed level, settle, settle ms, hold ms'
const CHANNEL_COLUMNS =
  'id, topic, kind, first output, contacts, first pattern, top level, gap ms, wrap, on level, active low, max on ms, min\n' +
  '// off ms, power-up, wait ms, otherwise last, takes set, reports, essential, contact, closed means closed, ruled'
const POINT_COLUMNS = 'virtual pin, carries, index, least value, greatest value, reports, link'

const tables = (image: ControllerImage, { inputs, channels, groups, sensors, links }: Layout): string =>
  [
    explained(INPUT_COLUMNS, 'Input', 'INPUTS', inputs),
    explained(CHANNEL_COLUMNS, 'Channel', 'CHANNELS', channels),
    explained('id, takes set, first member, members', 'Group', 'GROUPS', groups),
    explained(`input, gesture, ${DEED}`, 'Binding', 'BINDINGS', image.bindings.map(bindingRow)),
    explained(`protocol, address, command, every ms, ${DEED}`, 'Key', 'KEYS', image.keys.map(keyRow)),
    explained(`character, nearby, ${DEED}`, 'Character', 'CHARACTERS', image.chars.map(charRow)),
    explained('id, outage: service wins, speaks of itself, logs', 'Link', 'LINKS', links),
    explained(POINT_COLUMNS, 'Point', 'POINTS', image.points.map(pointRow)),
    explained('id, dead band, stale ms (values in thousandths)', 'Sensor', 'SENSORS', sensors),
    explained(
      'sensor, above, on, off, dwell ms, stale is off, channel, level',
      'Rule',
      'RULES',
      image.rules.map(ruleRow),
    ),
    explained(
      'days, minute, channel, action, level, catch up',
      'Schedule',
      'SCHEDULES',
      image.schedules.map(scheduleRow),
    ),
  ].join('\n\n')

/** What any point carries, as bits in the order of the runtime's Carries. */
const CARRIES: readonly ImagePoint['carries'][] = ['channel', 'sensor', 'mode', 'group']
const carriedBits = ({ points }: ControllerImage): number =>
  CARRIES.reduce((sum, what, bit) => sum + (points.some(({ carries }) => carries === what) ? 1 << bit : 0), 0)

const imageRow = (image: ControllerImage, { prefix, watch, hash }: Layout): string => `\
constexpr Image IMAGE = {
    ${prefix}, ${watch}, ${hash},
    ${flag(image.link)},
    ${flag(linksOf(image).some(({ own }) => own))}, ${flag(image.modeTopic === true)}, ${carriedBits(image)},
    ${image.staggerMs},
    ${image.storeMs}UL,
    ${image.minReportMs},
    ${image.heartbeatMs}UL,
    ${image.sensorMs}UL,
    ${image.seed}UL,
    ${flag(image.auto.start)}, Hand::${image.auto.hand}, ${image.auto.yieldMs}UL,
    ${flag(image.watch !== null)}, ${image.watch?.watchMs ?? 0}UL, ${image.watch?.graceMs ?? 0}UL, ${image.watch?.steadyMs ?? 0}UL,
    ${flag(image.serial !== null)}, ${image.serial?.baud ?? 0}UL, ${image.serial?.statusMs ?? 0}UL,
    INPUT_PINS, SELECTOR_CODES, GATES, OUTPUT_PINS, PATTERNS, MEMBERS, MEMBER_LEVELS,
    INPUTS, ${image.inputs.length},
    CHANNELS, ${image.channels.length},
    GROUPS, ${image.groups.length},
    BINDINGS, ${image.bindings.length},
    KEYS, ${image.keys.length},
    CHARACTERS, ${image.chars.length},
    LINKS, ${linksOf(image).length},
    POINTS, ${image.points.length},
    SENSORS, ${image.sensors.length},
    RULES, ${image.rules.length},
    SCHEDULES, ${image.schedules.length},
};`

/** `image.h`: the controller's tables and nothing else. What they mean is the runtime's business. */
export function imageHeader(image: ControllerImage): string {
  const laid = layout(image)
  return `// Written by Vestibule: the tables of controller "${image.controller}" of site "${image.site}".
// Do not edit: change the site and build again. Tables ${image.hash}.
#ifndef VESTIBULE_IMAGE_H
#define VESTIBULE_IMAGE_H

#include "vestibule.h"

namespace image {

using namespace vestibule;

${constants(image, laid)}

// ids and topics
${laid.words.rows()}

${lists(laid)}${toldFrames(image)}

${tables(image, laid)}

${imageRow(image, laid)}

}  // namespace image

#endif
`
}
