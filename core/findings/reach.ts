import {
  channelsOn,
  controllerOf,
  coprocessorOf,
  kindOf,
  newController,
  waysTo,
  type AppWay,
  type Channel,
  type ChannelAction,
  type Controller,
  type HubWay,
  type Link,
  type Site,
} from '../site'
import { neverSent } from '../services'
import { addLinkWay, freeChar, linkFor, removePoint } from '../ways'
import { inCell, type Check, type Finding } from './finding'

/**
 * What a network must be able to tell a channel, as characters of a pair's line (docs/behaviour.md, A pair): what its
 * levels can be said as, rest last.
 */
function neededBy(channel: Channel): ChannelAction[] {
  const [rest, ...levels] = kindOf(channel).saidAs
  return [...levels, rest].flatMap((action) => action ?? [])
}

const pairLine = (site: Site, channel: Channel): Link | undefined =>
  site.links.find((link) => link.controller === channel.controller && link.kind === 'serial')

/** Actions that the coprocessor of the channel's board has no character for. */
function withoutCharacter(site: Site, channel: Channel): ChannelAction[] {
  const line = pairLine(site, channel)
  const has = new Set(
    waysTo(site, channel.id).flatMap((way) =>
      way.kind === 'link' && way.link === line?.id ? [way.action as string] : [],
    ),
  )
  return neededBy(channel).filter((action) => !has.has(action))
}

const byNetwork = (site: Site, channel: Channel): (AppWay | HubWay)[] =>
  waysTo(site, channel.id).filter((way) => way.kind === 'app' || way.kind === 'hub')

function giveCharacters(draft: Site, channelId: string, actions: readonly ChannelAction[]): void {
  const channel = draft.channels.find((one) => one.id === channelId)!
  const line = pairLine(draft, channel)!
  for (const action of actions) addLinkWay(draft, channel, line, freeChar(draft, channel.controller), action)
}

/** The board that stands for one without a network, and the line between them. */
function giveCoprocessor(draft: Site, mainId: string): void {
  const main = controllerOf(draft, mainId)!
  const radio = newController(draft, `${main.name} radio`, 'eight-pin-coprocessor', {
    room: main.room,
    module: null,
    serialLog: false,
  })
  draft.controllers.push(radio)
  linkFor(draft, main.id, 'serial').other = radio.id
  for (const channel of channelsOn(draft, mainId)) {
    if (byNetwork(draft, channel).length > 0) giveCharacters(draft, channel.id, withoutCharacter(draft, channel))
  }
}

const NOT_REACHED = { id: 'M17', severity: 'error', title: 'Controller has no network' } as const

const noCoprocessor = ({ id, name }: Controller, asked: readonly Channel[]): Finding => ({
  ...NOT_REACHED,
  where: { thing: 'controller', id, name, controller: id, step: 'ways' },
  what:
    `${name} has no network, and no coprocessor at the other end of a serial line; ` +
    `${asked.map((channel) => channel.name).join(', ')} ${asked.length === 1 ? 'is' : 'are'} to be ` +
    'worked by app or hub.',
  why: 'Commands from there never arrive.',
  fixes: [{ label: `Add a coprocessor for ${name}`, change: (draft) => giveCoprocessor(draft, id) }],
})

function noCharacter(site: Site, main: Controller, radio: Controller, channel: Channel): Finding[] {
  const missing = withoutCharacter(site, channel)
  const way = byNetwork(site, channel)[0]!
  if (missing.length === 0) return []
  const change = (draft: Site) => giveCharacters(draft, channel.id, missing)
  return [
    {
      ...NOT_REACHED,
      where: inCell(site, channel.id, 'way', way.id, channel.name, way.kind),
      what:
        `${radio.name} connects ${main.name} to the network, and its line has no character for ` +
        `“${missing.join('”, “')}” of ${channel.name}.`,
      why: 'The command is refused on the way.',
      fixes: [{ label: `Add characters for ${channel.name}`, change }],
    },
  ]
}

/**
 * M17 a way by the network to a board that the network does not reach: one finding a board without any, one a channel
 * that a pair has no character for
 */
export const networkDoesNotReach: Check = (site) =>
  site.controllers.flatMap((controller): Finding[] => {
    if (controller.link !== 'none') return []
    const asked = channelsOn(site, controller.id).filter((channel) => byNetwork(site, channel).length > 0)
    if (asked.length === 0) return []
    const radio = coprocessorOf(site, controller.id)
    if (!radio) return [noCoprocessor(controller, asked)]
    return asked.flatMap((channel) => noCharacter(site, controller, radio, channel))
  })

const WHY_SILENT = {
  'no network': 'has no network',
  'not on the line': 'is reached through a coprocessor, whose line tells the levels of channels and nothing else',
}

/** M19 a mode or a reading on the phone that nobody ever sends there */
export const neverReachesThePhone: Check = (site) =>
  site.services.flatMap((service) =>
    service.points.flatMap((point): Finding[] => {
      const silent = neverSent(site, point)
      if (point.carries.kind === 'channel' || silent === null || silent === 'only written') return []
      const { name } = controllerOf(site, point.controller)!
      return [
        {
          id: 'M19',
          severity: 'error',
          title: 'Value never reaches the phone',
          where: { thing: 'service', id: service.id, name: service.name, step: 'ways', side: 'services' },
          what: `vp${point.vp} ${point.name} shows ${point.carries.kind === 'mode' ? 'a mode' : 'a reading'} of ${name}, which ${WHY_SILENT[silent]}.`,
          why: 'The phone always shows its first value, as if it were true.',
          fixes: [{ label: `Delete vp${point.vp}`, change: (draft) => removePoint(draft, service.id, point.id) }],
        },
      ]
    }),
  )

export const reachChecks: readonly Check[] = [networkDoesNotReach, neverReachesThePhone]
