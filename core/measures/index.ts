/** What is measured: in a run, by trying often, and in captures of the real thing. */
export { bounceOf, type Bounce } from './bounce'
export { quantile, spreadOf, wayLatencies, type LatencyOptions, type Spread, type WayLatency } from './latencies'
export { inputMisses, missChance, missedShare, PRESS_MS, SLOW_SCAN_MS, type InputMisses, type Watching } from './missed'
export { CONTACT_LIFE, runMeasures, type ChannelMeasure, type RunMeasures, type TrafficMeasure } from './ofRun'
export { changesOf, overlay, waveEdges, type Overlay, type TimedEdge } from './overlay'
