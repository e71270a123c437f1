import { inputRoles, outputRoles, type GroupWay, type Site } from '../site'
import { removeRemote } from './remotes'

/** Removals that leave no reference behind. Each changes a draft in place. */

/**
 * Takes a way out, with the point, widgets or entity that only it used. A switch stays: it is in the wall, and a key is
 * on its remote.
 */
export function removeWay(site: Site, id: string): void {
  const at = site.ways.findIndex((way) => way.id === id)
  const way = site.ways[at]
  if (!way) return
  site.ways.splice(at, 1)
  // a voice name that went this way leads nowhere now; finding M14 says so
  for (const other of site.ways) if (other.kind === 'voice' && other.through === id) other.through = null
  if (
    way.kind === 'app' &&
    !site.ways.some((other) => other.kind === 'app' && other.service === way.service && other.point === way.point)
  )
    dropPoint(site, way.service, way.point)
  if (
    way.kind === 'hub' &&
    !site.ways.some((other) => other.kind === 'hub' && other.hub === way.hub && other.entity === way.entity)
  ) {
    const hub = site.hubs.find((candidate) => candidate.id === way.hub)
    if (hub) hub.entities = hub.entities.filter((entity) => entity.id !== way.entity)
  }
}

function dropPoint(site: Site, serviceId: string, pointId: string): void {
  const service = site.services.find((candidate) => candidate.id === serviceId)
  if (!service) return
  service.points = service.points.filter((point) => point.id !== pointId)
  service.widgets = service.widgets.filter((widget) => widget.point !== pointId)
  withoutGroupWays(site, (way) => way.kind === 'app' && way.service === serviceId && way.point === pointId)
}

/** Takes ways to groups out. */
function withoutGroupWays(site: Site, gone: (way: GroupWay) => boolean): void {
  for (const group of site.groups) if (group.ways) group.ways = group.ways.filter((way) => !gone(way))
}

/** A voice service whose account stood there asks for keys of its own again. */
function withoutAccount(site: Site, id: string): void {
  for (const service of site.services) if (service.linkedThrough === id) delete service.linkedThrough
}

/** Takes a point out, with its widgets and the ways that go over it. */
export function removePoint(site: Site, serviceId: string, pointId: string): void {
  const over = site.ways.filter((way) => way.kind === 'app' && way.service === serviceId && way.point === pointId)
  for (const way of over) removeWay(site, way.id)
  dropPoint(site, serviceId, pointId)
}

export function removeChannel(site: Site, id: string): void {
  const channel = site.channels.find((candidate) => candidate.id === id)
  if (!channel) return
  for (const way of site.ways.filter((candidate) => candidate.channel === id)) removeWay(site, way.id)
  for (const hub of site.hubs) hub.entities = hub.entities.filter((entity) => entity.channel !== id)
  site.rules = site.rules.filter((rule) => rule.channel !== id)
  for (const group of site.groups) {
    group.members = group.members.filter((member) => member !== id)
    if (group.levels) delete group.levels[id]
  }
  site.channels = site.channels.filter((candidate) => candidate.id !== id)
  const controller = site.controllers.find((candidate) => candidate.id === channel.controller)
  if (controller) for (const role of outputRoles(channel)) delete controller.pins[role]
  if (channel.load && !site.channels.some((other) => other.load === channel.load)) dropLoad(site, channel.load)
}

/** What a load fed hangs on a supply of its own again. */
function dropLoad(site: Site, id: string): void {
  site.loads = site.loads.filter((load) => load.id !== id)
  for (const load of site.loads) if (load.feed.from === 'load' && load.feed.load === id) load.feed = { from: 'own' }
}

