import { command } from './channels'
import { log, type DeviceState } from './state'
import type { Source } from './types'

/** A rule may act on a channel that is in auto and does not yield to a hand. */
const rulesMayAct = (state: DeviceState, index: number): boolean =>
  state.channels[index]!.auto && !state.timers.isArmed(state.slots.yield(index))

function actOn(state: DeviceState, index: number, on: boolean, level: number, source: Source): void {
  if (!rulesMayAct(state, index)) return
  command(
    state,
    index,
    on ? (level > 0 ? { action: 'level', level } : { action: 'on', level: 0 }) : { action: 'off', level: 0 },
    source,
  )
}

/** A reading of a sensor, thousandths. */
export function sensorArrives(state: DeviceState, index: number, value: number): void {
  const sensor = state.sensors[index]!
  const table = state.image.sensors[index]!
  sensor.value = value
  sensor.heard = true
  if (sensor.reported === null || Math.abs(value - sensor.reported) > table.deadBand) sensor.due = true
  state.timers.arm(state.slots.stale(index), state.now, table.staleMs)
  state.image.rules.forEach((rule, r) => {
    if (rule.sensor === index) evaluate(state, r)
  })
}

/** What the reading says to a rule: on at or beyond its on-value, off at or beyond its off-value, nothing between. */
function wishOf(state: DeviceState, r: number): boolean | null {
  const rule = state.image.rules[r]!
  const { value } = state.sensors[rule.sensor]!
  if (value === null) return null
  if (rule.above ? value >= rule.on : value <= rule.on) return true
  if (rule.above ? value <= rule.off : value >= rule.off) return false
  return null
}

function evaluate(state: DeviceState, r: number): void {
  const wish = wishOf(state, r)
  // Within its dwell time a rule keeps its state; it looks again when the time is over.
  if (wish === null || wish === state.wishes[r] || state.timers.isArmed(state.slots.dwell(r))) return
  decide(state, r, wish)
}

function decide(state: DeviceState, r: number, wish: boolean): void {
  const rule = state.image.rules[r]!
  state.wishes[r] = wish
  // silence from the start is no state that has to last: the first reading acts at once
  if (rule.dwellMs > 0 && state.sensors[rule.sensor]!.heard)
    state.timers.arm(state.slots.dwell(r), state.now, rule.dwellMs)
  actOn(state, rule.channel, wish, rule.level, 'rule')
}

export const dwellOver = (state: DeviceState, r: number): void => evaluate(state, r)

/** No reading for too long: the rules that say so go off at once, whatever their dwell time. */
export function sensorStale(state: DeviceState, index: number): void {
  state.sensors[index]!.value = null
  state.sensors[index]!.due = false
  log(state, `sensor ${state.image.sensors[index]!.id}: stale`)
  state.image.rules.forEach((rule, r) => {
    if (rule.sensor === index && rule.staleOff && state.wishes[r] !== false) decide(state, r, false)
  })
}

/** The rules say again what they want of a channel. */
export function applyWishes(state: DeviceState, index: number): void {
  state.image.rules.forEach((rule, r) => {
    const wish = state.wishes[r]
    if (rule.channel === index && wish !== null && wish !== undefined) actOn(state, index, wish, rule.level, 'rule')
  })
}
