import { stepsOf } from '../acceptance'
import { asksFor } from '../broken'
import { FAULT_WORDS, partsOf, type PartId } from '../parts'
import { channelOf, controllerOf, type Site } from '../site'
import { kindOfPart } from './costs'
import type { Answer, Given, Observation } from './observation'
import type { FoundPart } from './next'

/** An observation as a person reads it: what to do, and what can be seen. */
export interface ObservationWords {
  readonly ask: string
  readonly answers: Partial<Readonly<Record<Answer, string>>>
}

const GOOD: ObservationWords['answers'] = { yes: 'It is good', no: 'It is bad' }

export function wordsOf(site: Site, observation: Observation): ObservationWords {
  switch (observation.kind) {
    case 'way':
      return wayWords(site, observation)
    case 'screen':
      return screenWords(site, observation)
    case 'rest':
      return {
        ask: `Touch nothing. Is ${channelOf(site, observation.channel)!.name} off?`,
        answers: { yes: 'It is off', no: 'It is on' },
      }
    case 'click':
      return {
        ask: `${doneBy(site, observation)} and listen at the box. Does a relay click?`,
        answers: { yes: 'It clicks', no: 'No click' },
      }
    case 'indicator':
      return {
        ask: `${doneBy(site, observation)} and look at the relay’s light. Is it on?`,
        answers: { yes: 'It is lit', no: 'It is dark' },
      }
    case 'online':
      return {
        ask: `Look at the app, the hub or the status light: is ${controllerOf(site, observation.controller)!.name} online?`,
        answers: { yes: 'Online', no: 'Offline' },
      }
    case 'shows':
      return { ask: showsWords(site, observation.part), answers: { yes: 'Yes', no: 'No' } }
    case 'part':
      return { ask: partWords(site, observation.part), answers: GOOD }
  }
}

function wayWords(site: Site, observation: Extract<Observation, { readonly kind: 'way' }>): ObservationWords {
  const { name } = channelOf(site, observation.channel)!
  const what = observation.level === undefined ? 'come on' : `come to level ${observation.level}`
  return {
    ask: `${doneBy(site, observation)}. Does ${name} ${what}?`,
    answers: { yes: 'Yes, at once', no: 'Nothing happens', late: 'Yes, seconds late', other: 'Another one does' },
  }
}

function screenWords(
  site: Site,
  { channel, way }: Extract<Observation, { readonly kind: 'screen' }>,
): ObservationWords {
  const screen = site.ways.find(({ id }) => id === way)?.kind === 'hub' ? 'the hub' : 'the app'
  const { name } = channelOf(site, channel)!
  return {
    ask: `Turn ${name} on by another way, then look at ${screen}. Does it show what ${name} does?`,
    answers: { yes: 'It shows it', no: 'It shows something else' },
  }
}

function doneBy(
  site: Site,
  { channel: id, way: wayId, ...more }: Extract<Observation, { readonly way: string }>,
): string {
  const channel = channelOf(site, id)!
  const way = site.ways.find((one) => one.id === wayId)!
  const steps = stepsOf(site, channel, way).filter((step) => asksFor(channel, step, true))
  const level = 'level' in more ? more.level : undefined
  const step =
    steps.find(({ asks }) => level === undefined || (asks.kind === 'level' && asks.level === level)) ?? steps[0]
  return step?.action ?? `Work ${channel.name}`
}

const nameOf = (site: Site, part: PartId): string => partsOf(site).get(part)?.name ?? part

function showsWords(site: Site, part: PartId): string {
  switch (kindOfPart(part)) {
    case 'mains':
      return 'Is there power elsewhere in the house?'
    case 'router':
      return 'Is the light of the router on as always?'
    case 'wifi':
      return 'Does the phone see the Wi-Fi and connect to it?'
    case 'internet':
      return 'Over Wi-Fi, does the phone open a page on the internet?'
    case 'broker':
      return 'Does the hub or the log say that the broker runs?'
    case 'hub':
      return 'Does the hub’s own page open?'
    case 'breaker':
      return `Look at the board of the house: is ${lower(nameOf(site, part))} on?`
    case 'strip':
      return `Does something else on ${nameOf(site, part)} have power?`
    default:
      return `Does ${nameOf(site, part)} open, and say that it works?`
  }
}

