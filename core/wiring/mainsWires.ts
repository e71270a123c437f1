import { conductorSize } from '../electrics'
import { channelsOn, loadOf, type MainsFeed } from '../site'
import type { Terminal } from './circuit'
import type { Growing } from './growing'

/** How mains comes in: breaker, residual-current device, fuse, and the points that everything else hangs on. */

export interface MainsPoints {
  readonly line: Terminal
  /** name of the line's net: behind a fuse it is another */
  readonly lineNet: string
  readonly neutral: Terminal
  readonly earth: Terminal
  /** another line, where a load hangs between two */
  readonly second: Terminal | null
}

const OFF = 'supply off and proved dead first'

/** Line from the breaker to the inlet, through the residual-current device where there is one. */
function house({ build, site }: Growing, x: string, feed: MainsFeed, twoLines: boolean): void {
  const qf = build.device(
    'QF',
    'house',
    'Breaker',
    `breaker, ${feed.breakerAmps} A${twoLines ? ', two poles that trip together' : ''}`,
    { notes: [OFF] },
  )
  const size = `${conductorSize(feed.conductor)} copper`
  const to = (pin: string): Terminal => ({ ref: x, pin })
  if (feed.residualCurrent !== 'fitted') {
    const missing = 'no residual-current device: see finding L13'
    build.wire(['L', 'mains'], { ref: qf, pin: 'L out' }, to('L'), 'line', { mains: true, note: `${size}; ${missing}` })
    if (twoLines) build.wire(['L2', 'mains'], { ref: qf, pin: 'L2 out' }, to('L2'), 'line', { mains: true, note: size })
    build.wire(['N', 'mains'], { ref: qf, pin: 'N bar' }, to('N'), 'neutral', { mains: true, note: size })
  } else {
    const trip = site.mains.volts === 230 ? '30 mA' : '5 mA (ground-fault interrupter) or as local code asks'
    const qr = build.device('QR', 'house', 'Residual-current device', `residual-current device, ${trip}`)
    build.wire(['L at the breaker', 'mains'], { ref: qf, pin: 'L out' }, { ref: qr, pin: 'L in' }, 'line', {
      mains: true,
      note: size,
    })
    if (twoLines) {
      const words = { mains: true, note: size }
      build.wire(['L2 at the breaker', 'mains'], { ref: qf, pin: 'L2 out' }, { ref: qr, pin: 'L2 in' }, 'line', words)
      build.wire(['L2', 'mains'], { ref: qr, pin: 'L2 out' }, to('L2'), 'line', words)
    }
    build.wire(['N at the breaker', 'mains'], { ref: qf, pin: 'N bar' }, { ref: qr, pin: 'N in' }, 'neutral', {
      mains: true,
      note: size,
    })
    build.wire(['L', 'mains'], { ref: qr, pin: 'L out' }, to('L'), 'line', { mains: true, note: size })
    build.wire(['N', 'mains'], { ref: qr, pin: 'N out' }, to('N'), 'neutral', { mains: true, note: size })
  }
  build.wire(['PE', 'mains'], { ref: qf, pin: 'PE bar' }, to('PE'), 'earth', {
    mains: true,
    note: `${size}; continuity proved before power`,
  })
}

/** Wires what comes before the loads, and gives the points that they hang on. */
export function wireMains(growing: Growing): MainsPoints {
  const { build, site, controller } = growing
  const { volts, hertz } = site.mains
  const notes = [OFF, ...(controller.mains ? [] : ['breaker and wire not entered yet: see finding L11'])]
  const x = build.device('X', 'house', 'Mains inlet', `mains inlet, ${volts} V ${hertz} Hz`, { notes })
  build.under('Mains')
  const inlet: Terminal = { ref: x, pin: 'L' }
  const twoLines = channelsOn(site, controller.id).some(({ load }) => loadOf(site, load)?.acrossLines)
  if (controller.mains) house(growing, x, controller.mains, twoLines)
  const points = {
    neutral: { ref: x, pin: 'N' },
    earth: { ref: x, pin: 'PE' },
    second: twoLines ? { ref: x, pin: 'L2' } : null,
  }
  const amps = controller.mains?.fuseAmps ?? null
  if (amps === null) return { ...points, line: inlet, lineNet: 'L' }
  const f = build.device('F', 'fuse', `fuse, ${amps} A`, `fuse, ${amps} A, ${volts} V or more, in a holder`)
  build.wire(['L', 'mains'], inlet, { ref: f, pin: '1' }, 'line', { mains: true })
  return { ...points, line: { ref: f, pin: '2' }, lineNet: 'L fused' }
}
