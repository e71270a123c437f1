import type { Site } from '../../../core/site'
import { terminalText, wireColour, type Circuit, type Wire } from '../../../core/wiring'
import { litBy, type Picked } from './litWires'

interface Props {
  readonly site: Site
  readonly circuit: Circuit
  readonly picked: Picked
  readonly onPick: (picked: Picked) => void
}

/** The connection list beside the drawing: a part shows its wires, a wire its ends, and both light on the drawing. */
export function WireTable({ site, circuit, picked, onPick }: Props) {
  const part = picked?.kind === 'part' ? picked.ref : ''
  const wires = circuit.wires.filter(({ from, to }) => part === '' || from.ref === part || to.ref === part)
  const { nets } = litBy(circuit, picked)
  return (
    <section aria-label="Wires of the drawing" className="print:hidden">
      <div className="rule-head flex flex-wrap items-center gap-3">
        <h2>Wires</h2>
        <label className="flex items-center gap-1.5 font-normal">
          of
          <select
            className="field w-64"
            aria-label="Part"
            value={part}
            onChange={({ target }) => onPick(target.value === '' ? null : { kind: 'part', ref: target.value })}
          >
            <option value="">all parts</option>
            {circuit.devices.map(({ ref, title }) => (
              <option key={ref} value={ref}>
                {title === ref ? ref : `${ref} ${title}`}
              </option>
            ))}
          </select>
        </label>
        {picked && (
          <button type="button" className="press-quiet" onClick={() => onPick(null)}>
            Clear
          </button>
        )}
        <span className="ml-auto font-normal text-soft">pick a part or a wire, here or in the drawing</span>
      </div>
      <ul className="max-h-56 overflow-auto" tabIndex={0} aria-label="Wires">
        {wires.map((wire, at) => (
          <WireRow key={at} site={site} wire={wire} lit={nets.includes(wire.net)} onPick={onPick} />
        ))}
      </ul>
    </section>
  )
}

interface RowProps {
  readonly site: Site
  readonly wire: Wire
  readonly lit: boolean
  readonly onPick: (picked: Picked) => void
}

const WireRow = ({ site, wire: { from, to, net, conductor, note }, lit, onPick }: RowProps) => (
  <li className="border-b border-hair">
    <button
      type="button"
      aria-pressed={lit}
      className="grid w-full grid-cols-[8rem_8rem_1fr] gap-3 px-1 py-1 text-left text-note hover:bg-panel aria-pressed:bg-panel aria-pressed:font-semibold"
      onClick={() => onPick({ kind: 'wire', net })}
    >
      <span className="font-mono">{terminalText(from)}</span>
      <span className="font-mono">{terminalText(to)}</span>
      <span className="text-soft">
        {[conductor === null ? '' : wireColour(site, conductor), note].filter(Boolean).join(' · ')}
      </span>
    </button>
  </li>
)
