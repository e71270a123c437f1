import { decodeCapture } from '../infrared'
import { doDeed } from './deeds'
import { log, type DeviceState } from './state'
import type { RemoteFrame } from './types'

/** The same frame again within this time is the same press, ms (docs/behaviour.md, Commands). */
const PRESS_WINDOW_MS = 250

/** The firmware keeps a duration in 16 bits; a longer one says no more than that. */
const LONGEST_US = 65_535

/** Frames in a capture of edges. */
export function edgesArrive(state: DeviceState, durations: readonly number[]): void {
  for (const { frame } of decodeCapture(durations.map((us) => Math.min(us, LONGEST_US))))
    frameArrives(state, { ...frame, repeat: false })
}

interface Heard {
  readonly protocol: string
  readonly address: number
  readonly command: number
}

function heardOf(frame: RemoteFrame): Heard | null {
  if (frame.protocol === 'nec-repeat') return null
  if (frame.protocol === 'unknown')
    return { protocol: 'unknown', address: Math.floor(frame.hash / 0x1_0000), command: frame.hash % 0x1_0000 }
  return { protocol: frame.protocol, address: frame.address, command: frame.command }
}

/**
 * A frame of a remote. A repeat frame, or the same frame within the window (a turned toggle bit makes it another), is
 * the same press held on: it acts only for keys that repeat, and not more often than they say.
 */
export function frameArrives(state: DeviceState, frame: RemoteFrame): void {
  const { timers, slots, image } = state
  const held = timers.isArmed(slots.pressWindow)
  const heard = heardOf(frame)
  const key = heard
    ? `${heard.protocol}/${heard.address}/${heard.command}/${'toggle' in frame ? (frame.toggle ?? '-') : '-'}`
    : (state.lastFrame?.key ?? '')
  const same = held && state.lastFrame?.key === key
  // A repeat whose press was not heard means nothing: nobody knows of which key.
  if ((frame.repeat || !heard) && !same) return
  state.lastFrame = { key }
  timers.arm(slots.pressWindow, state.now, PRESS_WINDOW_MS)
  const [protocol, address, command] = key.split('/')
  const mayRepeat = !timers.isArmed(slots.keyRepeat)
  let isKnown = false
  for (const row of image.keys) {
    if (row.protocol !== protocol || String(row.address) !== address || String(row.command) !== command) continue
    isKnown = true
    if (same && (row.everyMs === 0 || !mayRepeat)) continue
    if (row.everyMs > 0) timers.arm(slots.keyRepeat, state.now, row.everyMs)
    doDeed(state, row, row.level, 'remote')
  }
  // a key that nobody has taught: whoever teaches it reads it here
  if (!isKnown && !same) log(state, `key ${protocol} ${address} ${command}`)
}
