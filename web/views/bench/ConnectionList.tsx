import { useDeferredValue, useMemo } from 'react'
import { Link } from 'react-router'
import { boardIn } from '../../../core/boards'
import { circuitOf, connectionRows, firstNamed, wireKey, type Connection, type Device } from '../../../core/wiring'
import type { Controller } from '../../../core/site'
import { solder, tickedWires } from '../../store/logbook'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { sheetPath } from '../paper/sheets'

/** The connection list, with boxes to tick off while soldering; the ticks are kept with the logbook. */
export function ConnectionList({ controller }: { controller: Controller }) {
  // a long list follows a little later than the hand
  const site = useDeferredValue(useAppSelector((state) => state.site.site)!)
  const dispatch = useAppDispatch()
  const wires = useAppSelector((state) => state.logbook.wires)
  const done = tickedWires(wires, controller.id)
  const circuit = useMemo(() => circuitOf(site, controller.id), [site, controller.id])
  const rows = connectionRows(site, circuit)
  const boxed = boardIn(site, controller.board)?.boxed
  const named = firstNamed(circuit)
  const mainsFrom = rows.findIndex((row) => row.mains)
  const turn = (key: string) => void dispatch(solder(site.id, controller.id, key, !done.has(key)))
  const count = rows.filter((row) => done.has(wireKey(row))).length
  return (
    <section aria-label="Connections" className="mt-6">
      <Head site={site.id} />
      <p className="mt-1 text-small text-soft">
        {count === rows.length ? `All ${count} wires` : `${count} of ${rows.length} wires`} ticked off. Colours are a
        suggestion for a {site.mains.volts} V region; local code decides.
      </p>
      {boxed && <p className="mt-1.5 border-l-3 border-error pl-2 font-semibold text-error">Caution: {boxed.note}.</p>}
      <table className="sheet w-full">
        <ListHead />
        <tbody>
          {rows.map((row, i) => [
            row.device !== rows[i - 1]?.device && (
              <DeviceHead key={`head ${row.device}`} device={row.device} named={named.get(row.device) ?? []} />
            ),
            i === mainsFrom && <MainsCaution key="caution" />,
            <WireLine key={wireKey(row)} row={row} done={done.has(wireKey(row))} onTurn={() => turn(wireKey(row))} />,
          ])}
        </tbody>
      </table>
    </section>
  )
}

const Head = ({ site }: { site: string }) => (
  <h2 className="rule-head flex items-center">
    Connections
    <span className="ml-auto flex gap-1.5 font-normal print:hidden">
      <Link className="press-quiet" to={`/${site}/bench?side=wiring`}>
        Show drawing
      </Link>
      <Link className="press-quiet" to={sheetPath(site, 'connections')}>
        Print (A4)
      </Link>
    </span>
  </h2>
)

const ListHead = () => (
  <thead>
    <tr>
      <th className="w-8">
        <span className="sr-only">done</span>
      </th>
      <th>from</th>
      <th>to</th>
    </tr>
  </thead>
)

function DeviceHead({ device, named }: { device: string; named: readonly Device[] }) {
  return (
    <tr>
      <th colSpan={3} scope="rowgroup" className="!border-b-0 pt-2">
        {device}
        {named.map(({ ref, title }) => (
          <span key={ref} className="block text-small font-normal text-soft">
            <span className="font-mono">{ref}</span> {title}
          </span>
        ))}
      </th>
    </tr>
  )
}

function MainsCaution() {
  return (
    <tr>
      <td colSpan={3} className="bg-panel font-semibold text-error">
        Mains from here on: supply off and proved dead first. A licensed electrician where the law asks for one; local
        code decides.
      </td>
    </tr>
  )
}

function WireLine({ row, done, onTurn }: { row: Connection; done: boolean; onTurn: () => void }) {
  return (
    <tr>
      <td>
        <label className="-m-1 flex size-7 cursor-pointer items-center justify-center">
          <input
            type="checkbox"
            className="size-4 accent-(--ink)"
            aria-label={`${row.from} to ${row.to} done`}
            checked={done}
            onChange={onTurn}
          />
        </label>
      </td>
      <td className="font-mono text-note">{row.from}</td>
      <td>
        <span className="font-mono text-note">{row.to}</span>
        <span className="block text-small text-soft">{[row.colour, row.note].filter(Boolean).join(' · ')}</span>
      </td>
    </tr>
  )
}
