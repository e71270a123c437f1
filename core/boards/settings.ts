import type { BoardSetting } from './schema'

/**
 * What board packages are to be told, by kind of chip. Source: common practice and memory of the chip makers'
 * documents; the data sheet of the module in hand decides. The controller needs no file area: its record stands in the
 * store's own page or sector.
 */
const settings = (rows: Record<string, string>): BoardSetting[] =>
  Object.entries(rows).map(([name, value]) => ({ name, value }))

const TWO_AREAS =
  'the one with two program areas of 1 MB or more, so that it can be updated over the network later; ' +
  'a file area is not needed'
const SERIAL_LOG = '115200 baud'

export const DUAL_CORE_SETTINGS = settings({
  'Flash size': '4 MB',
  'Flash mode': 'two data lines (DIO), 40 MHz: four lines fail on some modules',
  Partition: TWO_AREAS,
  'Processor clock': '160 or 240 MHz',
  'Upload speed': '460800 baud; 115200 where that fails',
  'Serial log': SERIAL_LOG,
})
export const SINGLE_CORE_SETTINGS = settings({
  'Flash size': '4 MB, no file area',
  'Flash mode': 'two data lines (DIO), 40 MHz',
  'Processor clock': '80 MHz',
  'Upload speed': '115200 baud',
  'Erase before upload': 'the program only, so that the stored states stay',
  'Serial log': SERIAL_LOG,
})
export const SMALL_RISC_SETTINGS = settings({
  'Flash size': '4 MB',
  'Flash mode': 'two data lines (DIO)',
  Partition: TWO_AREAS,
  'Serial over USB': 'on at start',
  'Upload speed': '460800 baud',
  'Serial log': SERIAL_LOG,
})
export const M0_SETTINGS = settings({
  'Flash size': '2 MB, no file area',
  Upload: 'by the drive that the board shows, no speed to choose',
  'Serial log': SERIAL_LOG,
})
export const COPROCESSOR_SETTINGS = settings({
  'Flash size': '1 MB, no file area; 512 kB on old modules, which is too small for an update over the network',
  'Flash mode': 'two data lines out (DOUT): works on every module',
  'Upload speed': '115200 baud',
  'Serial log': 'none: the line belongs to the main board',
})
export const BOXED_SETTINGS = settings({
  'Flash size': '1 MB, no file area',
  'Flash mode': 'two data lines out (DOUT): any other mode takes pins that the box needs',
  'Upload speed': '115200 baud',
})
export const EIGHT_BIT_SETTINGS = settings({
  Clock: '16 MHz, from the crystal; fuses as the loader left them',
  'Upload speed': '115200 baud; 57600 with an older loader (make flash … UPLOAD=57600)',
  Compiler: 'gcc-avr 5.4 or newer, avr-libc 2.0 or newer',
})
