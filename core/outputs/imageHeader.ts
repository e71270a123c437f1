import type { ControllerImage, ImageBinding, ImageChannel, ImageInput, ImagePoint } from '../image'
import { topicPrefix } from '../topics'

/** A C string literal. Ids and topics are checked long before; this keeps a stray one from breaking out of its quotes. */
export const cString = (text: string): string => `"${text.replace(/[\\"]/g, '\\$&').replace(/[^\x20-\x7e]/g, '?')}"`

const flag = (value: boolean): string => (value ? 'true' : 'false')

const inputRow = (input: ImageInput): string =>
  `{${cString(input.id)}, ${input.gpio}, InputKind::${input.kind}, Pull::${input.pull}, ${flag(input.analogue)}, ${input.closedLevel}, Settle::${input.settle}, ${input.settleMs}, ${input.holdMs}}`

const channelRow = (channel: ImageChannel): string =>
  `{${cString(channel.id)}, ${cString(channel.topic)}, ${channel.gpio}, ${flag(channel.activeLow)}, ${channel.maxOnMs}UL, ${channel.minOffMs}UL, PowerUp::${channel.powerUp}, ${channel.waitMs}UL, ${flag(channel.otherwise === 'last')}, ${flag(channel.takesSet)}, ${flag(channel.reports)}}`

const bindingRow = (binding: ImageBinding): string => `{${binding.input}, Gesture::${binding.gesture}, Action::${binding.action}, ${binding.channel}}`

const pointRow = (point: ImagePoint): string => `{${point.vp}, ${point.channel}, ${point.off}, ${point.on}, ${flag(point.reports)}}`

/** A table, or a null pointer where it has no rows: C++ has no empty arrays. */
function table(type: string, name: string, rows: readonly string[]): string {
  if (rows.length === 0) return `constexpr const ${type}* ${name} = nullptr;`
  return `constexpr ${type} ${name}[] = {\n${rows.map((row) => `    ${row},`).join('\n')}\n};`
}

/** `image.h`: the controller's tables and nothing else. What they mean is the runtime's business. */
export function imageHeader(image: ControllerImage): string {
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

// id, gpio, kind, pull, analogue, closed level, settle, settle ms, hold ms
${table('Input', 'INPUTS', image.inputs.map(inputRow))}

// id, topic, gpio, active low, max on ms, min off ms, power-up, wait ms, otherwise last, takes set, reports
${table('Channel', 'CHANNELS', image.channels.map(channelRow))}

// input, gesture, action, channel
${table('Binding', 'BINDINGS', image.bindings.map(bindingRow))}

// virtual pin, channel, value of off, value of on, reports
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
    INPUTS, INPUT_COUNT,
    CHANNELS, CHANNEL_COUNT,
    BINDINGS, ${image.bindings.length},
    POINTS, POINT_COUNT,
};

}  // namespace image

#endif
`
}
