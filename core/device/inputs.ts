import { NO_LEVEL, type ImageBinding } from '../image'
import { doDeed } from './deeds'
import { learnedFromWall } from './powerUp'
import { log, ownLink, publish, UNKNOWN, type DeviceState, type InputState } from './state'
import { instant } from './time'

/** An electrical level at one contact of an input. */
export function levelArrives(state: DeviceState, index: number, bit: number, level: 0 | 1): void {
  const input = state.inputs[index]!
  const table = state.image.inputs[index]!
  const code = level === table.closedLevel ? input.code | (1 << bit) : input.code & ~(1 << bit)
  if (input.code === code) return
  input.code = code
  if (!state.powered) return
  moves(input, state.now)
  const slot = state.slots.settle(index)
  if (input.settled === UNKNOWN) {
    state.timers.arm(slot, state.now, table.settleMs)
  } else if (table.settle === 'settle') {
    if (input.code === input.settled) state.timers.cancel(slot)
    else state.timers.arm(slot, state.now, table.settleMs)
  } else if (!state.timers.isArmed(slot)) {
    codeChanges(state, index)
    state.timers.arm(slot, state.now, table.settleMs)
  }
}

/** Two moves of a contact that are closer are of one bounce, ms: no finger is as quick (common practice). */
const BOUNCE_GAP_MS = 50

function moves(input: InputState, now: number): void {
  if (instant(now - input.movedAt) >= BOUNCE_GAP_MS) input.movedFrom = now
  input.movedAt = now
}

/** A contact that bounced for longer than it has yet: its settle time can be held against that. */
function sayBounce(state: DeviceState, index: number): void {
  const input = state.inputs[index]!
  // the firmware keeps it in 8 bits
  const ms = Math.min(255, instant(input.movedAt - input.movedFrom))
  if (ms <= input.bounced) return
  input.bounced = ms
  log(state, `input ${state.image.inputs[index]!.id}: bounced ${ms} ms`)
}

/** The settle time of an input has passed. */
export function settled(state: DeviceState, index: number): void {
  const input = state.inputs[index]!
  if (input.settled !== UNKNOWN) sayBounce(state, index)
  if (input.settled === UNKNOWN) learn(state, index)
  else if (input.code !== input.settled) {
    codeChanges(state, index)
    const { settle, settleMs } = state.image.inputs[index]!
    if (settle === 'eager') state.timers.arm(state.slots.settle(index), state.now, settleMs)
  }
}

/** The first settled code fires nothing; it only tells a following channel where its rocker or selector stands. */
function learn(state: DeviceState, index: number): void {
  const input = state.inputs[index]!
  input.settled = input.code
  const table = state.image.inputs[index]!
  if (table.kind === 'contact') return positionChanges(state, index)
  for (const i of state.bindingsOf[index]!) {
    const binding = state.image.bindings[i]!
    if (binding.on === 'channel' && binding.gesture === 'follow')
      learnedFromWall(state, binding.index, input.code === 0 ? 0 : null)
  }
  if (table.kind === 'selector') learnSelector(state, index)
  else gatedBy(state, index).forEach((selector) => learnSelector(state, selector))
}

/** Selectors that count only while this input is closed, and that have settled. */
const gatedBy = (state: DeviceState, index: number): number[] =>
  state.image.inputs.flatMap(({ gate }, selector) =>
    gate === index && state.inputs[selector]!.settled !== UNKNOWN ? [selector] : [],
  )

/** The level that a selector gives: of its code, and 0 while its gate is open; null: the gate has not settled. */
function levelOfSelector(state: DeviceState, index: number): number | null {
  const { table, gate } = state.image.inputs[index]!
  const stands = gate === undefined ? 1 : state.inputs[gate]!.settled
  if (stands === UNKNOWN) return null
  return stands === 0 ? 0 : table[state.inputs[index]!.settled]!
}

function learnSelector(state: DeviceState, index: number): void {
  const level = levelOfSelector(state, index)
  if (level === null || level === NO_LEVEL) return
  for (const i of state.bindingsOf[index]!) {
    const binding = state.image.bindings[i]!
    if (binding.on === 'channel' && binding.gesture === 'select') learnedFromWall(state, binding.index, level)
  }
}

/** A selector or its gate moved. A code that is not in the table keeps the last level and is reported. */
function selectorMoves(state: DeviceState, index: number): void {
  const level = levelOfSelector(state, index)
  if (level === NO_LEVEL)
    log(state, `selector ${state.image.inputs[index]!.id}: no level for code ${state.inputs[index]!.settled}`)
  else if (level !== null) fire(state, index, 'select', level)
}

/** A position contact moved: the true state of its channels is another. */
function positionChanges(state: DeviceState, index: number): void {
  state.image.channels.forEach((table, channel) => {
    if (table.contact !== index) return
    state.channels[channel]!.source = 'contact'
    state.channels[channel]!.seq = (state.channels[channel]!.seq + 1) >>> 0
    state.channels[channel]!.reportDue = true
    state.statusDue = true
  })
}

function codeChanges(state: DeviceState, index: number): void {
  const input = state.inputs[index]!
  const table = state.image.inputs[index]!
  input.settled = input.code
  const closed = input.code !== 0
  switch (table.kind) {
    case 'contact':
      return positionChanges(state, index)
    case 'selector':
      // turned while its gate is open it starts nothing, and stops nothing that something else started
      if (table.gate === undefined || state.inputs[table.gate]!.settled === 1) selectorMoves(state, index)
      return
    case 'rocker':
      fire(state, index, 'flip')
      fire(state, index, 'follow')
      return gatedBy(state, index).forEach((selector) => selectorMoves(state, selector))
    case 'momentary':
      if (closed) {
        input.pressed = true
        input.holdFired = false
        if (table.holdMs > 0) state.timers.arm(state.slots.hold(index), state.now, table.holdMs)
        else fire(state, index, 'press')
        return
      }
      // held since before the power came: its opening means nothing
      if (!input.pressed) return
      input.pressed = false
      if (table.holdMs > 0) {
        state.timers.cancel(state.slots.hold(index))
        if (!input.holdFired) fire(state, index, 'press')
      }
      fire(state, index, 'release')
  }
}

/** Held long enough. */
export function held(state: DeviceState, index: number): void {
  state.inputs[index]!.holdFired = true
  fire(state, index, 'hold')
}

function fire(state: DeviceState, index: number, gesture: ImageBinding['gesture'], level = 0): void {
  for (const i of state.bindingsOf[index]!) {
    const binding = state.image.bindings[i]!
    if (binding.gesture !== gesture) continue
    const closed = state.inputs[index]!.settled !== 0
    // A detached feed's switch speaks to the hub, which works the lamps; the relay stays closed.
    if (binding.on === 'channel' && state.image.channels[binding.index]!.kind === 'feed' && !state.local)
      tellHub(state, binding.index, gesture, closed, level)
    else
      doDeed(
        state,
        binding.action === 'follow' ? { ...binding, action: closed ? 'on' : 'off' } : binding,
        level,
        'wall',
      )
  }
}

function tellHub(
  state: DeviceState,
  channel: number,
  gesture: ImageBinding['gesture'],
  closed: boolean,
  level: number,
): void {
  const link = ownLink(state)
  if (link < 0) return
  const word = gesture === 'follow' ? (closed ? 'closed' : 'open') : gesture === 'select' ? String(level) : gesture
  publish(state, link, state.scheme.gesture(state.image.channels[channel]!.topic), word, false)
}