export function removeInput(site: Site, id: string): void {
  const input = site.inputs.find((candidate) => candidate.id === id)
  if (!input) return
  site.ways = site.ways.filter((way) => way.kind !== 'wall' || way.input !== id)
  site.controls = site.controls.filter(({ source }) => source.kind !== 'wall' || source.input !== id)
  for (const channel of site.channels) if ('contact' in channel && channel.contact === id) channel.contact = null
  for (const other of site.inputs) if (other.kind === 'selector' && other.gate === id) delete other.gate
  site.inputs = site.inputs.filter((candidate) => candidate.id !== id)
  const controller = site.controllers.find((candidate) => candidate.id === input.controller)
  if (controller) for (const role of inputRoles(input)) delete controller.pins[role]
}

export function removeSensor(site: Site, id: string): void {
  site.rules = site.rules.filter((rule) => rule.kind !== 'threshold' || rule.sensor !== id)
  for (const service of site.services) {
    const gone = new Set(
      service.points
        .filter((point) => point.carries.kind === 'sensor' && point.carries.sensor === id)
        .map((point) => point.id),
    )
    service.points = service.points.filter((point) => !gone.has(point.id))
    service.widgets = service.widgets.filter((widget) => !gone.has(widget.point))
  }
  site.sensors = site.sensors.filter((sensor) => sensor.id !== id)
}

export function removeLink(site: Site, id: string): void {
  site.ways = site.ways.filter((way) => way.kind !== 'link' || way.link !== id)
  site.controls = site.controls.filter(({ source }) => source.kind !== 'link' || source.link !== id)
  site.links = site.links.filter((link) => link.id !== id)
}

export function removeService(site: Site, id: string): void {
  for (const way of site.ways.filter(
    (candidate) => (candidate.kind === 'app' || candidate.kind === 'voice') && candidate.service === id,
  ))
    removeWay(site, way.id)
  withoutGroupWays(site, (way) => way.kind !== 'hub' && way.service === id)
  withoutAccount(site, id)
  site.services = site.services.filter((service) => service.id !== id)
}

export function removeHub(site: Site, id: string): void {
  for (const way of site.ways.filter((candidate) => candidate.kind === 'hub' && candidate.hub === id))
    removeWay(site, way.id)
  withoutGroupWays(site, (way) => way.kind === 'hub' && way.hub === id)
  for (const controller of site.controllers) if (controller.modeEntity?.hub === id) delete controller.modeEntity
  withoutAccount(site, id)
  site.hubs = site.hubs.filter((hub) => hub.id !== id)
}

export function removeController(site: Site, id: string): void {
  for (const channel of site.channels.filter((candidate) => candidate.controller === id))
    removeChannel(site, channel.id)
  for (const input of site.inputs.filter((candidate) => candidate.controller === id)) removeInput(site, input.id)
  for (const sensor of site.sensors.filter((candidate) => candidate.controller === id)) removeSensor(site, sensor.id)
  for (const remote of site.remotes.filter((candidate) => candidate.controller === id)) removeRemote(site, remote.id)
  for (const link of site.links.filter((candidate) => candidate.controller === id)) removeLink(site, link.id)
  for (const link of site.links) if (link.other === id) link.other = null
  site.controls = site.controls.filter((control) => control.kind !== 'controller' || control.controller !== id)
  for (const service of site.services) {
    const gone = new Set(service.points.filter((point) => point.controller === id).map((point) => point.id))
    for (const way of site.ways.filter(
      (candidate) => candidate.kind === 'app' && candidate.service === service.id && gone.has(candidate.point),
    ))
      removeWay(site, way.id)
    for (const id of gone) dropPoint(site, service.id, id)
  }
  site.controllers = site.controllers.filter((candidate) => candidate.id !== id)
}

export function removePart(site: Site, controllerId: string, id: string): void {
  const controller = site.controllers.find((candidate) => candidate.id === controllerId)
  if (!controller) return
  controller.parts = controller.parts.filter((part) => part.id !== id)
  for (const sensor of site.sensors) if (sensor.controller === controllerId && sensor.part === id) sensor.part = null
  // its own pins, and those of others that stood on pins which it gave
  for (const [role, choice] of Object.entries(controller.pins))
    if (role.startsWith(`part:${id}:`) || choice.pin.startsWith(`${id}.`)) delete controller.pins[role]
}