const lower = (name: string): string => name.charAt(0).toLowerCase() + name.slice(1)

/** What is done with a part taken by itself, by its kind. */
const PART_WORDS: Readonly<Record<string, (name: string, site: Site, part: PartId) => string>> = {
  load: (name) => `${name}: put one that works in its place, or try it elsewhere. Is the old one good?`,
  switch: (name) => `${name}: meter it at its terminals, pressed and let go. Is it good?`,
  wire: (name) => `${name}: meter it from end to end, and against the wire beside it. Is it good?`,
  remote: (name) =>
    `${name}: put in new batteries, and watch it through a camera while a key is pressed. Does it send?`,
  receiver: (name) => `${name}: read the board’s log while a key is pressed near it. Does a code arrive?`,
  drive: (name) => `${name}: hold it against the connection list: the right pin, the right side, sound. Is it good?`,
  opto: (name) => `${name}: meter its input as a diode. Is it good?`,
  coil: (name, site, part) => `${name}: meter it. ${coilWords(site, part)}Is it good?`,
  contact: (name) =>
    `${name}: take the load’s wire off and meter it: open at rest, closed while pulled in. Is it good?`,
  power: (name) => `${name}: try it by itself under load, or swap it. Does it give its volts?`,
  board: (name) => `${name}: put in a spare with the same build. Is the old one good?`,
  modem: (name) => `${name}: look at its light and its SIM, or swap it. Is it good?`,
  module: (name) => `${name}: look at its jumper and fuse, or swap it. Is it good?`,
  breaker: (name) => `${name}: switch it off and on. Does it hold?`,
  phone: () => 'Try another phone. Does the first one work as well?',
  sensor: (name) => `${name}: hold its reading against a second instrument. Is it right?`,
  link: (name) => `${name}: meter its wires, and read the status line. Is it good?`,
  voice: () => 'Ask the voice service for something else. Does it answer?',
}

const partWords = (site: Site, part: PartId): string => {
  const name = nameOf(site, part)
  return (PART_WORDS[kindOfPart(part)] ?? (() => `${name}: look at it by itself. Is it good?`))(name, site, part)
}

function coilWords(site: Site, part: PartId): string {
  const channel = site.channels.find(({ id }) => part.startsWith(`coil:${id}.`))
  const module = channel && controllerOf(site, channel.controller)?.module
  return module ? `A sound one has about ${module.coilOhms} Ω. ` : ''
}

/** One thing that was seen, as a short phrase: "Press S1: nothing happens". */
export function givenWords(site: Site, observation: Observation, answer: Answer): string {
  const { ask, answers } = wordsOf(site, observation)
  const end = ask.search(/[.?](?=\s|$)/)
  const what = ask.slice(0, end < 0 ? undefined : end)
  return `${what}: ${lower(answers[answer] ?? answer)}`
}

/** “failed or stuck”: how a part that was found may have failed. */
export const howWords = ({ hows }: FoundPart): string => hows.map((how) => FAULT_WORDS[how]).join(' or ')

/** So many things are told in the sentence: what was seen first, and the last ones. */
const MOST_TOLD = 4

/** The sentence for the logbook: what it was, how it was told, and what was changed. */
export function endingWords(
  site: Site,
  observations: readonly Observation[],
  given: readonly Given[],
  parts: readonly FoundPart[],
  changed: string,
): string {
  const telling = given.length <= MOST_TOLD ? given : [given[0]!, ...given.slice(1 - MOST_TOLD)]
  const told = telling.flatMap(({ observation: id, answer }) => {
    const observation = observations.find((one) => one.id === id)
    return observation ? [givenWords(site, observation, answer)] : []
  })
  const what = parts.map((one) => `${one.name} (${howWords(one)})`).join(' and ')
  return `Found: ${what}. Told by: ${told.join('; ')}. Changed: ${changed.trim() || 'not yet'}.`
}
