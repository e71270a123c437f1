import { readPin, type BoardProfile } from '../boards'

/**
 * Pin lines of a sketch that somebody has written already: `#define`, constants, arrays, and the `pinMode` calls that
 * say which way a pin goes. C++ as board cores take it; what is no pin is left out, and why is said.
 */

/** What a pin line would become. */
export type SketchUse = 'channel' | 'rocker' | 'momentary' | 'left'

export interface SketchPin {
  /** line of the text, from 1 */
  readonly line: number
  /** as it stands in the text: RelayPin1, or relays[0] */
  readonly written: string
  /** as a person says it: Relay 1 */
  readonly name: string
  /** the board's own label of the pin; as it was written where the board has none of that name */
  readonly pin: string
  readonly use: SketchUse
  /** what it was recognised by, or why it is left out */
  readonly why: string
  /** closed level of an input, from its pull: INPUT_PULLUP closes to low */
  readonly closedLevel: 'low' | 'high'
}

/** A name that is given a value, before anything is known of what it is for. */
interface Assigned {
  readonly line: number
  readonly written: string
  readonly value: string
}

const NAME = '[A-Za-z_]\\w*'
/** A pin as sketches write it: 23, D5, A0, GPIO23; V7 is a point of a service. */
const VALUE = '(?:GPIO_?|GP|[DAV])?\\d{1,3}'
const CONSTANT = new RegExp(
  `^\\s*(?:static\\s+|const(?:expr)?\\s+|volatile\\s+)*(?:unsigned\\s+)?(?:int|byte|char|short|long|u?int(?:8|16|32)?(?:_t)?)\\s+(.+?);`,
)
const DEFINE = new RegExp(`^\\s*#\\s*define\\s+(${NAME})\\s+\\(?\\s*(${VALUE})\\s*\\)?\\s*$`)
const ONE = new RegExp(`^(${NAME})\\s*=\\s*(${VALUE})$`)
const LIST = new RegExp(`^(${NAME})\\s*\\[\\s*\\w*\\s*\\]\\s*=\\s*\\{([^}]*)\\}`)
const MODE = new RegExp(`pinMode\\s*\\(\\s*(${NAME}|${VALUE})(?:\\s*\\[[^\\]]*\\])?\\s*,\\s*(\\w+)\\s*\\)`, 'g')

