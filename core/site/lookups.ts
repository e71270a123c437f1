import { moduleIn, type Signal, type ModemDialogue } from '../boards'
import type { Channel } from './channels'
import { KINDS, outputsOf } from './kinds'
import { type Controller, type Input, type Load, type Part, type Room, type Site, type SelectorInput } from './schema'
import type { Hub, Point, Service, Widget } from './services'
import type { Group, Key, Link, Remote, Rule, Sensor } from './wayParts'
import type { Way } from './ways'

const byId = <T extends { id: string }>(list: readonly T[], id: string | null): T | undefined =>
  id === null ? undefined : list.find((item) => item.id === id)

export const controllerOf = (site: Site, id: string): Controller | undefined => byId(site.controllers, id)
export const channelOf = (site: Site, id: string): Channel | undefined => byId(site.channels, id)
export const inputOf = (site: Site, id: string): Input | undefined => byId(site.inputs, id)
/** Something is worked by a switch, told by a contact, or counts only while it is closed. */
export const isUsed = (site: Site, { id }: Input): boolean =>
  site.ways.some((way) => way.kind === 'wall' && way.input === id) ||
  site.controls.some(({ source }) => source.kind === 'wall' && source.input === id) ||
  site.inputs.some((input) => input.kind === 'selector' && input.gate === id) ||
  site.channels.some((channel) => KINDS[channel.kind].position(channel as never)?.input === id)
export const loadOf = (site: Site, id: string | null): Load | undefined => byId(site.loads, id)
export const roomOf = (site: Site, id: string | null): Room | undefined => byId(site.rooms, id)
export const sensorOf = (site: Site, id: string): Sensor | undefined => byId(site.sensors, id)
export const groupOf = (site: Site, id: string): Group | undefined => byId(site.groups, id)
export const remoteOf = (site: Site, id: string): Remote | undefined => byId(site.remotes, id)
export const linkOf = (site: Site, id: string): Link | undefined => byId(site.links, id)
export const hubOf = (site: Site, id: string): Hub | undefined => byId(site.hubs, id)
export const wayOf = (site: Site, id: string | null): Way | undefined => byId(site.ways, id)
export const keyOf = (site: Site, remote: string, key: string): Key | undefined =>
  byId(remoteOf(site, remote)?.keys ?? [], key)
export const serviceOf = (site: Site, id: string): Service | undefined => byId(site.services, id)

export const channelsOn = (site: Site, controller: string): Channel[] =>
  site.channels.filter((channel) => channel.controller === controller)
export const inputsOn = (site: Site, controller: string): Input[] =>
  site.inputs.filter((input) => input.controller === controller)
export const sensorsOn = (site: Site, controller: string): Sensor[] =>
  site.sensors.filter((sensor) => sensor.controller === controller)
export const remotesOn = (site: Site, controller: string): Remote[] =>
  site.remotes.filter((remote) => remote.controller === controller)
/** Links with this controller at either end. */
export const linksOn = (site: Site, controller: string): Link[] =>
  site.links.filter((link) => link.controller === controller || link.other === controller)
/**
 * A pair: a main board without a network, and the coprocessor at the other end of its serial line that joins the
 * network for it. A coprocessor has nothing of its own; a board with channels, inputs or sensors is a controller by
 * itself.
 */
export function mainOf(site: Site, coprocessor: string): Controller | undefined {
  const line = site.links.find((link) => link.kind === 'serial' && link.other === coprocessor)
  const main = line && controllerOf(site, line.controller)
  const speaks = controllerOf(site, coprocessor)?.link !== 'none'
  const bare =
    channelsOn(site, coprocessor).length + inputsOn(site, coprocessor).length + sensorsOn(site, coprocessor).length ===
    0
  return main && main.link === 'none' && speaks && bare ? main : undefined
}
/** The controller under whose name a board stands on the network: a coprocessor speaks as its main board. */
export const speaksAs = (site: Site, controller: string): string => mainOf(site, controller)?.id ?? controller
export const coprocessorOf = (site: Site, main: string): Controller | undefined =>
  site.controllers.find((controller) => mainOf(site, controller.id)?.id === main)
/** Has it a network, its own or a coprocessor's? */
export const reachesNetwork = (site: Site, controller: Controller): boolean =>
  controller.link !== 'none' || coprocessorOf(site, controller.id) !== undefined

export const rulesFor = (site: Site, channel: string): Rule[] => site.rules.filter((rule) => rule.channel === channel)
export const waysTo = (site: Site, channel: string): Way[] => site.ways.filter((way) => way.channel === channel)

/** Controllers on which a group has members. */
export const controllersOfGroup = (site: Site, group: Group): Controller[] =>
  site.controllers.filter(({ id }) => channelsOn(site, id).some((channel) => group.members.includes(channel.id)))

/** A point with the service that holds it. */
export function pointOf(site: Site, service: string, point: string): Point | undefined {
  return byId(serviceOf(site, service)?.points ?? [], point)
}

