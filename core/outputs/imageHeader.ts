import type { ControllerImage, ImageBinding, ImageChannel, ImageInput, ImagePoint } from '../image'
import { topicPrefix } from '../topics'

/** A C string literal. Ids and topics are checked long before; this keeps a stray one from breaking out of its quotes. */
export const cString = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&').replace(/[^\x20-\x7e]/g, '?')}"`

const flag = (value: boolean): string => (value ? 'true' : 'false')

/** Rows of a shared list, each owner knowing where its own begin. */
function starts<T>(owners: readonly T[], rowsOf: (owner: T) => readonly number[]): { all: number[]; first: Map<T, number> } {
  const all: number[] = []
  const first = new Map<T, number>()
  for (const owner of owners) {
    first.set(owner, all.length)
    all.push(...rowsOf(owner))
  }
  return { all, first }
}

const inputRow = (input: ImageInput, firstPin: number, firstCode: number): string =>
  `{${cString(input.id)}, ${firstPin}, ${input.gpios.length}, ${firstCode}, InputKind::${input.kind}, Pull::${input.pull}, ${flag(input.analogue)}, ${input.closedLevel}, Settle::${input.settle}, ${input.settleMs}, ${input.holdMs}}`

const channelRow = (channel: ImageChannel, firstOutput: number, firstPattern: number): string =>
  `{${cString(channel.id)}, ${cString(channel.topic)}, ${flag(channel.kind === 'stepped')}, ${firstOutput}, ${channel.gpios.length}, ${firstPattern}, ${channel.patterns.length - 1}, ${channel.gapMs}, ${flag(channel.wrap)}, ${channel.onLevel}, ${flag(channel.activeLow)}, ${channel.maxOnMs}UL, ${channel.minOffMs}UL, PowerUp::${channel.powerUp}, ${channel.waitMs}UL, ${flag(channel.otherwise === 'last')}, ${flag(channel.takesSet)}, ${flag(channel.reports)}}`

const bindingRow = (binding: ImageBinding): string => `{${binding.input}, Gesture::${binding.gesture}, Action::${binding.action}, ${binding.channel}}`

const pointRow = (point: ImagePoint): string => `{${point.vp}, ${point.channel}, ${point.min}, ${point.max}, ${flag(point.reports)}}`

/** A table, or a null pointer where it has no rows: C++ has no empty arrays. */
function table(type: string, name: string, rows: readonly string[]): string {
  if (rows.length === 0) return `constexpr const ${type}* ${name} = nullptr;`
  return `constexpr ${type} ${name}[] = {\n${rows.map((row) => `    ${row},`).join('\n')}\n};`
}

/** `image.h`: the controller's tables and nothing else. What they mean is the runtime's business. */
export function imageHeader(image: ControllerImage): string {
  const pins = starts(image.inputs, (input) => input.gpios)
  const codes = starts(image.inputs, (input) => input.table)
  const outputs = starts(image.channels, (channel) => channel.gpios)
  const patterns = starts(image.channels, (channel) => channel.patterns)
  return `// Written by Vestibule: the tables of controller "${image.controller}" of site "${image.site}".
// Do not edit: change the site and build again. Tables ${image.hash}.
#ifndef VESTIBULE_IMAGE_H
#define VESTIBULE_IMAGE_H

#include "vestibule.h"

namespace image {

using namespace vestibule;

constexpr const char* CLIENT_ID = ${cString(`${image.site}.${image.controller}`)};
constexpr size_t INPUT_COUNT = ${image.inputs.length};
constexpr size_t CHANNEL_COUNT = ${image.channels.length};
constexpr size_t POINT_COUNT = ${image.points.length};

// GPIO of each input contact, level of each selector code, GPIO of each output, closed contacts of each level
${table('uint8_t', 'INPUT_PINS', pins.all.map(String))}
${table('uint8_t', 'SELECTOR_CODES', codes.all.map(String))}
${table('uint8_t', 'OUTPUT_PINS', outputs.all.map(String))}
${table('uint8_t', 'PATTERNS', patterns.all.map(String))}

// id, first pin, pins, first code, kind, pull, analogue, closed level, settle, settle ms, hold ms
${table('Input', 'INPUTS', image.inputs.map((input) => inputRow(input, pins.first.get(input)!, codes.first.get(input)!)))}

// id, topic, stepped, first output, contacts, first pattern, top level, gap ms, wrap, on level, active low, max on ms, min off ms, power-up, wait ms, otherwise last, takes set, reports
${table('Channel', 'CHANNELS', image.channels.map((channel) => channelRow(channel, outputs.first.get(channel)!, patterns.first.get(channel)!)))}

// input, gesture, action, channel
${table('Binding', 'BINDINGS', image.bindings.map(bindingRow))}

// virtual pin, channel, least value, greatest value, reports
${table('Point', 'POINTS', image.points.map(pointRow))}

constexpr Image IMAGE = {
    ${cString(topicPrefix(image.site, image.controller))},
    ${cString(image.hash)},
    ${flag(image.link)},
    ${flag(image.outage === 'service')},
    ${image.staggerMs},
    ${image.storeMs}UL,
    ${image.minReportMs},
    ${image.heartbeatMs}UL,
    ${image.seed}UL,
    INPUT_PINS, SELECTOR_CODES, OUTPUT_PINS, PATTERNS,
    INPUTS, INPUT_COUNT,
    CHANNELS, CHANNEL_COUNT,
    BINDINGS, ${image.bindings.length},
    POINTS, POINT_COUNT,
};

}  // namespace image

#endif
`
}
