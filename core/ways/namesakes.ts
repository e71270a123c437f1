import type { Site } from '../site'

/** What bears a channel's name beside the channel itself. */
export interface Namesake {
  readonly key: string
  /** "widget of App service" */
  readonly what: string
  readonly name: string
}

/** A namesake with its place in a draft, and how its name is written there. */
interface Found extends Namesake {
  readonly put: (name: string) => void
}

const found = (key: string, what: string, thing: { name: string }): Found => ({
  key,
  what,
  name: thing.name,
  put: (name) => {
    thing.name = name
  },
})

/** Everything by which a channel is worked or shown that has a name of its own. */
function allOf(site: Site, channelId: string): Found[] {
  const ways = site.ways.filter((way) => way.channel === channelId)
  return ways.flatMap((way): Found[] => {
    if (way.kind === 'voice') return [found(`spoken ${way.id}`, 'spoken name', way)]
    if (way.kind === 'hub') {
      const hub = site.hubs.find(({ id }) => id === way.hub)
      const entity = hub?.entities.find(({ id }) => id === way.entity)
      return hub && entity ? [found(`entity ${hub.id} ${entity.id}`, `entity of ${hub.name}`, entity)] : []
    }
    if (way.kind === 'remote') {
      const remote = site.remotes.find(({ id }) => id === way.remote)
      const key = remote?.keys.find(({ id }) => id === way.key)
      return remote && key ? [found(`key ${remote.id} ${key.id}`, `key of ${remote.name}`, key)] : []
    }
    if (way.kind !== 'app') return []
    const service = site.services.find(({ id }) => id === way.service)
    const point = service?.points.find(({ id }) => id === way.point)
    if (!service || !point) return []
    return [
      found(`point ${service.id} ${point.id}`, `point of ${service.name}`, point),
      ...service.widgets
        .filter((widget) => widget.point === point.id)
        .map((widget) => found(`widget ${service.id} ${widget.id}`, `widget of ${service.name}`, widget)),
    ]
  })
}

/** The old name within another, whatever its capitals; one that holds more words keeps them. */
const bears = (name: string, old: string): boolean => name.toLowerCase().includes(old.toLowerCase())

function renamed(name: string, old: string, to: string): string {
  const at = name.toLowerCase().indexOf(old.toLowerCase())
  const small = name === name.toLowerCase()
  return (name.slice(0, at) + (small ? to.toLowerCase() : to) + name.slice(at + old.length)).slice(0, 60)
}

/** What bears the name of a channel, each once: a key or a point can serve several ways. */
export function namesakesOf(site: Site, channelId: string): Namesake[] {
  const channel = site.channels.find(({ id }) => id === channelId)
  if (!channel) return []
  const all = allOf(site, channelId).filter(({ name }) => bears(name, channel.name))
  return [...new Map(all.map(({ key, what, name }) => [key, { key, what, name }])).values()]
}

/** Renames a channel in a draft, and with it those of its namesakes that are named by their keys. */
export function renameAlong(draft: Site, channelId: string, to: string, along: ReadonlySet<string>): void {
  const channel = draft.channels.find(({ id }) => id === channelId)
  if (!channel) return
  const old = channel.name
  const done = new Set<string>()
  for (const { key, name, put } of allOf(draft, channelId)) {
    if (!along.has(key) || done.has(key) || !bears(name, old)) continue
    done.add(key)
    put(renamed(name, old, to))
  }
  channel.name = to
}
