import { inputRoles, outputRoles, type Site } from '../site'
import { removeWay } from './make'

/** Removals that leave no reference behind. Each changes a draft in place. */

export function removeChannel(site: Site, id: string): void {
  const channel = site.channels.find((candidate) => candidate.id === id)
  if (!channel) return
  for (const way of site.ways.filter((candidate) => candidate.channel === id)) removeWay(site, way.id)
  for (const hub of site.hubs) hub.entities = hub.entities.filter((entity) => entity.channel !== id)
  site.channels = site.channels.filter((candidate) => candidate.id !== id)
  const controller = site.controllers.find((candidate) => candidate.id === channel.controller)
  if (controller) for (const role of outputRoles(channel)) delete controller.pins[role]
  if (channel.load && !site.channels.some((other) => other.load === channel.load)) site.loads = site.loads.filter((load) => load.id !== channel.load)
}

export function removeInput(site: Site, id: string): void {
  const input = site.inputs.find((candidate) => candidate.id === id)
  if (!input) return
  site.ways = site.ways.filter((way) => way.kind !== 'wall' || way.input !== id)
  site.inputs = site.inputs.filter((candidate) => candidate.id !== id)
  const controller = site.controllers.find((candidate) => candidate.id === input.controller)
  if (controller) for (const role of inputRoles(input)) delete controller.pins[role]
}

export function removeController(site: Site, id: string): void {
  for (const channel of site.channels.filter((candidate) => candidate.controller === id)) removeChannel(site, channel.id)
  for (const input of site.inputs.filter((candidate) => candidate.controller === id)) removeInput(site, input.id)
  for (const service of site.services) {
    const gone = new Set(service.points.filter((point) => point.controller === id).map((point) => point.id))
    site.ways = site.ways.filter((way) => way.kind !== 'app' || way.service !== service.id || !gone.has(way.point))
    service.points = service.points.filter((point) => !gone.has(point.id))
    service.widgets = service.widgets.filter((widget) => !gone.has(widget.point))
  }
  site.controllers = site.controllers.filter((candidate) => candidate.id !== id)
}

export function removePart(site: Site, controllerId: string, id: string): void {
  const controller = site.controllers.find((candidate) => candidate.id === controllerId)
  if (!controller) return
  controller.parts = controller.parts.filter((part) => part.id !== id)
  // its own pins, and those of others that stood on pins which it gave
  for (const [role, choice] of Object.entries(controller.pins)) if (role.startsWith(`part:${id}:`) || choice.pin.startsWith(`${id}.`)) delete controller.pins[role]
}
