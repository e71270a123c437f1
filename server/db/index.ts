/** The store of a data folder: all SQL of the server stands in this folder. */
export { openDatabase, type Database } from './database'
export { triedBackup, tryBackup, type Tried } from './tried'
export { backUp, restore } from './backup'
export type { FlashedWith } from './builds'
export type { Told } from './logbook'
export { StoreRefused } from './open'
