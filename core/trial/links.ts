import { linksOf } from '../image'
import { tell } from './boards'
import type { ControllerInWorld } from './controllerInWorld'
import { brokerAt, clientOf, homeOf, homeOfLink, HOUSE_BROKER, linkPath, note, type HouseState } from './house'
import { disputesAt, verdictOf } from './verdicts'

/** Links of the boards: they come up, they are lost, and what was said meanwhile is weighed. */

/** A link of its own is named; the one to the house is understood. */
function toWhom({ site, brokers }: HouseState, link: string): string {
  const service = site.services.find(({ id }) => id === link)
  return service && brokers.has(link) && link !== HOUSE_BROKER ? ` to ${service.name}` : ''
}

export function loseLink(house: HouseState, controller: ControllerInWorld, index: number): void {
  const { id, state } = controller.device.inspect().links[index]!
  const wasUp = state === 'up'
  brokerAt(house, id).drop(clientOf(controller, index))
  if (wasUp) house.lostAt.set(`${controller.id}/${id}`, house.now)
  tell(house, controller, { kind: 'link', up: false, of: index })
  if (!wasUp) return
  const offline = controller.device.inspect().links.every((link) => link.state !== 'up')
  note(
    house,
    'network',
    `${controller.name} has lost its link${toWhom(house, id)}${offline ? ' and works offline' : ''}`,
  )
}

export const loseLinks = (house: HouseState, controller: ControllerInWorld): void =>
  linksOf(controller.image).forEach((_, index) => loseLink(house, controller, index))

/** Whether a link of a board has all that it leads over. */
export const isOpen = (house: HouseState, controller: ControllerInWorld, link: string): boolean =>
  !linkPath(house, controller.id, homeOfLink(house, link)).some((part) => house.down.has(part))

export function finishJoin(house: HouseState, controller: ControllerInWorld, index: number): void {
  const { id, state } = controller.device.inspect().links[index]!
  if (!controller.powered || state !== 'joining') return
  if (!isOpen(house, controller, id) || !house.pairings.knowsNetwork(controller.id))
    return tell(house, controller, { kind: 'link', up: false, of: index })
  brokerAt(house, id).connect({ name: clientOf(controller, index), will: controller.will })
  note(house, 'network', `${controller.name} is connected${toWhom(house, id)}`)
  weighDisputes(house, controller, id)
  tell(house, controller, { kind: 'link', up: true, of: index })
}

/** What controller and services disagree about when a link is back. */
function weighDisputes(house: HouseState, controller: ControllerInWorld, link: string): void {
  const lostAt = house.lostAt.get(`${controller.id}/${link}`) ?? 0
  const home = homeOfLink(house, link)
  const since = (times: ReadonlyMap<string, number>, id: string): boolean => (times.get(id) ?? -1) >= lostAt
  const { channels, appWaysOf } = house.index
  const views = new Map(controller.device.inspect().channels.map((view) => [view.id, view]))
  const found = disputesAt(
    channels,
    appWaysOf.get(controller.image.controller) ?? [],
    house.services.filter((held) => homeOf(house, held.service) === home),
    (channel) => {
      const view = views.get(channel)
      return view && { on: view.level > 0, source: view.source, moved: since(house.movedAt, channel) }
    },
    (point) => since(house.touchedAt, point),
    house.now,
  )
  house.disputes = [...house.disputes, ...found]
}

/** Ends the disputes that are decided. */
export function judge(house: HouseState): void {
  if (house.disputes.length === 0) return
  house.disputes = house.disputes.filter((dispute) => {
    const controller = house.controllers.find(
      ({ part, image }) => part === 'main' && image.channels.some(({ id }) => id === dispute.channel),
    )
    const held = house.services.find(({ service }) => service.id === dispute.service)
    const point = held?.service.points.find(({ id }) => id === dispute.point)
    if (!controller || !held || !point) return false
    const view = controller.device.inspect().channels.find(({ id }) => id === dispute.channel)
    const isOn = controller.powered && (view?.level ?? 0) > 0
    const value = held.state.values[point.id] ?? point.default
    const verdict = verdictOf(dispute, isOn, value !== point.min, house.now)
    if (verdict) house.timeline.push(verdict)
    return verdict === undefined
  })
}
