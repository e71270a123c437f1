import { waysTo, type Channel, type Controller, type Site } from '../site'
import { targetOf } from './compileWays'
import type { ControllerImage, ImageChar } from './types'

/** Characters that this controller understands, over all its links: channels first, then groups and the controller. */
export function charsOf(site: Site, controller: Controller, channels: readonly Channel[]): ImageChar[] {
  const linkHere = (id: string) => site.links.find((link) => link.id === id && link.controller === controller.id)
  const own = channels.flatMap((channel, index) =>
    waysTo(site, channel.id).flatMap((way): ImageChar[] => {
      const link = way.kind === 'link' ? linkHere(way.link) : undefined
      return way.kind === 'link' && link
        ? [{ char: way.char, source: link.kind, action: way.action, level: way.level ?? 0, on: 'channel', index }]
        : []
    }),
  )
  const more = site.controls.flatMap((control): ImageChar[] => {
    const { source } = control
    const link = source.kind === 'link' ? linkHere(source.link) : undefined
    const target = targetOf(site, control, controller, channels)
    return source.kind === 'link' && link && target
      ? [{ char: source.char, source: link.kind, action: control.action, level: 0, ...target }]
      : []
  })
  return [...own, ...more]
}

/**
 * Speed and status period of the controller's serial port; both ends are compiled from this one row, so they cannot
 * differ. A wire's link says them before a nearby one's, wherever it stands in the list: a radio module takes its speed
 * from the port that it hangs on, the board at the other end of a wire does not.
 */
export function serialOf(site: Site, controller: Controller): ControllerImage['serial'] {
  const here = site.links.filter((candidate) => candidate.controller === controller.id)
  const link = here.find((candidate) => candidate.kind === 'serial') ?? here[0]
  return link ? { baud: link.baud, statusMs: link.statusMs } : null
}
