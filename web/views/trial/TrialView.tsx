import { useEffect, useMemo } from 'react'
import { boardIn } from '../../../core/boards'
import type { Site } from '../../../core/site'
import { ask, sitePath } from '../../store/api'
import { attempt } from '../../store/editing'
import { useAppSelector } from '../../store/store'
import { Breakers } from './Breakers'
import { HubPanel } from './HubPanel'
import { Links } from './Links'
import { Loads } from './Loads'
import { Phone } from './Phone'
import { Remotes } from './Remotes'
import { TimeLine } from './TimeLine'
import { Voice } from './Voice'
import { WallPlate } from './WallPlate'
import { Weather } from './Weather'
import { useTrial } from './useTrial'

/** The part of the site that a controller filter leaves. Controllers without a board profile cannot be simulated. */
function narrow(site: Site, controller: string | null): Site {
  const keep = (id: string) =>
    (controller === null || id === controller) &&
    boardIn(site, site.controllers.find((c) => c.id === id)?.board ?? '') !== undefined
  const channels = site.channels.filter((channel) => keep(channel.controller))
  const has = new Set<string>(channels.map((channel) => channel.id))
  return {
    ...site,
    controllers: site.controllers.filter((c) => keep(c.id)),
    channels,
    inputs: site.inputs.filter((input) => keep(input.controller)),
    ways: site.ways.filter((way) => has.has(way.channel)),
    rules: site.rules.filter((rule) => has.has(rule.channel)),
    sensors: site.sensors.filter((sensor) => keep(sensor.controller)),
    remotes: site.remotes.filter((remote) => keep(remote.controller)),
    links: site.links.filter((link) => keep(link.controller)),
    groups: site.groups.map((group) => ({ ...group, members: group.members.filter((member) => has.has(member)) })),
    services: site.services.map((service) => {
      const points = service.points.filter((point) => keep(point.controller))
      return {
        ...service,
        points,
        widgets: service.widgets.filter((widget) => points.some((point) => point.id === widget.point)),
      }
    }),
    hubs: site.hubs.map((hub) => ({ ...hub, entities: hub.entities.filter((entity) => has.has(entity.channel)) })),
  }
}

/** The same controllers in a simulated house: press, tap, break things, and see what each screen believes. */
export function TrialView() {
  const whole = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector((state) => state.screen.controller)
  const site = useMemo(() => narrow(whole, controller), [whole, controller])
  const { snapshot, act, restart } = useTrial(site)
  useEffect(() => {
    const listen = (event: KeyboardEvent) => {
      const input = /^[1-9]$/.test(event.key) ? site.inputs[Number(event.key) - 1] : undefined
      const typing =
        event.target instanceof HTMLElement && ['INPUT', 'SELECT', 'TEXTAREA'].includes(event.target.tagName)
      if (!input || input.kind === 'selector' || input.kind === 'contact' || typing || event.repeat) return
      if (input.kind === 'rocker') {
        if (event.type === 'keydown') act({ kind: 'rock', input: input.id })
      } else act({ kind: event.type === 'keydown' ? 'press' : 'release', input: input.id })
    }
    window.addEventListener('keydown', listen)
    window.addEventListener('keyup', listen)
    return () => {
      window.removeEventListener('keydown', listen)
      window.removeEventListener('keyup', listen)
    }
  }, [site, act])
  if (site.channels.length === 0) {
    return (
      <div className="px-5 py-4">
        <h1 className="text-view font-bold">Trial</h1>
        <p className="mt-2 text-soft">Nothing to try yet: a channel and a way in are needed.</p>
      </div>
    )
  }
  if (!snapshot)
    return (
      <p className="p-6 text-soft" role="status">
        The house is being put up …
      </p>
    )
  const keep = () =>
    void attempt(
      ask('POST', `${sitePath(whole.id)}/trials`, {
        durationMs: Math.round(snapshot.now),
        timeline: snapshot.timeline,
      }),
      'Kept in the logbook',
    )
  return (
    <div className="flex h-full flex-col px-5 pt-4" data-testid="trial">
      <div className="flex items-baseline gap-4">
        <h1 className="text-view font-bold">Trial</h1>
        <p className="text-note text-soft">
          The firmware’s own tables, in a simulated house. Nothing here touches a real wire.
        </p>
        <div className="ml-auto flex gap-2">
          <button type="button" className="press" onClick={restart}>
            Begin anew
          </button>
          <button type="button" className="press" onClick={keep} disabled={snapshot.timeline.length === 0}>
            Keep this run
          </button>
        </div>
      </div>
      <Breakers site={site} snapshot={snapshot} act={act} />
      <div className="mt-3 grid min-h-0 flex-1 grid-cols-[minmax(13rem,1fr)_minmax(14rem,1.2fr)_minmax(13rem,0.9fr)] gap-5 overflow-auto pb-3">
        <div className="space-y-4">
          <WallPlate site={site} snapshot={snapshot} act={act} />
          <Remotes site={site} snapshot={snapshot} act={act} />
          <Voice site={site} snapshot={snapshot} act={act} />
          <Links site={site} snapshot={snapshot} act={act} />
        </div>
        <Loads site={site} snapshot={snapshot} />
        <div className="space-y-4">
          <Phone site={site} snapshot={snapshot} act={act} />
          <Weather site={site} snapshot={snapshot} act={act} />
          <HubPanel site={site} snapshot={snapshot} act={act} />
        </div>
      </div>
      <TimeLine snapshot={snapshot} />
    </div>
  )
}