/** Comments go; lines stay, so that they can be named. */
const uncommented = (text: string): string =>
  text.replace(/\/\*[\s\S]*?\*\//g, (comment) => comment.replace(/[^\n]/g, ' ')).replace(/\/\/.*/g, '')

/** An array may go over several lines: it is read as the line on which it begins. */
function joined(text: string): { readonly line: number; readonly text: string }[] {
  const lines: { line: number; text: string }[] = []
  let open = false
  uncommented(text)
    .split('\n')
    .forEach((one, at) => {
      if (open) lines.at(-1)!.text += ` ${one}`
      else lines.push({ line: at + 1, text: one })
      const last = lines.at(-1)!.text
      open = last.includes('{') && !last.includes('}') && /\[\s*\w*\s*\]\s*=\s*\{/.test(last)
    })
  return lines
}

function assignedOn({ line, text }: { readonly line: number; readonly text: string }): Assigned[] {
  const define = DEFINE.exec(text)
  if (define) return [{ line, written: define[1]!, value: define[2]! }]
  const constant = CONSTANT.exec(text)?.[1]
  if (constant === undefined) return []
  const list = LIST.exec(constant)
  if (list)
    return list[2]!
      .split(',')
      .flatMap((value, at) =>
        value.trim() === '' ? [] : [{ line, written: `${list[1]!}[${at}]`, value: value.trim() }],
      )
  // int a = 1, b = 2;
  return constant.split(',').flatMap((part) => {
    const one = ONE.exec(part.trim())
    return one ? [{ line, written: one[1]!, value: one[2]! }] : []
  })
}

/** Words that a name is made of: RelayPin1, RELAY_PIN_1 and relayPin1 are all "relay pin 1". */
const wordsOf = (name: string): string[] =>
  name
    .replace(/\[(\d+)\]$/, (_, at: string) => ` ${Number(at) + 1}`)
    .replace(/([a-z])([A-Z])/g, '$1 $2')
    .replace(/([A-Za-z])(\d)/g, '$1 $2')
    .split(/[\s_]+/)
    .filter(Boolean)
    .map((word) => word.toLowerCase())

const OUTPUT = new Set(
  'relay lamp light lights fan out output load pump motor valve socket plug heater door lock strike blind shutter bulb'.split(
    ' ',
  ),
)
const INPUT = new Set('switch sw button btn key rocker push input in wall'.split(' '))
const PUSH = new Set('button btn push key'.split(' '))
/** Names of times, counts and speeds: their numbers are no pins. */
const NO_PIN_WORDS = new Set(
  'ms delay time timeout interval baud rate speed count num number size len length port channel max min state debounce step level'.split(
    ' ',
  ),
)
const OTHER = new Set(
  'ir receiver recv rx tx sda scl dht temp temperature sensor led wifi status pir ldr analog'.split(' '),
)

/** "Relay 1" of "RelayPin1": the word for the pin itself says nothing. */
function spoken(name: string): string {
  const words = wordsOf(name).filter((word) => !['pin', 'pins', 'gpio', 'no'].includes(word))
  const text = words
    .map((word) => word.replace(/s$/, (s, at: number) => (/\[\d+\]$/.test(name) && at > 2 ? '' : s)))
    .join(' ')
  return text === '' ? name : `${text[0]!.toUpperCase()}${text.slice(1)}`
}

/** Which way `pinMode` says that each name goes. */
function modesIn(text: string): ReadonlyMap<string, string> {
  return new Map([...uncommented(text).matchAll(MODE)].map(([, name, mode]) => [name!, mode!.toUpperCase()]))
}

const left = (why: string) => ({ use: 'left' as const, why })

/** What a line is for: by `pinMode` where that is said, else by its name. */
function useOf(name: string, mode: string | undefined): Pick<SketchPin, 'use' | 'why'> {
  const words = wordsOf(name)
  const has = (set: ReadonlySet<string>) => words.find((word) => set.has(word) || set.has(word.replace(/s$/, '')))
  const other = has(OTHER)
  if (other !== undefined && has(OUTPUT) === undefined && has(INPUT) === undefined)
    return left(`“${other}”: add it on the bench as a part or a light`)
  const kind = has(PUSH) === undefined ? 'rocker' : 'momentary'
  if (mode === 'OUTPUT') return { use: 'channel', why: 'pinMode says OUTPUT' }
  if (mode?.startsWith('INPUT')) return { use: kind, why: `pinMode says ${mode}` }
  const output = has(OUTPUT)
  const input = has(INPUT)
  if (input !== undefined && (output === undefined || words.indexOf(input) > words.indexOf(output)))
    return { use: kind, why: `its name says “${input}”` }
  if (output !== undefined) return { use: 'channel', why: `its name says “${output}”` }
  return left('neither its name nor a pinMode says what it is for')
}

function readLine(board: BoardProfile, { line, written, value }: Assigned, mode: string | undefined): SketchPin {
  const row = { line, written, name: spoken(written), closedLevel: mode === 'INPUT_PULLDOWN' ? 'high' : 'low' } as const
  if (/^V\d+$/i.test(value))
    return { ...row, pin: value, ...left('a virtual pin: give the channel one in the App column') }
  const number = wordsOf(written).find((word) => NO_PIN_WORDS.has(word))
  if (number !== undefined && mode === undefined) return { ...row, pin: value, ...left(`“${number}” is no pin`) }
  const reading = readPin(board, value.replace(/^GPIO_/i, 'GPIO'))
  if (reading.kind === 'hidden') return { ...row, pin: value, ...left(`GPIO ${reading.gpio} ${reading.why}`) }
  if (reading.kind === 'unknown') return { ...row, pin: value, ...left(`${board.name} has no pin ${value}`) }
  return { ...row, pin: reading.spot.label, ...useOf(written, mode) }
}

/** Longest text that is read: a sketch is a few hundred lines, and a paste may be anything. */
const MOST_TEXT = 200_000

/** Reads the pin lines of a sketch for a board. A pin that is given twice is taken once. */
export function readSketch(board: BoardProfile, text: string): readonly SketchPin[] {
  const whole = text.slice(0, MOST_TEXT)
  const modes = modesIn(whole)
  const taken = new Set<string>()
  return joined(whole)
    .flatMap(assignedOn)
    .map((one) => readLine(board, one, modes.get(one.written.replace(/\[\d+\]$/, '')) ?? modes.get(one.value)))
    .map((row): SketchPin => {
      if (row.use === 'left') return row
      if (taken.has(row.pin)) return { ...row, ...left(`${row.pin} is taken by a line above`) }
      taken.add(row.pin)
      return row
    })
}
