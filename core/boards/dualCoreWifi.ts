import { gpioWith, power } from './headerPins'
import type { BoardProfile, Capability, GpioSpot } from './schema'
import { DUAL_CORE_SETTINGS } from './settings'

const FULL: Capability[] = ['output', 'input', 'pull-up', 'pull-down', 'interrupt', 'pwm']
const gpio = gpioWith(FULL)
const inputOnly = (label: string, number: number): GpioSpot =>
  gpio(label, number, { can: ['input', 'interrupt', 'analogue'] })
const secondBank = { can: [...FULL, 'analogue'] as Capability[], analogueNeedsRadioOff: true }

/** Dual-core 3.3 V Wi-Fi board, 30 pins. Source: memory of the chip maker's data sheet; a maker can correct it. */
export const dualCoreWifi: BoardProfile = {
  id: 'dual-core-wifi-30',
  name: 'Dual-core 3.3 V Wi-Fi board, 30 pins',
  source: "memory of the chip maker's data sheet",
  logicVolts: 3.3,
  link: 'wifi',
  port: 'board-core',
  pinMilliamps: { recommended: 20, absolute: 40, total: 1_100 },
  internalPullKiloohms: { least: 30, most: 60 },
  drawMilliamps: { idle: 80, peak: 500 },
  regulator: { kind: 'linear', milliamps: 800, degreesPerWatt: 90 },
  firmwareAfterMs: 350,
  storeEndurance: 1_000_000,
  pairs: 'matrix',
  serialPorts: 3,
  boxed: null,
  own: { light: { gpio: 2, lit: 'high' }, button: { gpio: 0, pressed: 'low', label: 'BOOT' } },
  left: [
    power('EN', null, 'reset: high to run'),
    { ...inputOnly('VP', 36), glitches: true },
    { ...inputOnly('VN', 39), glitches: true },
    inputOnly('D34', 34),
    inputOnly('D35', 35),
    gpio('D32', 32, { can: [...FULL, 'analogue'] }),
    gpio('D33', 33, { can: [...FULL, 'analogue'] }),
    gpio('D25', 25, secondBank),
    gpio('D26', 26, secondBank),
    gpio('D27', 27, secondBank),
    gpio('D14', 14, {
      ...secondBank,
      startActivity: { level: 'pulses', ms: 60, what: 'clock pulses while the chip starts' },
    }),
    gpio('D12', 12, {
      ...secondBank,
      startLevel: { level: 'low', otherwise: 'the flash is fed at the wrong voltage and the board does not start' },
    }),
    gpio('D13', 13, secondBank),
    power('GND', 0),
    power('VIN', 5),
  ],
  right: [
    gpio('D23', 23),
    gpio('D22', 22),
    gpio('TX0', 1, {
      usedBy: ['serial-log', 'usb'],
      startActivity: { level: 'pulses', ms: 300, what: 'the start-up messages are sent here' },
    }),
    gpio('RX0', 3, {
      usedBy: ['serial-log', 'usb'],
      startActivity: { level: 'high', ms: 300, what: 'held high by the chip and its USB bridge' },
    }),
    gpio('D21', 21),
    gpio('D19', 19),
    gpio('D18', 18),
    gpio('D5', 5, {
      startLevel: { level: 'high', otherwise: 'the start-up timing of the flash bus changes', mild: true },
      startActivity: { level: 'high', ms: 60, what: 'held high by the chip while it starts' },
    }),
    gpio('TX2', 17, { usedBy: ['serial-2'] }),
    gpio('RX2', 16, { usedBy: ['serial-2'] }),
    gpio('D4', 4, secondBank),
    gpio('D2', 2, {
      ...secondBank,
      usedBy: ['light'],
      startLevel: { level: 'low', otherwise: 'the board cannot be brought into programming' },
    }),
    gpio('D15', 15, {
      ...secondBank,
      startLevel: { level: 'high', otherwise: 'the start-up messages are muted', mild: true },
      startActivity: { level: 'high', ms: 60, what: 'held high by the chip while it starts' },
    }),
    power('GND', 0),
    power('3V3', 3.3),
  ],
  hidden: [...[6, 7, 8, 9, 10, 11].map((number) => ({ gpio: number, why: 'belongs to the flash memory' }))],
  supplyVolts: { least: 4.5, most: 5.5 },
  check: [
    'VP and VN (GPIO 36, 39): they fall for under a microsecond when an analogue reading begins; a slow sensor or none there',
    'whether VIN is joined to USB: then never feed both',
    'how many pins it has: boards of 30 and of 38 pins bear one name',
  ],
  settings: DUAL_CORE_SETTINGS,
  programming: [
    'Hold the boot button (GPIO 0 to ground) while you press reset, then let go: the board waits for programming.',
    'Some boards do this themselves over USB; if the upload does not start, use the button.',
    'First start: open the serial log at 115200 and look for the tables’ hash; a board whose serial ' +
      'line is a link says it on its `log` topic only.',
  ],
}
