import { topics } from '../topics'
import { controllerOf, inputOf, pointOf, widgetsOf, type Channel, type Site, type Way } from '../site'

/** One station on the way from a finger to a contact, or back. */
export interface Station {
  readonly direction: 'to' | 'back'
  readonly text: string
}

type PinOf = (role: string) => string | null

const contact = (channel: Channel, pinOf: PinOf): Station => ({ direction: 'to', text: `${channel.name}: ${pinOf(`out:${channel.id}`) ?? 'no pin yet'}, ${channel.active} closes` })

/** The whole path of a way, with its numbers, end to end. */
export function pathOf(site: Site, way: Way, pinOf: PinOf): Station[] {
  const channel = site.channels.find((candidate) => candidate.id === way.channel)!
  const controller = controllerOf(site, channel.controller)!
  const scheme = topics(site.id, controller.id)
  const to = (text: string): Station => ({ direction: 'to', text })
  const back = (text: string): Station => ({ direction: 'back', text })
  if (way.kind === 'wall') {
    const input = inputOf(site, way.input)!
    const settle = input.settle === 'settle' ? `holds ${input.settleMs} ms, then counts` : `first edge counts, deaf for ${input.settleMs} ms`
    return [to(`${input.name}, ${input.kind}: ${pinOf(`in:${input.id}`) ?? 'no pin yet'}, closes to ${input.closedLevel}`), to(settle), ...way.bindings.map((b) => to(b.gesture === 'follow' ? 'closed is on, open is off' : `${b.gesture}: ${b.action}`)), contact(channel, pinOf)]
  }
  if (way.kind === 'app') {
    const point = pointOf(site, way.service, way.point)!
    const widgets = widgetsOf(site, way.service, point.id)
    const sends = widgets.map((widget) => to(widget.kind === 'value' ? `${widget.name} only shows` : `${widget.kind} “${widget.name}” sends ${widget.inverted ? `${point.max} for off, ${point.min} for on` : `${point.min} for off, ${point.max} for on`}`))
    return [
      ...sends,
      to(`vp${point.vp}: ${point.min}–${point.max} by ${point.step}${point.unit ? ` ${point.unit}` : ''}`),
      to(scheme.pointSet(point.vp)),
      to(`${point.min} is off, all above is on`),
      contact(channel, pinOf),
      way.feedback === 'reports' ? back(`${scheme.pointState(point.vp)}: ${point.min} or ${point.max}`) : back(way.feedback === 'silent' ? 'nothing comes back' : 'not known whether it comes back'),
    ]
  }
  const entity = site.hubs.find((hub) => hub.id === way.hub)!.entities.find((candidate) => candidate.id === way.entity)!
  return [to(`${scheme.set(entity.topic)}: on, off, toggle`), contact(channel, pinOf), back(way.feedback === 'reports' ? `${scheme.state(entity.topic)}, retained` : 'nothing comes back')]
}
