import { dualCoreWifi } from './dualCoreWifi'
import { eightBit } from './eightBit'
import type { BoardProfile } from './schema'
import { singleCoreWifi } from './singleCoreWifi'

/** Profiles of real boards, as data. */
export const BOARDS: readonly BoardProfile[] = [dualCoreWifi, singleCoreWifi, eightBit]

export const boardOf = (id: string): BoardProfile | undefined => BOARDS.find((board) => board.id === id)

export { BoardProfile, type Capability, type GpioSpot, type PowerSpot, type Spot } from './schema'
export { gpioSpots, pinName, readPin, spotOf, type PinReading } from './read'
