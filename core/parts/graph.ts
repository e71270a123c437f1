import { isInHouse, wireOf, holdersOf } from '../services'
import { kindOf, loadOf, type Channel, type Controller, type Input, type Site } from '../site'
import { FAULT_WORDS, type FaultKind, type Part, type PartGraph, type PartId } from './part'

/** From power to work, ms: common practice for a house's router; a small computer with its programs; a board's boot. */
export const ROUTER_STARTS_MS = [60_000, 120_000] as const
export const HUB_STARTS_MS = [120_000, 240_000] as const
export const BOARD_STARTS_MS = [1_000, 1_000] as const

const part = (
  id: PartId,
  name: string,
  needs: readonly PartId[] = [],
  faults: readonly FaultKind[] = ['gone'],
  more: Pick<Part, 'startsMs' | 'controller'> = {},
): Part => ({ id, name, needs, faults, ...more })

const isHubWire = (site: Site, id: string): boolean => site.hubs.some((hub) => (hub.id as string) === id)

/** A service that stands in the internet: boards on the house's network reach it over the house's line. */
export function isInternetService(site: Site, id: string): boolean {
  const service = holdersOf(site).find((held) => held.service.id === id)?.service
  return (
    service !== undefined && wireOf(site, service) !== undefined && !isHubWire(site, id) && !isInHouse(service.host)
  )
}

const OVER_WIRES: readonly FaultKind[] = ['gone', 'slow', 'lossy']

/** Strips and circuits on which something hangs. */
const stripsOf = (site: Site, fed: string): PartId[] =>
  (site.failures?.strips ?? []).filter(({ feeds }) => feeds.includes(fed)).map(({ id }): PartId => `strip:${id}`)

/** What gives power to a box of the house: nothing outside while it is on a battery. */
const plugsOf = (site: Site, box: 'router' | 'hub-machine'): PartId[] =>
  site.failures?.onBattery.includes(box) ? [] : ['mains', ...stripsOf(site, box)]

/** What the whole house shares. */
function ofTheHouse(site: Site): Part[] {
  return [
    part('mains', 'Mains'),
    ...(site.failures?.strips ?? []).map(({ id, name }) => part(`strip:${id}`, name, ['mains'])),
    part('router', 'Router', plugsOf(site, 'router'), ['gone'], { startsMs: ROUTER_STARTS_MS }),
    part('wifi', 'Wi-Fi', ['router'], OVER_WIRES),
    part('internet', 'Internet', ['router'], OVER_WIRES),
    part('hub-machine', 'Hub machine', plugsOf(site, 'hub-machine'), ['gone'], {
      startsMs: HUB_STARTS_MS,
    }),
    part('broker', 'Broker', ['hub-machine'], OVER_WIRES),
    ...(site.hubs.length > 0 ? [part('hub', 'Hub', ['hub-machine'], ['gone', 'lying'])] : []),
    part('phone', 'Phone'),
    part('voice', 'Speaker for voice', ['internet']),
    ...holdersOf(site).map(({ service }) => {
      const needs: PartId[] = !wireOf(site, service)
        ? ['broker']
        : isHubWire(site, service.id)
          ? ['hub-machine']
          : isInHouse(service.host)
            ? ['router']
            : []
      return part(`service:${service.id}`, service.name, needs, [...OVER_WIRES, 'lying'])
    }),
  ]
}

/** Breaker, supply and board of a controller, and what stands beside the board. */
function ofController(site: Site, { id, name, module, mains, link }: Controller): Part[] {
  const own = { controller: id }
  const receives = site.remotes.some(({ controller }) => controller === id)
  return [
    part(`breaker:${id}`, `Breaker of ${name}${mains ? `, ${mains.breakerAmps} A` : ''}`, ['mains'], ['gone'], own),
    part(
      `power:${id}`,
      `Supply of ${name}`,
      [`breaker:${id}`, ...stripsOf(site, `power:${id}`)],
      ['gone', 'weak'],
      own,
    ),
    part(`board:${id}`, `Board of ${name}`, [`power:${id}`], ['gone'], { ...own, startsMs: BOARD_STARTS_MS }),
    ...(link === 'modem' ? [part(`modem:${id}`, `Modem of ${name}`, [`board:${id}`], OVER_WIRES, own)] : []),
    ...(module
      ? [part(`module:${id}`, `Relay module of ${name}`, [`power:${id}`], moduleFaults(module.coilJumper), own)]
      : []),
    ...(receives ? [part(`receiver:${id}`, `Receiver of ${name}`, [`board:${id}`], ['gone'], own)] : []),
  ]
}

