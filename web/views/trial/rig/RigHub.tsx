import { useCallback, useMemo } from 'react'
import { wireOf } from '../../../../core/services'
import type { Faults, HubPage } from '../../../../core/api'
import type { Site } from '../../../../core/site'
import type { HubWish } from '../../../../core/trial'
import { attempt } from '../../../store/attempt'
import { call } from '../../../store/api'
import { HubLines } from '../HubPanel'
import { FaultSwitches, Refusals } from './Faults'
import { onlineWords } from './StandIn'
import { useAsked } from '../../../parts/useAsked'

const isHub = ({ kind }: { kind: string }): boolean => kind === 'hub'

/** The hub's stand-in on the real broker: what it believes, what it says, what was refused. */
export function RigHub({ site: whole }: { site: Site }) {
  const site = useMemo(() => onTheHouse(whole), [whole])
  const ask = useCallback(() => call('hubPage', { site: site.id }), [site.id])
  const page = useAsked(ask, isHub)
  if (!page) return null
  const setFaults = (body: Faults) => void attempt(call('setHubFaults', { site: site.id, body }))
  const act = (body: HubWish) => void attempt(call('hubCommand', { site: site.id, body }))
  return (
    <article aria-label="Hub">
      <h2 className="rule-head">{site.hubs.map(({ name }) => name).join(', ')}</h2>
      <p className="mt-1 text-small">
        {stateWords(page)} {page.running && onlineWords(site, page)}{' '}
        {page.running && `Messages: ${page.messages} today.`}
      </p>
      <HubLines site={site} beliefs={page.beliefs} waits={page.waits} act={act} />
      <FaultSwitches faults={page.faults} of="this hub" set={setFaults} />
      <Refusals lines={page.refused} />
    </article>
  )
}

/** Hubs on the broker of the house: one with a wire of its own is a service here. */
function onTheHouse(site: Site): Site {
  const hubs = site.hubs.filter((hub) => !wireOf(site, hub))
  const isHere = (id: string): boolean => hubs.some((hub) => hub.id === id)
  return {
    ...site,
    hubs,
    groups: site.groups.map((group) => ({
      ...group,
      ...(group.ways ? { ways: group.ways.filter((way) => way.kind !== 'hub' || isHere(way.hub)) } : {}),
    })),
    controllers: site.controllers.map(({ modeEntity, ...rest }) =>
      modeEntity && isHere(modeEntity.hub) ? { ...rest, modeEntity } : rest,
    ),
  }
}

const stateWords = ({ running, connected }: HubPage): string =>
  connected ? 'Connected to the broker.' : running ? 'Not connected.' : 'Starts with the rig.'
