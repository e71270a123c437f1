import { describe, expect, it } from 'vitest'
import { boardIn, gpioSpots, type BoardProfile } from '../boards'
import { seeded } from '../seeded'
import { assignedLabel } from '../pins'
import { parseSite, waysTo } from '../site'
import { readSketch, siteFromAnswers, siteFromSketch, type SketchPin } from '.'

const NO_PROFILES = { profiles: { boards: [], modules: [] } }
const board = (id: string): BoardProfile => boardIn(NO_PROFILES, id)!
const dual = board('dual-core-wifi-30')
const beginning = {
  name: 'Workshop',
  mains: { volts: 230, hertz: 50, phases: 'one' },
  board: 'dual-core-wifi-30',
  taken: [],
} as const

/** What a maker's first lines look like, in the ways in which they are written. */
const SKETCH = `
#define RelayPin1 23  //D23
#define RelayPin2 (22)
#define VPIN_BUTTON_1 V1
/* switches
   #define SwitchPin9 99 */
const int switchPins[] = {
  13, // D13
  12 };
static const uint8_t fanRelay = 19, doorButton = 27;
const int debounceMs = 50;
#define SERIAL_BAUD 115200
#define IR_RECV_PIN 35
int gatePin = 6;
byte buzzer = 21;
void setup() {
  pinMode(RelayPin1, OUTPUT);
  pinMode(switchPins[i], INPUT_PULLDOWN);
  pinMode(buzzer, OUTPUT);
}
`

const read = (text: string, on = dual): SketchPin[] => [...readSketch(on, text)]
const short = ({ written, name, pin, use }: SketchPin): string => `${written} ${use} ${pin} “${name}”`

describe('pin lines of a sketch', () => {
  it('become channels and switches, each with its pin; what is no pin is left out', () => {
    expect(read(SKETCH).map(short)).toEqual([
      'RelayPin1 channel D23 “Relay 1”',
      'RelayPin2 channel D22 “Relay 2”',
      'VPIN_BUTTON_1 left V1 “Vpin button 1”',
      'switchPins[0] rocker D13 “Switch 1”',
      'switchPins[1] rocker D12 “Switch 2”',
      'fanRelay channel D19 “Fan relay”',
      'doorButton momentary D27 “Door button”',
      'debounceMs left 50 “Debounce ms”',
      'IR_RECV_PIN left D35 “Ir recv”',
      'gatePin left 6 “Gate”',
      'buzzer channel D21 “Buzzer”',
    ])
  })
  it('say in which line they stand, and why', () => {
    const rows = new Map(read(SKETCH).map((row) => [row.written, row]))
    expect(rows.get('switchPins[0]')).toMatchObject({
      line: 7,
      closedLevel: 'high',
      why: 'pinMode says INPUT_PULLDOWN',
    })
    expect(rows.get('RelayPin2')).toMatchObject({ line: 3, closedLevel: 'low', why: 'its name says “relay”' })
    expect(rows.get('gatePin')!.why).toMatch(/^GPIO 6 belongs to the flash memory/)
    expect(rows.get('debounceMs')!.why).toBe('“debounce” is no pin')
  })
  it('a label of the board is not its GPIO number: D5 is GPIO 14 on a board of 16 pins', () => {
    const single = board('single-core-wifi-16')
    expect(read('#define LAMP D5\n#define FAN_RELAY 4', single).map(({ pin }) => pin)).toEqual(['D5', 'D2'])
  })
  it('a pin that stands twice is taken once', () =>
    expect(read('#define RELAY_A 23\nint relayB = 23;').map(({ use, why }) => `${use}: ${why}`)).toEqual([
      'channel: its name says “relay”',
      'left: D23 is taken by a line above',
    ]))
  it('what is not on the board is left out, and named', () =>
    expect(read('int relay = 88;')[0]).toMatchObject({
      use: 'left',
      why: 'Dual-core 3.3 V Wi-Fi board, 30 pins has no pin 88',
    }))
  it('text without a pin line gives nothing, and nothing throws', () => {
    for (const text of ['', 'hello', '#define', 'int a[] = {', '\u0000{{{{', 'int x = ;'.repeat(500)])
      expect(read(text)).toEqual([])
  })
  it('500 random sketches: every pin that is taken is on the board, and taken once', () => {
    const random = seeded(7)
    const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!
    const forms = [
      (name: string, pin: string) => `#define ${name} ${pin}`,
      (name: string, pin: string) => `const int ${name} = ${pin};`,
      (name: string, pin: string) => `uint8_t ${name}[2] = {${pin}, ${Math.floor(random() * 50)}};`,
    ]
    for (let round = 0; round < 500; round++) {
      const lines = Array.from({ length: 12 }, (_, at) =>
        pick(forms)(`${pick(['relay', 'Lamp_', 'switch', 'btn', 'DELAY', 'x'])}${at}`, `${Math.floor(random() * 50)}`),
      )
      const taken = read(lines.join('\n')).filter(({ use }) => use !== 'left')
      const labels = gpioSpots(dual).map(({ label }) => label)
      expect(taken.every(({ pin }) => labels.includes(pin))).toBe(true)
      expect(new Set(taken.map(({ pin }) => pin)).size).toBe(taken.length)
      expect(parseSite(siteFromSketch(beginning, taken)).ok).toBe(true)
    }
  })
})

describe('a site from a sketch', () => {
  const site = siteFromSketch(beginning, readSketch(dual, SKETCH))
  it('is a whole one, with the pins that are soldered already, locked', () => {
    expect(parseSite(site).ok).toBe(true)
    expect(site.channels.map(({ name }) => name)).toEqual(['Relay 1', 'Relay 2', 'Fan relay', 'Buzzer'])
    expect(assignedLabel(site, 'controller-1', 'out:relay-1')).toBe('D23')
    expect(Object.values(site.controllers[0]!.pins).every(({ locked }) => locked)).toBe(true)
  })
  it('a switch works the channel of its number, or of its place', () => {
    const worked = (name: string) =>
      waysTo(site, site.channels.find((channel) => channel.name === name)!.id).map(
        (way) => way.kind === 'wall' && way.input,
      )
    expect(worked('Relay 1')).toEqual(['switch-1'])
    expect(worked('Relay 2')).toEqual(['switch-2'])
    expect(worked('Fan relay')).toEqual(['door-button'])
  })
  it('has a module with a relay for each channel', () => expect(site.controllers[0]!.module!.ways).toBe(4))
})

describe('a site from answers', () => {
  it('has its channels and their pins planned, under an id of its own', () => {
    const site = siteFromAnswers({ ...beginning, taken: ['workshop'] }, ['Desk lamp', 'Shelf lamp', 'Fan'])
    expect(parseSite(site).ok).toBe(true)
    expect(site.id).toBe('workshop-2')
    expect(site.controllers[0]!.module!.ways).toBe(4)
    expect(Object.keys(site.controllers[0]!.pins)).toHaveLength(3)
  })
  it('a boxed board has its own relays', () =>
    expect(siteFromAnswers({ ...beginning, board: 'boxed-in-wall' }, ['Lamp']).controllers[0]!.module).toBeNull())
  it('without a board it is empty', () =>
    expect(siteFromAnswers({ ...beginning, board: null }, ['Lamp']).channels).toEqual([]))
})
