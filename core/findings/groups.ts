import { controllerOf, controllersOfGroup, topLevel, type Controller, type Group, type Site } from '../site'
import { addGroupPoint, removeGroupWay } from '../ways'
import type { Check, Finding, Fix, Where } from './finding'

/** Ways to groups: what the phone, a hub and a spoken name can say to several channels at once. */

const place = (group: Group): Where => ({
  thing: 'group',
  id: group.id,
  name: group.name,
  step: 'ways',
  side: 'rules',
})

const without = (group: Group, at: number): Fix => ({
  label: 'Delete this way',
  change: (draft) => removeGroupWay(draft, group.id, at),
})

/** The topic level of a channel on one controller, as hubs say it. */
const topicsOn = (site: Site, controller: Controller): ReadonlySet<string> =>
  new Set([
    ...site.channels.filter((channel) => channel.controller === controller.id).map(({ id }) => id as string),
    ...site.hubs.flatMap((hub) =>
      hub.entities
        .filter((entity) =>
          site.channels.some(({ id, controller: on }) => id === entity.channel && on === controller.id),
        )
        .map(({ topic }) => topic),
    ),
  ])

/** M20 a group and a channel under one topic */
const oneTopic: Check = (site) =>
  site.groups.flatMap((group): Finding[] => {
    const at = group.ways?.findIndex(({ kind }) => kind === 'hub') ?? -1
    if (at < 0) return []
    return controllersOfGroup(site, group)
      .filter((controller) => topicsOn(site, controller).has(group.id))
      .map((controller) => ({
        id: 'M20',
        severity: 'error',
        title: 'Topic used by group and channel',
        where: place(group),
        what: `On ${controller.name} a channel has the topic “${group.id}”, which the group ${group.name} has too.`,
        why: 'A command to the group reaches only that channel.',
        fixes: [without(group, at)],
      }))
  })

const names = (controllers: readonly Controller[]): string => controllers.map(({ name }) => name).join(', ')

/** M21 a point that works only a part of its group */
const partOfTheGroup: Check = (site) =>
  site.groups.flatMap((group): Finding[] => {
    const points = (group.ways ?? []).flatMap((way) =>
      way.kind === 'app' ? [{ service: way.service, on: pointController(site, way.service, way.point) }] : [],
    )
    const all = controllersOfGroup(site, group)
    return [...new Set(points.map(({ service }) => service))].flatMap((service): Finding[] => {
      const reached = new Set(points.filter((one) => one.service === service).map(({ on }) => on))
      const missing = all.filter(({ id }) => !reached.has(id))
      if (missing.length === 0) return []
      return [
        {
          id: 'M21',
          severity: 'warning',
          title: 'Point works part of the group',
          where: place(group),
          what: `${group.name} has members on ${names(all)}; no point of it is on ${names(missing)}.`,
          why: 'A point works only the members on its own controller.',
          fixes: [
            {
              label: 'Add a point on each',
              change: (draft) => {
                const own = draft.groups.find(({ id }) => id === group.id)!
                for (const { id } of missing) addGroupPoint(draft, own, id, service)
              },
            },
          ],
        },
      ]
    })
  })

const pointController = (site: Site, service: string, point: string): string | undefined =>
  site.services.find(({ id }) => id === service)?.points.find(({ id }) => id === point)?.controller

/** M22 a name for a group that leads nowhere */
const leadsNowhere: Check = (site) =>
  site.groups.flatMap((group): Finding[] =>
    (group.ways ?? []).flatMap((way, at): Finding[] =>
      way.kind === 'voice' && !group.ways!.some(({ kind }) => kind === way.through)
        ? [
            {
              id: 'M22',
              severity: 'error',
              title: 'Group name not connected',
              where: place(group),
              what: `“${way.name}” needs ${way.through === 'hub' ? 'an entity' : 'a point'} of ${group.name}, which has none.`,
              why: 'The command arrives and nothing happens.',
              fixes: [without(group, at)],
            },
          ]
        : [],
    ),
  )

/** M23 a level that a member does not have */
const noSuchLevel: Check = (site) =>
  site.groups.flatMap((group): Finding[] =>
    Object.entries(group.levels ?? {}).flatMap(([id, level]): Finding[] => {
      const channel = site.channels.find((one) => one.id === id && group.members.includes(one.id))
      if (!channel || level <= topLevel(channel)) return []
      return [
        {
          id: 'M23',
          severity: 'error',
          title: 'Group level too high',
          where: place(group),
          what: `${group.name} sets ${channel.name} to level ${level}; its highest is ${topLevel(channel)}.`,
          why: `${controllerOf(site, channel.controller)?.name ?? 'The controller'} sets the highest level instead.`,
          fixes: [
            {
              label: `Set level: ${topLevel(channel)}`,
              change: (draft) => {
                draft.groups.find((one) => one.id === group.id)!.levels![id] = topLevel(channel)
              },
            },
          ],
        },
      ]
    }),
  )

export const groupChecks: readonly Check[] = [oneTopic, partOfTheGroup, leadsNowhere, noSuchLevel]
