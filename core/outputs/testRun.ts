import { channelsOn, controllerOf, type Channel, type Controller, type Site, type Way } from '../site'
import { cautionsFor, hasMains } from './cautions'
import { boardTests, channelTests, controlTests, loadTests, ruleTests } from './controllerTests'
import { coprocessorTests, outageTests } from './outageTests'
import { lacksNetwork } from './ports'
import { powerTests } from './powerTests'
import { STAGES, type Draft, type Stage, type TestItem } from './testItem'
import { waySteps } from './wayTests'

/**
 * The list for one controller, stage by stage. Alone: every way of every channel, on the module's indicators, and all
 * that the controller does by itself. No load: each relay is heard, after power cuts and in every outage. Load: each
 * channel with what it really works, the supply off while it is connected.
 */
export function testList(site: Site, controllerId: string): TestItem[] {
  const controller = controllerOf(site, controllerId)
  if (!controller) return []
  const channels = channelsOn(site, controllerId)
  const deaf = lacksNetwork(site, controller)
  const at = (stage: Stage, drafts: readonly Draft[]): TestItem[] =>
    drafts.map(({ heard, ...rest }) => ({
      ...rest,
      key: `${stage}:${rest.key}`,
      stage,
      watch: { controller: controllerId, ...heard },
    }))
  return [
    ...at('alone', wayDrafts(site, channels, deaf)),
    ...at('alone', controlTests(site, controller, deaf)),
    ...at('alone', ruleTests(site, controller)),
    ...at('alone', channelTests(site, controller)),
    ...at('alone', boardTests(site, controller)),
    ...at('alone', coprocessorTests(site, controller)),
    ...at(
      'no-load',
      channels.flatMap((channel) => powerTests(site, channel, controller.storeMs)),
    ),
    ...at('no-load', deaf ? [] : outageTests(site, controller)),
    ...at(
      'load',
      channels.map((channel) => loadTests(site, channel)),
    ),
  ]
}

/** Every way of every channel, but those over a network that the board has not. */
const wayDrafts = (site: Site, channels: readonly Channel[], deaf: boolean): Draft[] =>
  channels.flatMap((channel) =>
    site.ways
      .filter((way) => way.channel === channel.id && !(deaf && OVER_NETWORK.includes(way.kind)))
      .flatMap((way) =>
        waySteps(site, channel, way).map(({ key, ...step }) => ({
          key: `${channel.id}:${way.id}:${key}`,
          channel: channel.id as string,
          way: way.id as string,
          ...step,
        })),
      ),
  )

const OVER_NETWORK: readonly Way['kind'][] = ['app', 'hub', 'voice']

const aloneCautions = (site: Site, controller: Controller | undefined): readonly string[] => [
  'No mains in the box yet: only the board, the module and their supply.',
  '“On” means here: the relay clicks and its indicator lights.',
  ...(controller && lacksNetwork(site, controller)
    ? ['The program of this board has no network: ways by phone, hub or voice are not on this list and stay untested.']
    : []),
]

/** What to say before a stage. */
export function stageCautions(site: Site, controllerId: string, stage: Stage): readonly string[] {
  if (stage === 'alone') return aloneCautions(site, controllerOf(site, controllerId))
  if (stage === 'no-load') return ['Still no mains: the contacts stay unconnected; listen for the click.']
  const cautions = cautionsFor(site, controllerId)
  return hasMains(site, controllerId) ? cautions : ['Connect the load with its supply off.', ...cautions]
}

/** The first stage before this one that is not clear yet: something of it is open or has failed. */
export function openStage(
  items: readonly { readonly stage: Stage; readonly outcome: string }[],
  stage: Stage,
): Stage | undefined {
  const clear = (outcome: string): boolean => outcome === 'passed' || outcome === 'skipped'
  const before = STAGES.slice(0, STAGES.indexOf(stage))
  return before.find((one) => items.some((item) => item.stage === one && !clear(item.outcome)))
}
