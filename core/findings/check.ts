import type { Site } from '../site'
import { boxChecks } from './boxes'
import { credentialChecks } from './credentials'
import { driveChecks } from './drive'
import { fanChecks } from './fan'
import { fallbackChecks } from './fallback'
import { NO_RECORD, SEVERITIES, whereKey, type Check, type Finding, type RecordOfBuilds } from './finding'
import { groupChecks } from './groups'
import { infraredChecks } from './infrared'
import { limitChecks } from './limits'
import { loadChecks } from './loads'
import { mainsChecks } from './mainsSide'
import { mappingChecks } from './mapping'
import { ownPartChecks } from './ownParts'
import { pinChecks } from './pins'
import { placeChecks } from './place'
import { reachChecks } from './reach'
import { safetyChecks } from './safety'
import { supplyChecks } from './supply'
import { switchChecks } from './switches'
import { toolChecks } from './tools'
import { nameChecks } from './voiceNames'

const CHECKS: readonly Check[] = [
  ...pinChecks,
  ...ownPartChecks,
  ...boxChecks,
  ...driveChecks,
  ...supplyChecks,
  ...loadChecks,
  ...mainsChecks,
  ...placeChecks,
  ...mappingChecks,
  ...groupChecks,
  ...reachChecks,
  ...limitChecks,
  ...nameChecks,
  ...infraredChecks,
  ...switchChecks,
  ...fanChecks,
  ...credentialChecks,
  ...safetyChecks,
  ...fallbackChecks,
  ...toolChecks,
]

const rank = (finding: Finding): number =>
  (finding.accepted === undefined ? 0 : 10) + SEVERITIES.indexOf(finding.severity)

/**
 * The checks one by one, so that a page can let a hand in between: a large site takes some hundred milliseconds. Gives
 * every finding of the site at its end, the gravest first, accepted ones last.
 */
export function* checkInSteps(site: Site, record: RecordOfBuilds = NO_RECORD): Generator<undefined, Finding[], void> {
  const found: Finding[] = []
  for (const check of CHECKS) {
    found.push(...check(site, record))
    yield
  }
  const accepted = new Map(site.accepted.map((a) => [`${a.finding}|${a.where}`, a]))
  return found
    .map((finding) => {
      const acceptance = accepted.get(`${finding.id}|${whereKey(finding.where)}`)
      return acceptance && acceptance.facts === finding.what ? { ...finding, accepted: acceptance.reason } : finding
    })
    .sort((a, b) => rank(a) - rank(b) || a.id.localeCompare(b.id))
}

/** Every finding of a site, the gravest first, accepted ones last. */
export function checkSite(site: Site, record: RecordOfBuilds = NO_RECORD): Finding[] {
  const steps = checkInSteps(site, record)
  for (;;) {
    const { done, value } = steps.next()
    if (done) return value
  }
}

/** Does anything still open keep the site from working, or make it dangerous? */
export const isBlocking = (findings: readonly Finding[]): boolean =>
  findings.some(
    (finding) => finding.accepted === undefined && (finding.severity === 'error' || finding.severity === 'danger'),
  )
