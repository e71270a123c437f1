import type { DeviceState } from './state'
import { command, learnedFromWall } from './switched'

const contactOf = (state: DeviceState, index: number): 'closed' | 'open' => (state.inputs[index]!.level === state.image.inputs[index]!.closedLevel ? 'closed' : 'open')

/** An electrical level at an input's pin. */
export function levelArrives(state: DeviceState, index: number, level: 0 | 1): void {
  const input = state.inputs[index]!
  if (input.level === level) return
  input.level = level
  if (!state.powered) return
  const { settle, settleMs } = state.image.inputs[index]!
  const slot = state.slots.settle(index)
  if (input.contact === 'unknown') {
    state.timers.arm(slot, state.now, settleMs)
  } else if (settle === 'settle') {
    if (contactOf(state, index) === input.contact) state.timers.cancel(slot)
    else state.timers.arm(slot, state.now, settleMs)
  } else if (!state.timers.isArmed(slot)) {
    contactChanges(state, index)
    state.timers.arm(slot, state.now, settleMs)
  }
}

/** The settle time of an input has passed. */
export function settled(state: DeviceState, index: number): void {
  const input = state.inputs[index]!
  if (input.contact === 'unknown') learn(state, index)
  else if (contactOf(state, index) !== input.contact) {
    contactChanges(state, index)
    const { settle, settleMs } = state.image.inputs[index]!
    if (settle === 'eager') state.timers.arm(state.slots.settle(index), state.now, settleMs)
  }
}

/** The first settled level fires nothing; it only tells a following channel where its rocker stands. */
function learn(state: DeviceState, index: number): void {
  const contact = contactOf(state, index)
  state.inputs[index]!.contact = contact
  for (const i of state.bindingsOf[index]!) {
    const binding = state.image.bindings[i]!
    if (binding.gesture === 'follow') learnedFromWall(state, binding.channel, contact === 'closed')
  }
}

function contactChanges(state: DeviceState, index: number): void {
  const input = state.inputs[index]!
  const closed = contactOf(state, index) === 'closed'
  input.contact = closed ? 'closed' : 'open'
  const { kind, holdMs } = state.image.inputs[index]!
  if (kind === 'rocker') {
    fire(state, index, 'flip')
    fire(state, index, 'follow')
    return
  }
  if (closed) {
    input.holdFired = false
    if (holdMs > 0) state.timers.arm(state.slots.hold(index), state.now, holdMs)
    else fire(state, index, 'press')
    return
  }
  if (holdMs > 0) {
    state.timers.cancel(state.slots.hold(index))
    if (!input.holdFired) fire(state, index, 'press')
  }
  fire(state, index, 'release')
}

/** Held long enough. */
export function held(state: DeviceState, index: number): void {
  state.inputs[index]!.holdFired = true
  fire(state, index, 'hold')
}

function fire(state: DeviceState, index: number, gesture: 'press' | 'release' | 'hold' | 'flip' | 'follow'): void {
  for (const i of state.bindingsOf[index]!) {
    const binding = state.image.bindings[i]!
    if (binding.gesture !== gesture) continue
    if (binding.action === 'follow') command(state, binding.channel, state.inputs[index]!.contact === 'closed' ? 'on' : 'off', 'wall')
    else command(state, binding.channel, binding.action, 'wall')
  }
}

