import type { ModemDialogue } from '../boards'
import type { ControllerImage } from '../image'
import type { Controller } from '../site'
import type { ControllerWires, LinkWire, MqttLink, OwnLink, Text } from '../wires'
import { cString } from './imageHeader'
import { LARGER, largest, lengthOf, SIGNATURE_BYTES } from './lengths'
import { macroFor } from './macros'

/**
 * `modem_image.h`: what the modem of an 8-bit board is told, as tables. Commands and answers on the way to the network
 * are of ITU-T V.250 (07/2003) and 3GPP TS 27.007 (clauses from memory); those of the connection are the profile's.
 */
export function modemHeader(
  controller: Controller,
  dialogue: ModemDialogue,
  image: ControllerImage,
  wires: ControllerWires,
): string {
  const words = new Words()
  const steps = stepsOf(controller).map((step) => stepRow(words, step))
  const row = dialogueRow(words, dialogue)
  return `// Written by Vestibule: how the modem of controller "${controller.id}" is spoken to.
// Do not edit: change the modem's profile or the site and build again.
#ifndef VESTIBULE_MODEM_IMAGE_H
#define VESTIBULE_MODEM_IMAGE_H

#include "modem.h"
#include "secrets.h"

namespace modem_image {

using namespace vestibule::modem;

${words.rows()}

constexpr Step STEPS[] VESTIBULE_FLASH = {
${steps.map((step) => `    ${step},`).join('\n')}
};
constexpr Dialogue DIALOGUE = {STEPS, ${steps.length}, ${row}};
constexpr uint32_t BAUD = ${dialogue.baud};
/// 0: no limit.
constexpr uint32_t BYTES_A_DAY = ${(controller.modem?.kilobytesADay ?? 0) * 1_000}UL;

${LARGER}
/// The longest that is said at once, the greeting, and the longest that is heard, as bytes of MQTT.
${sizes(image, wires)}

}  // namespace modem_image

#endif
`
}

interface Step {
  readonly says: readonly string[]
  readonly answer?: string
  readonly reads?: 'signal' | 'registration'
  /** s that the modem may think, and s that it is asked again */
  readonly answerS: number
  readonly patienceS: number
  readonly unless?: string
}

/** A modem may take minutes to attach and to activate (common practice; 3GPP TS 27.007 sets no time). */
const ATTACH_S = 150
/** The least time that registration is given (common practice). */
const REGISTERS_S = 60
const USER = macroFor('modem/user')
const quoted = (macro: string): readonly string[] => [cString('"'), macro, cString('"')]

const stepsOf = ({ modem }: Controller): readonly Step[] => {
  const joinS = modem?.joinS ?? 30
  return [
    // V.250, 5.2: the attention that starts a line, and finds the speed
    { says: [cString('AT')], answerS: 1, patienceS: joinS },
    // V.250, 6.2.4: no echo
    { says: [cString('ATE0')], answerS: 2, patienceS: joinS },
    // 3GPP TS 27.007, 8.3
    { says: [cString('AT+CPIN?')], answer: '+CPIN: READY', answerS: 5, patienceS: joinS },
    // 8.5
    { says: [cString('AT+CSQ')], answer: '+CSQ:', reads: 'signal', answerS: 5, patienceS: joinS },
    // 7.2
    {
      says: [cString('AT+CREG?')],
      answer: '+CREG:',
      reads: 'registration',
      answerS: 5,
      patienceS: Math.max(joinS, REGISTERS_S),
    },
    // 10.1.9
    { says: [cString('AT+CGATT=1')], answerS: 75, patienceS: ATTACH_S },
    // 10.1.1
    { says: [cString('AT+CGDCONT=1,"IP",'), ...quoted('VESTIBULE_MODEM_APN')], answerS: 5, patienceS: joinS },
    // 10.1.31: PAP
    {
      says: [cString('AT+CGAUTH=1,1,'), ...quoted(USER), cString(','), ...quoted(macroFor('modem/password'))],
      answerS: 5,
      patienceS: joinS,
      unless: USER,
    },
    // 10.1.10
    { says: [cString('AT+CGACT=1,1')], answerS: 75, patienceS: ATTACH_S },
  ]
}

/** Texts of the tables, in flash. */
class Words {
  private readonly texts: string[] = []
  readonly add = (written: string): string => `W${this.texts.push(written) - 1}`
  rows(): string {
    return this.texts.map((written, i) => `constexpr char W${i}[] VESTIBULE_FLASH = ${written};`).join('\n')
  }
}

const stepRow = (words: Words, { says, answer, reads, answerS, patienceS, unless }: Step): string =>
  `{${words.add(says.join(' '))}, ${answer ? words.add(cString(answer)) : 'nullptr'}, Reads::${reads ?? 'nothing'}, ` +
  `${answerS}, ${patienceS}, ${unless ? `sizeof ${unless} == 1` : 'false'}}`

/** Places stand as the characters that modem.h names for them. */
const placed = (text: string): string =>
  cString(text.replace('{address}', '\u0001').replace('{port}', '\u0002').replace('{length}', '\u0003'))

