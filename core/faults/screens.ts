import { homeOfService, levelsOf, linkNeeds, type PartId } from '../parts'
import { wireOf } from '../services'
import { waysTo, type Channel, type Site, type Way } from '../site'
import { all, any, not, type Formula } from './formula'
import { levelsFrom0, type HouseFormulas } from './houseFormulas'
import type { Moved } from './inputsMove'

/**
 * A screen lies when it shows another level than its load has. One that says that its board is offline does not lie,
 * and one that is never told shows its last command at all times: a finding (M05) says that.
 */

type Screen = Extract<Way, { kind: 'app' | 'hub' }>

const isTold = (way: Way): way is Screen => (way.kind === 'app' || way.kind === 'hub') && way.feedback === 'reports'

/** A hub that hears the house's broker; one with a wire of its own keeps values, as an app service does. */
const hearsBroker = (site: Site, way: Screen): boolean =>
  way.kind === 'hub' && !site.hubs.some((hub) => hub.id === way.hub && wireOf(site, hub))

const homeOf = (site: Site, way: Screen): PartId =>
  way.kind === 'app' ? homeOfService(site, way.service) : hearsBroker(site, way) ? 'broker' : `service:${way.hub}`

/** A person sees it, and its board is online. */
function isLive(formulas: HouseFormulas, channel: Channel, way: Screen): Formula {
  const home = homeOf(formulas.site, way)
  const own: readonly PartId[] =
    way.kind === 'app' ? ['phone', home] : hearsBroker(formulas.site, way) ? ['hub'] : [home]
  const parts: readonly PartId[] = [
    ...own,
    ...linkNeeds(formulas.site, channel.controller, home),
    `board:${channel.controller}`,
  ]
  return all(parts.map((part) => formulas.works(part)))
}

/** Takes no word for what is: it shows what was last asked of it, or what it heard before. */
const takesNoWord = (formulas: HouseFormulas, way: Screen): Formula =>
  way.kind === 'app'
    ? formulas.failed(`service:${way.service}`, 'lying')
    : hearsBroker(formulas.site, way)
      ? formulas.failed('hub', 'lying')
      : formulas.failed(`service:${way.hub}`, 'lying')

/** Some other hand changes the load while the screen is not looking. */
function othersChange(formulas: HouseFormulas, channel: Channel, own: Screen, moved: readonly Moved[]): Formula {
  const isOwn = (way: Way): boolean => way.id === own.id || (way.kind === 'voice' && way.through === own.id)
  const others = waysTo(formulas.site, channel.id).filter((way) => !isOwn(way))
  return any([
    ...others.flatMap((way) =>
      levelsOf(channel, way).map((level) =>
        all([formulas.delivers(way, channel.controller), formulas.lit(channel, level)]),
      ),
    ),
    ...moved.flatMap(({ when, level }) => (level > 0 ? [all([when, formulas.lit(channel, level)])] : [])),
  ])
}

/** Some screen of the channel lies, whatever is asked of it. `moved`: from level 0. */
export function someScreenLies(formulas: HouseFormulas, channel: Channel, moved: readonly Moved[]): Formula {
  const differs = any(levelsFrom0(channel).map((level) => formulas.differs(channel, level)))
  const lit = any(levelsFrom0(channel).map((level) => formulas.lit(channel, level)))
  return any(
    waysTo(formulas.site, channel.id)
      .filter(isTold)
      .map((way) => {
        const deaf = takesNoWord(formulas, way)
        const wrong = hearsBroker(formulas.site, way)
          ? any([all([not(deaf), differs]), all([deaf, lit])])
          : any([differs, all([deaf, othersChange(formulas, channel, way, moved)])])
        return all([isLive(formulas, channel, way), wrong])
      }),
  )
}

/** Some screen is told how the channel is. */
export const hasScreen = (site: Site, channel: Channel): boolean => waysTo(site, channel.id).some(isTold)
