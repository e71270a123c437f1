import { boardIn } from '../boards'
import { planAndWrite } from '../pins'
import {
  emptySite,
  inputRoles,
  newController,
  newInput,
  newSwitched,
  optoModule,
  outputRoles,
  type Channel,
  type Controller,
  type Input,
  type Site,
} from '../site'
import { addWallWay } from '../ways'
import type { SketchPin } from './sketch'

/** What a new site is asked: its name, what comes out of its walls, the board on the table, and what that switches. */
export interface Beginning {
  readonly name: string
  readonly mains: Site['mains']
  /** profile of the board; null: none yet */
  readonly board: string | null
  /** ids of the sites that are there */
  readonly taken: readonly string[]
}

/** Relay modules as they are sold (common practice). */
const MODULE_WAYS = [1, 2, 4, 8, 16] as const
const moduleFor = (relays: number): number => MODULE_WAYS.find((ways) => ways >= relays) ?? 16

/** A site with its first controller, whose module has a relay for each channel. */
function begun({ name, mains, board, taken }: Beginning, relays: number): { site: Site; controller?: Controller } {
  const site = emptySite(name, taken, mains)
  const profile = board === null ? undefined : boardIn(site, board)
  if (!profile) return { site }
  const module = profile.boxed ? null : optoModule(moduleFor(Math.max(1, relays)))
  const controller = newController(site, 'Controller 1', profile.id, { link: profile.link, module })
  site.controllers.push(controller)
  return { site, controller }
}

/** A site from the questions: each thing that is named becomes a channel, and the pins are planned. */
export function siteFromAnswers(beginning: Beginning, channels: readonly string[]): Site {
  const { site, controller } = begun(beginning, channels.length)
  if (!controller) return site
  for (const name of channels) site.channels.push(newSwitched(site, name, controller))
  planAndWrite(site, controller.id)
  return site
}

/** The number that a name ends with: switch 2 works relay 2. */
const numberOf = (name: string): string | undefined => /(\d+)$/.exec(name)?.[1]

/** The channel that a switch works: of the same number, or in the same place of the list. */
function worked(channels: readonly Channel[], input: SketchPin, at: number): Channel | undefined {
  const number = numberOf(input.name)
  return channels.find(({ name }) => number !== undefined && numberOf(name) === number) ?? channels[at]
}

const lock = (controller: Controller, roles: readonly string[], pin: string): void =>
  roles.forEach((role) => void (controller.pins[role] = { pin, locked: true }))

/**
 * A site from the pin lines of a sketch: channels and switches with the pins that they have already, locked, since they
 * are soldered; a switch works the channel of its number.
 */
export function siteFromSketch(beginning: Beginning, rows: readonly SketchPin[]): Site {
  const outputs = rows.filter(({ use }) => use === 'channel')
  const { site, controller } = begun(beginning, outputs.length)
  if (!controller) return site
  for (const { name, pin } of outputs) {
    const channel = newSwitched(site, name, controller)
    site.channels.push(channel)
    lock(controller, outputRoles(channel), pin)
  }
  const inputs = rows.filter((row) => row.use === 'rocker' || row.use === 'momentary')
  inputs.forEach((row, at) => {
    const kind = row.use as Input['kind']
    const input = newInput(site, row.name, controller, kind, { closedLevel: row.closedLevel })
    site.inputs.push(input)
    lock(controller, inputRoles(input), row.pin)
    const channel = worked(site.channels, row, at)
    if (channel) addWallWay(site, channel, input)
  })
  return site
}
