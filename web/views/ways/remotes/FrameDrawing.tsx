import { codeName, drawnFrame, type Decoded } from '../../../../core/infrared'

const HEIGHT = 64

/** A frame as the receiver saw it: marks up, spaces down, the nominal edge as a tick, what is off drawn heavier. */
export function FrameDrawing({ durations, decoded }: { durations: readonly number[]; decoded: Decoded }) {
  const drawn = drawnFrame(durations, decoded)
  const total = drawn.reduce((sum, one) => sum + one.microseconds, 0)
  const width = 760
  const x = (microseconds: number): number => 4 + ((width - 8) * microseconds) / Math.max(1, total)
  const path = drawn.map((one) => `${one.mark ? `V14` : `V44`}H${x(one.from + one.microseconds).toFixed(1)}`).join('')
  let nominal = 0
  const ticks = drawn.flatMap((one) => {
    nominal += one.nominal ?? one.microseconds
    return one.nominal === null ? [] : [{ at: x(Math.min(total, nominal)), off: Math.abs(one.microseconds - one.nominal) / one.nominal }]
  })
  return (
    <svg viewBox={`0 0 ${width} ${HEIGHT}`} className="w-full" role="img" aria-label={`${codeName(decoded.frame)}, ${drawn.length} durations, ${(total / 1000).toFixed(1)} ms`}>
      <path d="M4 44H756" stroke="var(--hair)" />
      <path d={`M4 44${path}V44`} fill="none" stroke="var(--ink)" strokeWidth="1.4" />
      {ticks.map((tick, i) => <path key={i} d={`M${tick.at.toFixed(1)} 48v${tick.off > 0.15 ? 10 : 5}`} stroke={tick.off > 0.15 ? 'var(--warning)' : 'var(--bus)'} strokeWidth={tick.off > 0.15 ? 2 : 1} />)}
      {drawn.map((one, i) => (!one.mark && one.microseconds > total / 30 ? <text key={i} x={x(one.from + one.microseconds / 2)} y={40} textAnchor="middle" fontSize="9" fill="var(--soft)">{(one.microseconds / 1000).toFixed(1)}</text> : null))}
      <text x="4" y="10" fontSize="10" fill="var(--soft)">mark</text>
      <text x="756" y="62" textAnchor="end" fontSize="10" fill="var(--soft)">{(total / 1000).toFixed(1)} ms</text>
    </svg>
  )
}

/** The bits of a frame in groups of eight, in the order in which they were sent. */
export function bitsOf(durations: readonly number[], decoded: Decoded): string {
  const { frame } = decoded
  if (frame.protocol === 'unknown' || frame.protocol === 'nec-repeat') return ''
  const list = durations.slice(decoded.from, decoded.to)
  if (frame.protocol === 'nec' || frame.protocol === 'nec-ext') return group(Array.from({ length: 32 }, (_, i) => (list[3 + 2 * i]! > 1100 ? '1' : '0')), 8)
  if (frame.protocol.startsWith('sirc')) return group(Array.from({ length: (list.length - 1) / 2 }, (_, i) => (list[2 + 2 * i]! > 900 ? '1' : '0')), 7)
  const { address, command, toggle } = frame
  const bits = (value: number, count: number): string => value.toString(2).padStart(count, '0')
  return frame.protocol === 'rc5' ? `1${command & 64 ? 0 : 1} ${toggle} ${bits(address, 5)} ${bits(command & 63, 6)}` : `1 000 ${toggle} ${bits(address, 8)} ${bits(command, 8)}`
}

const group = (bits: readonly string[], size: number): string => Array.from({ length: Math.ceil(bits.length / size) }, (_, i) => bits.slice(i * size, (i + 1) * size).join('')).join(' ')
