import { hasContact } from './channels'
import { heartbeat } from './reports'
import { log, publish, restedChannel, UNKNOWN, type DeviceState } from './state'

/**
 * The coprocessor of a pair: it runs the tables of the main board at the other end of the serial line, drives nothing
 * itself, and stands for that board on the network. Status lines become reports; messages become characters
 * (sayToMain.ts).
 */

/** So many status periods without a line: the main board is not heard any more. Two lines may be lost. */
const SILENT_PERIODS = 3

/** At power-up nothing is known of the main board until its first line. */
export function forgetMain(state: DeviceState): void {
  state.heard = false
  state.lineRefused = false
  state.lastLine = ''
  state.image.channels.forEach((table, index) => {
    state.channels[index] = restedChannel(table.onLevel, false)
  })
  for (const input of state.inputs) input.settled = UNKNOWN
}

/** A line that the coprocessor does not take: damaged on its way, or made by a board with other tables. */
function refuseLine(state: DeviceState, why: string): void {
  if (!state.lineRefused) log(state, `serial: ${why}`)
  state.lineRefused = true
}

/** What stands before the star, when the sum behind it is right (docs/behaviour.md, status line). */
function soundPart(line: string): string | undefined {
  const star = line.length - 3
  if (star < 2 || line[star] !== '*' || !line.startsWith('S ')) return undefined
  const text = line.slice(0, star)
  let sum = 0
  for (let i = 0; i < text.length; i++) sum ^= text.charCodeAt(i)
  return sum.toString(16).toUpperCase().padStart(2, '0') === line.slice(star + 1) ? text : undefined
}

/**
 * The value of each channel, in order; undefined: the line speaks of other channels, or of levels that they do not
 * have.
 */
function valuesOf(state: DeviceState, text: string): (number | '?')[] | undefined {
  const words = text.slice(2).split(' ')
  const values: (number | '?')[] = []
  for (const [index, table] of state.image.channels.entries()) {
    const word = words[index] ?? ''
    if (!word.startsWith(`${table.id}=`)) return undefined
    const value = word.slice(table.id.length + 1)
    const door = hasContact(state, index)
    if (door && value === '?') values.push('?')
    else if (/^[0-9]{1,3}$/.test(value) && Number(value) <= (door ? 1 : table.patterns.length - 1))
      values.push(Number(value))
    else return undefined
  }
  return /^(\?=[0-9]{1,5} )?$/.test(words.slice(state.image.channels.length).join(' ')) ? values : undefined
}

/** A channel of the main board, as its line says; true: it is another than before. */
function takeValue(state: DeviceState, index: number, value: number | '?'): boolean {
  const table = state.image.channels[index]!
  const channel = state.channels[index]!
  if (hasContact(state, index)) {
    const settled = value === '?' ? UNKNOWN : (value === 0) === table.contactMeansClosed ? 1 : 0
    if (state.inputs[table.contact]!.settled === settled) return false
    state.inputs[table.contact]!.settled = settled
    return true
  }
  if (channel.level === value || value === '?') return false
  channel.level = value
  if (value > 0) channel.lastLevel = value
  return true
}

const armWatch = (state: DeviceState): void =>
  state.timers.arm(state.slots.watch, state.now, SILENT_PERIODS * state.image.serial!.statusMs)

/** A status line of the main board. One that is not whole, or not of these tables, counts for nothing. */
export function lineArrives(state: DeviceState, line: string): void {
  // the same line says nothing new, and comes every few seconds all day
  if (state.heard && !state.lineRefused && line === state.lastLine) return armWatch(state)
  const text = soundPart(line)
  if (text === undefined) return refuseLine(state, 'a status line was damaged')
  const values = valuesOf(state, text)
  if (!values) return refuseLine(state, 'a status line of other tables')
  state.lineRefused = false
  state.lastLine = line
  armWatch(state)
  values.forEach((value, index) => {
    if (!takeValue(state, index, value)) return
    const channel = state.channels[index]!
    channel.source = 'serial'
    channel.seq++
    channel.reportDue = true
  })
  if (state.heard) return
  state.heard = true
  sayStatus(state, 'online')
  if (state.links.some((link) => link.state === 'up' && !link.announce)) heartbeat(state)
}

/** On every link that is up; one that has just come up is told with everything else. */
function sayStatus(state: DeviceState, status: 'online' | 'offline'): void {
  state.links.forEach((link, index) => {
    if (link.state === 'up' && !(status === 'online' && link.announce))
      publish(state, index, state.scheme.status, status, true)
  })
}

/** No line for too long. What is known of the main board is old, and nobody should trust it. */
export function mainLost(state: DeviceState): void {
  state.heard = false
  sayStatus(state, 'offline')
  log(state, 'serial: main board not heard')
}
