import { coprocessorOf, inputOf, linkOf, mainOf, remoteOf } from './lookups'
import type { Site } from './schema'
import type { Control } from './wayParts'

/** The boards that a controller cannot do without: itself and, of a pair, the other one. */
function boardsOf(site: Site, controller: string): Set<string> {
  const others = [mainOf(site, controller), coprocessorOf(site, controller)]
  return new Set([controller, ...others.flatMap((other) => (other ? [other.id as string] : []))])
}

/** The controller on which a control's switch, key or character is heard. */
function holderOf(site: Site, source: Control['source']): string {
  if (source.kind === 'wall') return inputOf(site, source.input)!.controller
  if (source.kind === 'remote') return remoteOf(site, source.remote)!.controller
  return linkOf(site, source.link)!.controller
}

/** The part of a site that belongs to these controllers, whole in itself. */
export function siteOf(site: Site, controllers: ReadonlySet<string>): Site {
  const here = (thing: { readonly controller: string }): boolean => controllers.has(thing.controller)
  const channels = site.channels.filter(here)
  const has = new Set<string>(channels.map((channel) => channel.id))
  const onChannel = (thing: { readonly channel: string }): boolean => has.has(thing.channel)
  return {
    ...site,
    controllers: site.controllers.filter((controller) => controllers.has(controller.id)),
    channels,
    inputs: site.inputs.filter(here),
    ways: site.ways.filter(onChannel),
    rules: site.rules.filter(onChannel),
    sensors: site.sensors.filter(here),
    remotes: site.remotes.filter(here),
    links: site.links.filter(here),
    controls: site.controls.filter(
      ({ source, ...control }) =>
        controllers.has(holderOf(site, source)) && (control.kind === 'group' || controllers.has(control.controller)),
    ),
    groups: site.groups.map((group) => ({ ...group, members: group.members.filter((member) => has.has(member)) })),
    services: site.services.map((service) => {
      const points = service.points.filter(here)
      const shown = new Set<string>(points.map((point) => point.id))
      return { ...service, points, widgets: service.widgets.filter((widget) => shown.has(widget.point)) }
    }),
    hubs: site.hubs.map((hub) => ({ ...hub, entities: hub.entities.filter(onChannel) })),
  }
}

/** The site narrowed to one controller (null: to none) and to those of its boards that `keep` lets through. */
export function narrowed(site: Site, controller: string | null, keep: (board: string) => boolean): Site {
  const boards = controller === null ? null : boardsOf(site, controller)
  const left = site.controllers.filter(({ id, board }) => (boards === null || boards.has(id)) && keep(board))
  return siteOf(site, new Set(left.map(({ id }) => id)))
}
