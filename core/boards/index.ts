import { boxedInWall, boxedTwoRelayEarly, boxedTwoRelayLate, meshMultiRelay } from './boxedBoards'
import { dualCoreWifi } from './dualCoreWifi'
import { eightBit } from './eightBit'
import { dualCoreM0, eightPinCoprocessor, smallRiscv } from './smallBoards'
import type { ModuleProfile } from './modules'
import { MODULES } from './moduleProfiles'
import type { BoardProfile } from './schema'
import { singleCoreWifi, singleCoreWifiWide } from './singleCoreWifi'

/** Profiles of real boards, as data. */
export const BOARDS: readonly BoardProfile[] = [
  dualCoreWifi,
  singleCoreWifi,
  singleCoreWifiWide,
  smallRiscv,
  dualCoreM0,
  eightBit,
  eightPinCoprocessor,
  boxedTwoRelayEarly,
  boxedTwoRelayLate,
  boxedInWall,
  meshMultiRelay,
]

/** Profiles that a maker has added or corrected; one with a known id takes the place of ours. */
export interface OwnProfiles {
  readonly profiles: { readonly boards: readonly BoardProfile[]; readonly modules: readonly ModuleProfile[] }
}

export const boardsIn = (own: OwnProfiles): BoardProfile[] => [
  ...own.profiles.boards,
  ...BOARDS.filter((board) => !own.profiles.boards.some((mine) => mine.id === board.id)),
]
export const modulesIn = (own: OwnProfiles): ModuleProfile[] => [
  ...own.profiles.modules,
  ...MODULES.filter((module) => !own.profiles.modules.some((mine) => mine.id === module.id)),
]

export const boardIn = (own: OwnProfiles, id: string): BoardProfile | undefined =>
  own.profiles.boards.find((board) => board.id === id) ?? BOARDS.find((board) => board.id === id)

type Kind = ModuleProfile['kind']
/** A module profile of one kind; undefined when there is none of that id and kind. */
export function moduleIn<K extends Kind>(
  own: OwnProfiles,
  kind: K,
  id: string,
): Extract<ModuleProfile, { kind: K }> | undefined {
  const fits = (module: ModuleProfile): module is Extract<ModuleProfile, { kind: K }> =>
    module.kind === kind && module.id === id
  return own.profiles.modules.find(fits) ?? MODULES.find(fits)
}

export { CONTACTORS, FANS, MODULES, PARTS, RELAY_MODULES, STRIKES, SUPPLIES } from './moduleProfiles'
export {
  ModuleProfile,
  type ContactorProfile,
  type FanProfile,
  type ModemDialogue,
  type PartProfile,
  type RelayProfile,
  type Signal,
  type SignalNeed,
  type StrikeProfile,
  type SupplyProfile,
} from './modules'
export { PORTS, type Port } from './ports'
export { BoardProfile, type Capability, type GpioSpot, type PowerSpot, type Spot } from './schema'
export { pinNotes } from './pinNotes'
export { UNDRIVEN } from './undriven'
export { FIRST_TOLD_GPIO, gpioSpots, pinName, reaches, readPin, spotOf, type PinReading } from './read'
export { readProfile, withPort, type ProfileAnswer } from './readProfile'