function dialogueRow(words: Words, dialogue: ModemDialogue): string {
  const { open, opened, send, prompt, sent, arrives, close, closed, most } = dialogue
  const texts = [
    // 3GPP TS 27.007, 8.2: full functionality, after a reset
    'AT+CFUN=1,1',
    'AT+CSQ',
    '+CSQ:',
    ...[open, opened, send, prompt, sent, arrives, close, closed],
  ]
  return [...texts.map((text) => words.add(placed(text))), most].join(', ')
}

// ---- room: what the port's buffer must hold ----

/** Header, length, packet id: 1 + 2 + 2, and 2 before each text (MQTT 3.1.1, 2.2 and 3.3). */
const PACKET_BYTES = 5
const TEXT_BYTES = 2
/** What the runtime says of itself at most (LONGEST_PAYLOAD), and a value. */
const PAYLOAD_BYTES = 96
/** a level, or a reading in thousandths */
const NUMBER_BYTES = 12
const OWN_TOPIC_BYTES = 'vp/255/state'.length
/** Acknowledgements and signs of life find room beside it. */
const SPARE_BYTES = 48

const sizes = (image: ControllerImage, wires: ControllerWires): string => {
  const link = wires.links[0]
  const speaks = link && (link.transport === 'own' || link.transport === 'mqtt') ? link : undefined
  return [
    `constexpr size_t LONGEST_TURN = ${largest(speaks ? turnsOf(image, wires, speaks) : [])};`,
    `constexpr size_t GREETING = ${speaks ? greeting(wires, speaks) : '0'};`,
    `constexpr size_t OUT_BYTES = larger(LONGEST_TURN, GREETING) + ${SPARE_BYTES};`,
    `constexpr size_t IN_BYTES = ${PACKET_BYTES + TEXT_BYTES + 1} + ${largest(speaks ? heardBytes(speaks) : [])};`,
  ].join('\n')
}

/** A wish: a value, its number behind a blank (10 digits), a signature. A document holds all of its points. */
const WISH_BYTES = 36
const DOCUMENT_BYTES = 160

function heardBytes(link: OwnLink | MqttLink): string[] {
  if (link.transport === 'own') return [`${WISH_BYTES} + VESTIBULE_LONGEST_TOPIC`]
  const signed = link.sign ? SIGNATURE_BYTES : 0
  const count = link.count ? [{ from: link.count.topic, pointer: link.count.pointer }] : []
  return [...link.hears, ...count].map(
    ({ from, pointer }) => `${signed + (pointer === null ? WISH_BYTES : DOCUMENT_BYTES)} + ${lengthOf(from)}`,
  )
}

/** A turn is a channel with its points, a reading with its points, or one line of the log. */
function turnsOf(image: ControllerImage, wires: ControllerWires, link: OwnLink | MqttLink): string[] {
  const logTopic: Text = link.transport === 'own' ? [`${wires.prefix}log`] : (link.log ?? [''])
  const pointsOf = (carries: string, index: number): string[] =>
    image.points
      .filter((point) => point.carries === carries && point.index === index)
      .flatMap(({ vp }) => pointBytes(wires, link, vp))
  const own = (topic: string): string[] =>
    link.transport === 'own'
      ? [`${PACKET_BYTES + TEXT_BYTES + PAYLOAD_BYTES} + ${lengthOf([wires.prefix, topic])}`]
      : []
  return [
    `${PACKET_BYTES + TEXT_BYTES + PAYLOAD_BYTES} + ${lengthOf(logTopic)}`,
    ...image.channels.map(({ topic }, index) => [...own(`${topic}/state`), ...pointsOf('channel', index)]),
    ...image.sensors.map(({ id }, index) => [...own(`sensor/${id}`), ...pointsOf('sensor', index)]),
  ].map((turn) => (typeof turn === 'string' ? turn : turn.length ? turn.join(' + ') : '0'))
}

function pointBytes(wires: ControllerWires, link: LinkWire, vp: number): string[] {
  if (link.transport === 'own')
    return [`${PACKET_BYTES + TEXT_BYTES + NUMBER_BYTES + OWN_TOPIC_BYTES} + ${lengthOf([wires.prefix])}`]
  if (link.transport !== 'mqtt') return []
  const fixed = PACKET_BYTES + TEXT_BYTES + NUMBER_BYTES + (link.sign ? SIGNATURE_BYTES : 0)
  return link.says
    .filter(({ from }) => from === `vp/${vp}/state`)
    .map(({ to, before, after }) => `${fixed} + ${lengthOf(to, before, after)}`)
}

/** MQTT 3.1.1, 3.1: 10 bytes, then client, will, user and password with their lengths. */
function greeting(wires: ControllerWires, link: OwnLink | MqttLink): string {
  const will: Text =
    link.transport === 'own'
      ? [`${wires.prefix}status`, 'offline']
      : link.status
        ? [...link.status.topic, link.status.offline]
        : []
  return `${PACKET_BYTES + 10 + 5 * TEXT_BYTES} + ${lengthOf(link.client, will, link.user, link.password)}`
}
