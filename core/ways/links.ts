import {
  freshId,
  idFromName,
  type Channel,
  type ChannelAction,
  type Link,
  type LinkId,
  type LinkWay,
  type Site,
  type WayId,
  kindOf,
} from '../site'

/**
 * Nearby and serial links: one printable character a command, given out automatically, never twice on one controller.
 */

/** Characters that a controller's links use, for channels and for controls. */
export function charsUsed(site: Site, controller: string): Set<string> {
  const links = new Set(site.links.filter((link) => link.controller === controller).map((link) => link.id as string))
  return new Set([
    ...site.ways.flatMap((way) => (way.kind === 'link' && links.has(way.link) ? [way.char] : [])),
    ...site.controls.flatMap(({ source }) => (source.kind === 'link' && links.has(source.link) ? [source.char] : [])),
  ])
}

const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'
const OTHERS = '0123456789!#$%&()+,-./:;<=>@[]^_{|}~'

/** A letter of which neither case is used (capital: on, small: off); undefined when all are. */
const freeLetter = (used: ReadonlySet<string>): string | undefined =>
  [...LETTERS].find((letter) => !used.has(letter) && !used.has(letter.toLowerCase()))

/** Any character that is not used: letters first, since they are read and typed most easily. */
export function freeChar(site: Site, controller: string): string {
  const used = charsUsed(site, controller)
  return freeLetter(used) ?? [...OTHERS, ...LETTERS.toLowerCase(), ...LETTERS].find((char) => !used.has(char)) ?? '?'
}

/** The link of a controller, made where there is none. */
export function linkFor(site: Site, controller: Channel['controller'], kind: Link['kind']): Link {
  const existing = site.links.find((link) => link.controller === controller && link.kind === kind)
  if (existing) return existing
  const name = kind === 'nearby' ? 'Nearby link' : 'Serial link'
  const link: Link = {
    id: idFromName<string>(
      `${controller}-${kind}`,
      site.links.map((l) => l.id),
      kind,
    ) as LinkId,
    name,
    kind,
    controller,
    other: null,
    baud: 9_600,
    statusMs: 2_000,
  }
  site.links.push(link)
  return site.links.at(-1)!
}

export function addLinkWay(
  site: Site,
  channel: Channel,
  link: Link,
  char: string,
  action: ChannelAction,
  level: number | null = null,
): LinkWay {
  const way: LinkWay = {
    kind: 'link',
    id: freshId(site.ways, `${channel.id}-${link.kind}`, 'way') as WayId,
    channel: channel.id,
    link: link.id,
    char,
    action: action as LinkWay['action'],
    level,
  }
  site.ways.push(way)
  return way
}

/** The usual characters of a channel on a link. */
export function addLinkWays(site: Site, channel: Channel, kind: Link['kind']): void {
  const link = linkFor(site, channel.controller, kind)
  const letter = freeLetter(charsUsed(site, channel.controller))
  const pair = [letter, letter?.toLowerCase()]
  kindOf(channel).usual.characters.forEach((action, at) =>
    addLinkWay(site, channel, link, pair[at] ?? freeChar(site, channel.controller), action),
  )
}

/** One line of a link's table: what a character means. Both ends are written from it. */
export interface LinkRow {
  readonly char: string
  readonly target: string
  readonly action: string
}

export function linkTable(site: Site, link: Link): LinkRow[] {
  const own = site.ways.flatMap((way): LinkRow[] =>
    way.kind === 'link' && way.link === link.id
      ? [
          {
            char: way.char,
            target: way.channel,
            action: way.action === 'level' ? `level ${way.level ?? 0}` : way.action,
          },
        ]
      : [],
  )
  const more = site.controls.flatMap((control): LinkRow[] =>
    control.source.kind === 'link' && control.source.link === link.id
      ? [
          {
            char: control.source.char,
            target: control.kind === 'group' ? `group ${control.group}` : `controller ${control.controller}`,
            action: control.action,
          },
        ]
      : [],
  )
  return [...own, ...more].sort((a, b) => a.char.charCodeAt(0) - b.char.charCodeAt(0))
}

/** The same with a letter's two cases together, which mostly mean on and off of one thing. */
export const linkRowsByLetter = (site: Site, link: Link): LinkRow[] =>
  linkTable(site, link).sort(
    (a, b) => a.char.toLowerCase().localeCompare(b.char.toLowerCase()) || a.char.charCodeAt(0) - b.char.charCodeAt(0),
  )

/** What a row's target is called. */
export const linkTargetName = (site: Site, target: string): string =>
  site.channels.find(({ id }) => id === target)?.name ??
  site.controllers.find(({ id }) => target === `controller ${id}`)?.name ??
  site.groups.find(({ id }) => target === `group ${id}`)?.name ??
  target
