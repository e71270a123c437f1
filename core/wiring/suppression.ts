import { COIL_SNUBBER, loadAmps, snubberFor } from '../electrics'
import type { Load } from '../site'
import type { DeviceKind, Terminal } from './circuit'
import type { Growing } from './growing'
import type { Poles } from './poles'
import type { Conductor } from './wireColours'

/** What quenches the kick of an inductive load: RC, varistor, diode, each across its two terminals. */

type End = readonly [at: Terminal, conductor: Conductor]
interface Across {
  readonly letters: string
  readonly kind: DeviceKind
  readonly title: string
  readonly type: string
  readonly pins: readonly [string, string]
  readonly note: string
}

function across({ build }: Growing, { netClass, words }: Poles, part: Across, [a, b]: readonly [End, End]): void {
  const ref = build.device(part.letters, part.kind, part.title, part.type)
  build.wire([`across ${ref} 1`, netClass], a[0], { ref, pin: part.pins[0] }, a[1], { ...words, note: part.note })
  build.wire([`across ${ref} 2`, netClass], b[0], { ref, pin: part.pins[1] }, b[1], words)
}

const rc = (type: string, title: string, where: string): Across => ({
  letters: 'Z',
  kind: 'snubber',
  title,
  type: `snubber, ${type}`,
  pins: ['1', '2'],
  note: `${type}, ${where}`,
})
const diode = (amps: number, title: string): Across => ({
  letters: 'V',
  kind: 'diode',
  title,
  type: `diode, ${amps} A, 100 V or more`,
  pins: ['K', 'A'],
  note: 'the ring towards +',
})

/** V AC of a varistor that mains does not wear out (memory of usual data sheets). */
const varistorVolts = ({ site }: Growing, load: Load): number =>
  load.supply !== 'mains' ? Math.ceil(load.volts * 1.5) : site.mains.volts === 230 ? 275 : 150

/** Suppression of a load at one of its switched terminals. `com`: the contact's other end; null: none of its own. */
export function suppress(growing: Growing, load: Load, poles: Poles, switched: Terminal, com: Terminal | null): void {
  const end: End = [switched, poles.switchedBy]
  const back: End = [poles.back, poles.backBy]
  const name = load.name
  switch (load.suppression) {
    case 'none':
      return
    case 'snubber': {
      const { type } = snubberFor(loadAmps(growing.site, load))
      if (com) across(growing, poles, rc(type, `snubber of ${name}`, 'across the contact'), [[com, poles.fedBy], end])
      else across(growing, poles, rc(type, `snubber of ${name}`, 'across the winding'), [end, back])
      return
    }
    case 'varistor': {
      const type = `varistor, ${varistorVolts(growing, load)} V AC`
      const part: Across = {
        ...rc('', `across ${name}`, ''),
        letters: 'RV',
        kind: 'varistor',
        type,
        note: 'across the load',
      }
      return across(growing, poles, part, [end, back])
    }
    case 'diode':
      return across(growing, poles, diode(3, `across ${name}`), [end, back])
  }
}

/** The same across the coil of a contactor: a diode where the current is direct, an RC where it alternates. */
export function suppressCoil(
  growing: Growing,
  load: Load,
  poles: Poles,
  a1: Terminal,
  a2: Terminal,
  ref: string,
): void {
  if (load.suppression === 'none') return
  const ends = [
    [a1, poles.switchedBy],
    [a2, poles.backBy],
  ] as const
  const title = `across the coil of ${ref}`
  const direct = load.supply !== 'mains' && load.suppression === 'diode'
  across(growing, poles, direct ? diode(1, title) : rc(COIL_SNUBBER.type, title, 'across the coil'), ends)
}
