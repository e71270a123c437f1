/** A program on its way into a board: hex records, and the dialogue with the boot loader of the 8-bit board. */
export { crc16, hexRecord, ProgramRefused, readHexRecords, type Program } from './hexRecords'
export { LOADER_BAUD, LOADER_ROOM, LoaderRefused, recordsFor, sendProgram, type SerialPort } from './loader'
export { SerialLines, tablesIn } from './serialLines'