const moduleFaults = (jumper: 'fitted' | 'removed' | 'none'): readonly FaultKind[] =>
  jumper === 'none' ? ['gone'] : ['gone', 'jumper']

/** From pin to load, a row for each contact. */
function ofChannel(site: Site, channel: Channel): Part[] {
  const { id, name, controller } = channel
  const own = { controller }
  const module = site.controllers.find((candidate) => candidate.id === controller)?.module ?? null
  const kind = kindOf(channel)
  const rows = kind.outputs(channel)
  const contacts = rows.flatMap((_, k): Part[] => {
    const of = rows.length > 1 ? `contact ${k + 1} of ${name}` : name
    const key = `${id}.${k}`
    const driven: PartId = module?.input === 'opto' ? `opto:${key}` : `drive:${key}`
    const fed: readonly PartId[] = module ? [`module:${controller}`] : [`power:${controller}`]
    return [
      part(
        `drive:${key}`,
        `Pin and wire to the relay, ${of}`,
        [`board:${controller}`],
        ['gone', 'inverted', 'crossed'],
        own,
      ),
      ...(module?.input === 'opto'
        ? [part(`opto:${key}`, `Opto-coupler, ${of}`, [`drive:${key}`], ['gone', 'stuck'], own)]
        : []),
      part(`coil:${key}`, `Coil, ${of}`, [driven, ...fed], ['gone'], own),
      part(`contact:${key}`, `Contact, ${of}`, [], ['gone', 'stuck'], own),
    ]
  })
  return [
    ...contacts,
    part(`load:${id}`, `Load of ${name}`, feedOf(site, channel), isDoor(channel) ? ['gone', 'slow'] : ['gone'], own),
  ]
}

const isDoor = (channel: Channel): boolean => Boolean(kindOf(channel).position(channel)?.input)

/** What feeds a load besides its contact. */
function feedOf(site: Site, channel: Channel): PartId[] {
  return loadOf(site, channel.load)?.supply === 'mains' ? [`breaker:${channel.controller}`] : []
}

const ofInput = ({ id, name, controller, kind }: Input): Part[] => [
  part(`switch:${id}`, `${kind === 'contact' ? 'Contact' : 'Switch'} ${name}`, [], ['gone', 'stuck'], { controller }),
  part(`wire:${id}`, `Wire to ${name}`, [], ['gone', 'stuck', 'inverted'], { controller }),
]

/** Every part of a house that can fail, in the order in which a person would look for it. */
export function partsOf(site: Site): PartGraph {
  const parts = [
    ...ofTheHouse(site),
    ...site.controllers.flatMap((controller) => [
      ...ofController(site, controller),
      ...site.channels
        .filter((channel) => channel.controller === controller.id)
        .flatMap((channel) => ofChannel(site, channel)),
      ...site.inputs.filter((input) => input.controller === controller.id && !input.ofBoard).flatMap(ofInput),
    ]),
    ...site.sensors.map(({ id, name, controller }) =>
      part(`sensor:${id}`, `Sensor ${name}`, [`board:${controller}`], ['gone', 'stuck', 'lying'], { controller }),
    ),
    ...site.remotes.map(({ id, name, controller }) =>
      part(`remote:${id}`, `${name} and its battery`, [], ['gone', 'weak'], { controller }),
    ),
    ...site.links.map(({ id, name, controller }) => part(`link:${id}`, name, [], ['gone', 'lossy'], { controller })),
  ]
  return new Map(parts.map((one) => [one.id, one]))
}

/** "Broker is gone", "Contact, Bench lights is stuck": a fault as a sentence. */
export const faultText = (part: Part, how: FaultKind): string => `${part.name}: ${FAULT_WORDS[how]}`