export function widgetsOf(site: Site, service: string, point: string): Widget[] {
  return serviceOf(site, service)?.widgets.filter((widget) => widget.point === point) ?? []
}

/** A role is what a pin is for: the output of a channel, an input, or a signal of a part. */
export type Role =
  | {
      readonly id: string
      readonly kind: 'output'
      readonly channel: Channel
      /** contact of a stepped channel, from 0 */ readonly contact: number
    }
  | {
      readonly id: string
      readonly kind: 'input'
      readonly input: Input
      /** bit of a selector, from 0 */ readonly bit: number
    }
  | { readonly id: string; readonly kind: 'signal'; readonly part: Part; readonly signal: Signal }

/** Ids of the roles of a channel: one, or one for each contact of a stepped one. */
export const outputRoles = (channel: Channel): string[] =>
  KINDS[channel.kind].numbered
    ? outputsOf(channel).map((_, contact) => `out:${channel.id}:${contact + 1}`)
    : [`out:${channel.id}`]
/** Ids of the roles of an input: one, or one for each bit of a selector. */
export const inputRoles = (input: Input): string[] =>
  input.kind === 'selector'
    ? Array.from({ length: input.bits }, (_, bit) => `in:${input.id}:${bit + 1}`)
    : [`in:${input.id}`]

/** A relay of a controller, with its number on the module, from 1. */
export interface Relay {
  readonly channel: Channel
  readonly contact: number
  readonly role: string
  readonly relay: number
}

/**
 * Relays of a controller: one a switched channel, one a contact of a stepped one. A channel stands on the relays that
 * its maker said; the others take those that are free, in the order of the document.
 */
export function relaysOn(site: Site, controller: string): Relay[] {
  const channels = channelsOn(site, controller)
  const taken = new Set<number>()
  const said = new Map<string, number>()
  for (const channel of channels) {
    const { id, relay } = channel
    if (relay === undefined) continue
    said.set(id, relay)
    outputRoles(channel).forEach((_, contact) => taken.add(relay + contact))
  }
  let next = 0
  const free = (): number => {
    do next++
    while (taken.has(next))
    return next
  }
  return channels.flatMap((channel) => {
    const first = said.get(channel.id)
    return outputRoles(channel).map((role, contact) => ({
      channel,
      contact,
      role,
      relay: first === undefined ? free() : first + contact,
    }))
  })
}

export function roleName(role: Role): string {
  if (role.kind === 'signal') return `${role.part.name} ${role.signal.id}`
  if (role.kind === 'output') return `${role.channel.name} ${outputsOf(role.channel)[role.contact]?.label ?? ''}`.trim()
  return role.input.kind === 'selector' ? `${role.input.name} bit ${role.bit + 1}` : role.input.name
}

/**
 * The role by which a controller's link sends ('serial-tx') or hears; undefined: no part carries it. A part that sends
 * in bursts is a modem, which has a line of its own.
 */
export const serialSignalOf = (
  site: Site,
  controller: Controller,
  need: 'serial-tx' | 'serial-rx',
): Extract<Role, { kind: 'signal' }> | undefined =>
  rolesOf(site, controller.id).find(
    (role): role is Extract<Role, { kind: 'signal' }> =>
      role.kind === 'signal' && role.signal.need === need && !moduleIn(site, 'part', role.part.profile)?.burstMs,
  )

/** The modem that carries a controller's link: the first part whose profile says what it is told. */
export function modemOf(
  site: Site,
  controller: Controller,
): { readonly part: Controller['parts'][number]; readonly dialogue: ModemDialogue } | undefined {
  if (controller.link !== 'modem') return undefined
  for (const part of controller.parts) {
    const dialogue = moduleIn(site, 'part', part.profile)?.dialogue
    if (dialogue) return { part, dialogue }
  }
  return undefined
}

/** The roles of a controller in document order: outputs, inputs, then the signals of its parts. */
export function rolesOf(site: Site, controller: string): Role[] {
  return [
    ...channelsOn(site, controller).flatMap((channel) =>
      outputRoles(channel).map((id, contact): Role => ({ id, kind: 'output', channel, contact })),
    ),
    ...inputsOn(site, controller).flatMap((input) =>
      inputRoles(input).map((id, bit): Role => ({ id, kind: 'input', input, bit })),
    ),
    ...(controllerOf(site, controller)?.parts ?? []).flatMap((part) =>
      (moduleIn(site, 'part', part.profile)?.signals ?? []).map((signal): Role => ({
        id: `part:${part.id}:${signal.id}`,
        kind: 'signal',
        part,
        signal,
      })),
    ),
  ]
}

/** The detents of a selector: codes that stand for a level, in the order of the levels. */
export const detentsOf = (input: SelectorInput): { readonly level: number; readonly code: number }[] =>
  input.table.flatMap((level, code) => (level === null ? [] : [{ level, code }])).sort((a, b) => a.level - b.level)
