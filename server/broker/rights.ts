import type { Site } from '../../core/site'

/** Who is on the broker, and what topics that gives a right to. */
export type BrokerUser =
  | { kind: 'controller'; site: string; controller: string }
  | { kind: 'service'; site: string }
  | { kind: 'hub'; site: string }
  /** hears everything of a site, and says nothing */
  | { kind: 'listener'; site: string }

/**
 * "<site>.<controller>" for controllers, "<site>.@service" and "<site>.@hub" for the stand-ins, "<site>.@listener" for
 * what hears which boards are here; ids hold neither dot nor @.
 */
export function userNamed(name: string): BrokerUser | undefined {
  const [site, who, ...rest] = name.split('.')
  if (!site || !who || rest.length) return undefined
  if (who === '@service' || who === '@hub' || who === '@listener')
    return { kind: who.slice(1) as 'service' | 'hub' | 'listener', site }
  return { kind: 'controller', site, controller: who }
}

export const nameOfUser = (user: BrokerUser): string =>
  `${user.site}.${user.kind === 'controller' ? user.controller : `@${user.kind}`}`

const pattern = (text: string): RegExp => new RegExp(`^${text}$`)

/**
 * May this user publish on this topic? Controllers report, they do not command; services and the hub command, they do
 * not report.
 */
export function mayPublish(user: BrokerUser, topic: string): boolean {
  const any = '[^/+#]+'
  if (user.kind === 'controller')
    return pattern(
      `vestibule/${user.site}/${user.controller}/(status|log|${any}/(state|gesture)|vp/\\d+/state|sensor/${any})`,
    ).test(topic)
  if (user.kind === 'listener') return false
  if (user.kind === 'service') return pattern(`vestibule/${user.site}/${any}/vp/\\d+/(set|held)`).test(topic)
  return pattern(`vestibule/${user.site}/(watch|${any}/${any}/set)`).test(topic)
}

/** May this user subscribe to this filter? Only within its own site, a controller only within its own branch. */
export function maySubscribe(user: BrokerUser, filter: string): boolean {
  if (user.kind === 'controller')
    return filter.startsWith(`vestibule/${user.site}/${user.controller}/`) || filter === `vestibule/${user.site}/watch`
  return filter.startsWith(`vestibule/${user.site}/`)
}

/** Users that a site needs on the broker. */
export const usersOf = (site: Site): BrokerUser[] => [
  ...site.controllers.map((controller): BrokerUser => ({
    kind: 'controller',
    site: site.id,
    controller: controller.id,
  })),
  { kind: 'service', site: site.id },
  { kind: 'hub', site: site.id },
]
