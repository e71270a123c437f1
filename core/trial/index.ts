/** The world around controllers: people, network, services, faults. */
export { draw } from './latency'
export { metersOf, type Meter } from './meter'
export { World } from './world'
export { Recording, type Deed } from './recording'
export { lastAt, TracksKept, valueAt, type Kept } from './tracksKept'
export type { Cause, HouseListener, LaneId, TrackEvent } from './tracks'
export { Broker, matches, type Message } from './broker'
export {
  announceHeld,
  appServiceFilters,
  appServiceHears,
  setPoint,
  startAppService,
  widgetSends,
  widgetShows,
  type AppServiceState,
  type Step,
} from './appService'
export {
  heartbeat,
  heartbeatMs,
  hubBeliefs,
  hubFilters,
  hubHears,
  hubOfWish,
  hubSays,
  hubValue,
  isMeant,
  startHub,
  type HubState,
  type HubWish,
} from './hub'
export { beliefsOf, trueLevel, type Belief } from './beliefs'
export { SOURCE_WORDS } from '../topics'
export { TIMELINE_KINDS } from './types'
export type { ChannelTruth, TimelineEntry, TrialAction, TrialSnapshot } from './types'
export { runTable, waveFile } from './waveFile'
export { deedPath, type DeedPath, type PathStop } from './deedPath'
export {
  barsOf,
  differences,
  LAG_MS,
  lanesOf,
  type Bar,
  type BeliefLane,
  type ChannelLane,
  type FaultBand,
  type Lanes,
  type Stretch,
  type Tick,
  type WireLane,
} from './lanes'
