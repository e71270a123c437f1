/** The topic scheme of docs/behaviour.md, in one place. `+` stands only in subscriptions. */
export const topicPrefix = (site: string, controller: string): string => `vestibule/${site}/${controller}/`

/** The hub's heartbeat, one for the whole site. */
export const watchTopic = (site: string): string => `vestibule/${site}/watch`

export const topics = (site: string, controller: string) => {
  const prefix = topicPrefix(site, controller)
  return {
    prefix,
    watch: watchTopic(site),
    status: `${prefix}status`,
    log: `${prefix}log`,
    set: (channel: string) => `${prefix}${channel}/set`,
    state: (channel: string) => `${prefix}${channel}/state`,
    /** What a hand did to the switch of a feed, for the hub to act on. */
    gesture: (channel: string) => `${prefix}${channel}/gesture`,
    sensor: (sensor: string) => `${prefix}sensor/${sensor}`,
    /** A person moved a widget: never retained. */
    pointSet: (vp: number | '+') => `${prefix}vp/${vp}/set`,
    /** The value that the service holds: retained, used only after an outage and at power-up. */
    pointHeld: (vp: number | '+') => `${prefix}vp/${vp}/held`,
    /** What the controller says the point is. */
    pointState: (vp: number | '+') => `${prefix}vp/${vp}/state`,
  }
}

/** Topic levels that a channel may not take, since the scheme uses them. */
export const RESERVED_LEVELS: readonly string[] = ['status', 'log', 'vp', 'sensor']

/**
 * Subscriptions of a controller on one link, in the order in which it makes them: what a hub sets only on the link on
 * which it speaks of itself, the heartbeat only where a feed needs it.
 */
export const subscriptionsOf = (site: string, controller: string, own: boolean, watches: boolean): string[] => {
  const scheme = topics(site, controller)
  return [
    ...(own ? [`${scheme.prefix}+/set`] : []),
    scheme.pointSet('+'),
    scheme.pointHeld('+'),
    ...(watches ? [scheme.watch] : []),
  ]
}
