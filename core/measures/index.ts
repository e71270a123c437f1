/** What is measured: in a run, by trying often, and in captures of the real thing. */
export { bounceOf, type Bounce } from './bounce'
export { quantile, spreadOf, wayLatencies, type LatencyOptions, type Spread, type WayLatency } from './latencies'
export { missChance, missedShare, type Watching } from './missed'
export { CONTACT_LIFE, runMeasures, type ChannelMeasure, type RunMeasures, type TrafficMeasure } from './ofRun'
export { changesOf, overlay, waveEdges, type Overlay, type TimedEdge } from './overlay'
