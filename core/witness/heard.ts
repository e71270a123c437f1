import type { Site } from '../site'
import { stateSaid, type StateSaid } from '../topics'

/** Something that was heard of a controller, over the broker or by a service; its time in ms. */
export type Heard = { readonly t: number } & (
  | { readonly kind: 'status'; readonly controller: string; readonly online: boolean }
  | ({ readonly kind: 'state'; readonly controller: string; readonly channel: string } & StateSaid)
  | { readonly kind: 'mode'; readonly controller: string; readonly mode: string }
  | { readonly kind: 'log'; readonly controller: string; readonly text: string }
  | { readonly kind: 'gesture'; readonly controller: string; readonly channel: string; readonly gesture: string }
  | { readonly kind: 'sensor'; readonly controller: string; readonly sensor: string; readonly value: string }
  /** a service, or a hub, shows this level of a channel */
  | { readonly kind: 'screen'; readonly holder: string; readonly channel: string; readonly level: number }
  | { readonly kind: 'beat' }
  | { readonly kind: 'broker'; readonly up: boolean }
)

const channelHere = (site: Site, controller: string, channel: string): boolean =>
  site.channels.some(({ id, controller: at }) => id === channel && at === controller)

/** What a message on the site's topics says of a controller; undefined: nothing that matters here, or a stranger. */
export function heardOn(site: Site, topic: string, payload: string, t: number): Heard | undefined {
  const [root, place, controller, what, kind, ...rest] = topic.split('/')
  if (root !== 'vestibule' || place !== site.id || rest.length > 0 || controller === undefined) return undefined
  if (controller === 'watch' && what === undefined) return { t, kind: 'beat' }
  if (!site.controllers.some(({ id }) => id === controller) || what === undefined) return undefined
  if (kind === undefined) {
    if (what === 'status') return { t, kind: 'status', controller, online: payload === 'online' }
    return what === 'log' ? { t, kind: 'log', controller, text: payload } : undefined
  }
  if (what === 'sensor') return { t, kind: 'sensor', controller, sensor: kind, value: payload }
  if (what === 'mode' && kind === 'state') return { t, kind: 'mode', controller, mode: payload }
  if (!channelHere(site, controller, what)) return undefined
  if (kind === 'gesture') return { t, kind: 'gesture', controller, channel: what, gesture: payload }
  const said = kind === 'state' ? stateSaid(payload) : undefined
  return said && { t, kind: 'state', controller, channel: what, ...said }
}

/** The controller of a topic that the document does not have; undefined: it is known, or no board speaks. */
export function strangerOn(site: Site, topic: string): string | undefined {
  const [root, place, controller, what] = topic.split('/')
  if (root !== 'vestibule' || place !== site.id || controller === undefined || what === undefined) return undefined
  return site.controllers.some(({ id }) => id === controller) ? undefined : controller
}
