import { topics } from '../topics'
import { controllerOf, inputOf, inputRoles, outputRoles, pointOf, topLevel, widgetsOf, type Channel, type Site, type Way } from '../site'

/** One station on the way from a finger to a contact, or back. */
export interface Station {
  readonly direction: 'to' | 'back'
  readonly text: string
}

type PinOf = (role: string) => string | null

function contacts(channel: Channel, pinOf: PinOf): Station[] {
  const pins = outputRoles(channel).map((role) => pinOf(role) ?? 'no pin yet')
  if (channel.kind === 'switched') return [{ direction: 'to', text: `${channel.name}: ${pins[0]}, ${channel.active} closes` }]
  const patterns = channel.patterns.map((pattern, level) => `${level}: ${pattern.length ? pattern.map((one) => one + 1).join('+') : 'none'}`).join(' · ')
  return [{ direction: 'to', text: `${channel.name}: contacts ${pins.map((pin, i) => `${i + 1} on ${pin}`).join(', ')}, ${channel.active} closes` }, { direction: 'to', text: `level ${patterns}; gap ${channel.gapMs} ms` }]
}

const figureOf = (value: number): string => Number(value.toPrecision(3)).toString()

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
    return [to(`${input.name}, ${input.kind}: ${inputRoles(input).map((role) => pinOf(role) ?? 'no pin yet').join(', ')}, closes to ${input.closedLevel}`), to(settle), ...(input.kind === 'selector' ? [to(`code ${input.table.map((level, code) => `${code}: ${level ?? '–'}`).join(' · ')}`)] : []), ...way.bindings.map((b) => to(b.gesture === 'follow' ? 'closed is on, open is off' : b.gesture === 'select' ? 'sets the level' : `${b.gesture}: ${b.action}`)), ...contacts(channel, pinOf)]
  }
  if (way.kind === 'app') {
    const point = pointOf(site, way.service, way.point)!
    const widgets = widgetsOf(site, way.service, point.id)
    const sends = widgets.map((widget) => to(widget.kind === 'value' ? `${widget.name} only shows` : `${widget.kind} “${widget.name}” sends ${widget.inverted ? `${point.max} for off, ${point.min} for on` : `${point.min} for off, ${point.max} for on`}`))
    return [
      ...sends,
      to(`vp${point.vp}: ${point.min}–${point.max} by ${point.step}${point.unit ? ` ${point.unit}` : ''}`),
      to(scheme.pointSet(point.vp)),
      to(topLevel(channel) === 1 ? `${point.min} is off, all above is on` : `÷ ${figureOf((point.max - point.min) / topLevel(channel))}, rounded up → level 0–${topLevel(channel)}`),
      ...contacts(channel, pinOf),
      way.feedback === 'reports' ? back(topLevel(channel) === 1 ? `${scheme.pointState(point.vp)}: ${point.min} or ${point.max}` : `${scheme.pointState(point.vp)}: level × ${figureOf((point.max - point.min) / topLevel(channel))}`) : back(way.feedback === 'silent' ? 'nothing comes back' : 'not known whether it comes back'),
    ]
  }
  const entity = site.hubs.find((hub) => hub.id === way.hub)!.entities.find((candidate) => candidate.id === way.entity)!
  return [to(`${scheme.set(entity.topic)}: on, off, toggle${channel.kind === 'stepped' ? ', up, down, a level' : ''}`), ...contacts(channel, pinOf), back(way.feedback === 'reports' ? `${scheme.state(entity.topic)}, retained` : 'nothing comes back')]
}
