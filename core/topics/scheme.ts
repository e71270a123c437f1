/** The topic scheme of docs/behaviour.md, in one place. `+` stands only in subscriptions. */
export const topicPrefix = (site: string, controller: string): string => `vestibule/${site}/${controller}/`

export const topics = (site: string, controller: string) => {
  const prefix = topicPrefix(site, controller)
  return {
    prefix,
    status: `${prefix}status`,
    log: `${prefix}log`,
    set: (channel: string) => `${prefix}${channel}/set`,
    state: (channel: string) => `${prefix}${channel}/state`,
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

/** Subscriptions of a controller, in the order in which it makes them. */
export const subscriptionsOf = (site: string, controller: string): string[] => {
  const scheme = topics(site, controller)
  return [`${scheme.prefix}+/set`, scheme.pointSet('+'), scheme.pointHeld('+')]
}
