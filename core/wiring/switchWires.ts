import { ohms, pullChoice } from '../electrics'
import { inputRoles, type Input } from '../site'
import type { Terminal } from './circuit'
import { fiveVolts, pinAt, type Feed, type Growing } from './growing'

const SWITCH_WORDS: Readonly<Record<Exclude<Input['kind'], 'selector'>, string>> = {
  momentary: 'push switch',
  rocker: 'rocker',
  contact: 'position contact',
}

/** A name like S6 is the switch's reference on every page; of any other name it gets one. */
export const isReference = (name: string): boolean => /^[A-Z]{1,2}[0-9]{1,3}$/.test(name)

/** Opposite rail of a contact: a closed contact pulls there, the resistor to the other. */
function railOf(growing: Growing, input: Input): { readonly closed: Feed | 'ground'; readonly open: Feed | 'ground' } {
  const plus = input.volts === 5 && growing.logic.volts !== 5 ? fiveVolts(growing) : growing.logic
  return input.closedLevel === 'low' ? { closed: 'ground', open: plus } : { closed: plus, open: 'ground' }
}

function toRail({ build, ground }: Growing, rail: Feed | 'ground', to: Terminal, note = ''): void {
  if (rail === 'ground') build.wire(['GND', 'ground'], ground, to, 'ground', { note })
  else build.wire([rail.net, 'supply'], rail.at, to, 'logic-supply', { note })
}

/** The terminal of a boxed board that leads to a switch's pin. */
function boxedAt({ board, u }: Growing, pin: Terminal, bit: number): Terminal | null {
  const inputs = board.boxed?.switchInputs
  if (!inputs?.length) return null
  const gpio = Number(/GPIO (\d+)/.exec(pin.pin)?.[1] ?? Number.NaN)
  const index = board.boxed!.switches.indexOf(gpio)
  return { ref: u, pin: inputs[index < 0 ? Math.min(bit, inputs.length - 1) : index]! }
}

export function wireSwitch(growing: Growing, input: Input): void {
  // the board's own button is soldered to it already
  if (input.ofBoard) return
  const { build, board, u } = growing
  const several = input.kind === 'selector'
  const type = several ? `selector, ${input.bits} contacts` : SWITCH_WORDS[input.kind]
  const atMains = board.boxed !== null && board.boxed.switchesAtMains !== false
  const toLine = board.boxed?.switchesAtMains === true
  const ref = build.device('S', 'switch', input.name, atMains ? `${type}, for mains` : type, {
    notes: atMains ? ['at mains potential'] : input.pull === 'internal' ? ['board’s own pull'] : [],
    input: input.id,
    ...(isReference(input.name) ? { wish: input.name } : {}),
  })
  build.under(ref === input.name ? `${ref} ${type}` : `${ref} ${input.name}`)
  const { closed, open } = railOf(growing, input)
  const lead = input.cableMetres > 0 ? `${input.cableMetres} m` : ''
  for (const [bit, role] of inputRoles(input).entries()) {
    const pin = pinAt(growing, role)
    const from = boxedAt(growing, pin, bit) ?? pin
    const to = { ref, pin: several ? `bit ${bit + 1}` : '1' }
    const signal = [`in ${role.slice(3)}`, atMains ? 'mains' : 'signal'] as const
    const live = `${toLine ? 'stands' : 'carries at most'} at mains potential: mains wire and a mains switch`
    const words = atMains ? live : lead
    build.wire(signal, from, to, atMains ? 'switched' : 'signal', { note: words, role, mains: atMains })
    if (atMains || input.pull !== 'fitted') continue
    const value = ohms(pullChoice(input.cableMetres, board.logicVolts, board.internalPullKiloohms.most).ohms)
    const r = build.device('R', 'resistor', value, `resistor ${value}`, { notes: ['at the board'] })
    build.wire(signal, from, { ref: r, pin: '1' }, 'signal', { note: `${value}, at the board` })
    toRail(growing, open, { ref: r, pin: '2' })
  }
  const other = { ref, pin: several ? 'common' : '2' }
  if (toLine)
    build.wire(['L', 'mains'], { ref: u, pin: 'L' }, other, 'line', {
      mains: true,
      note: 'from the box’s own line terminal',
    })
  else toRail(growing, closed, other, closed === 'ground' ? '' : `${closed.volts} V`)
}
