import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { circuitOf, type Circuit } from '../../../core/wiring'
import { cautionsFor, labelsOf, labelStrip, netlistText, partsCsv, partsList, partsTotal } from '../../../core/outputs'
import { controllerOf, type Controller } from '../../../core/site'
import { save } from '../../parts/save'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { sheetPath } from '../paper/sheets'
import { Drawing } from './Drawing'
import { litStyle, type Picked } from './litWires'
import { useDrawing } from './useDrawing'
import { WireTable } from './WireTable'

/** The wiring drawing with its lists; black on white, ready for paper. */
export function WiringTab({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const circuit = useMemo(() => circuitOf(site, controller.id), [site, controller.id])
  const cautions = useMemo(() => cautionsFor(site, controller.id), [site, controller.id])
  const [picked, pick] = useState<Picked>(null)
  const svg = useDrawing(circuit, `${site.name}: ${controller.name}`, cautions)
  return (
    <div className="mt-3 space-y-4">
      <Files controller={controller} circuit={circuit} svg={svg} />
      {svg ? (
        <>
          <style>{litStyle(circuit, picked)}</style>
          <Drawing
            pages={svg}
            words="Wiring drawing"
            onPart={(ref) => pick(ref === null ? null : { kind: 'part', ref })}
          />
          <WireTable site={site} circuit={circuit} picked={picked} onPick={pick} />
        </>
      ) : (
        <p role="status" className="text-soft">
          Drawing the wiring …
        </p>
      )}
      {circuit.partOf === null ? (
        <PartsTable circuit={circuit} />
      ) : (
        <p className="text-soft">
          This board is wired with its main board, {controllerOf(site, circuit.partOf)?.name}: its parts stand on that
          list.
        </p>
      )}
    </div>
  )
}

interface FilesProps {
  readonly controller: Controller
  readonly circuit: Circuit
  readonly svg: readonly string[] | null
}

function Files({ controller, circuit, svg }: FilesProps) {
  const site = useAppSelector((state) => state.site.site)!
  const name = `${site.id}-${controller.id}`
  const labels = () => labelStrip(labelsOf(site, circuit))
  const files: readonly (readonly [string, string, string, () => string])[] = [
    ['Netlist', 'netlist.txt', 'text/plain', () => netlistText(circuit)],
    ['Parts list (CSV)', 'parts.csv', 'text/csv', () => partsCsv(circuit, site.prices)],
    ['Labels (SVG)', 'labels.svg', 'image/svg+xml', labels],
  ]
  const saveDrawing = () =>
    svg?.forEach((page, at) => save(`${name}-wiring${svg.length > 1 ? `-${at + 1}` : ''}.svg`, page, 'image/svg+xml'))
  return (
    <div className="flex flex-wrap gap-2 print:hidden">
      <button type="button" className="press" disabled={!svg} onClick={saveDrawing}>
        Drawing (SVG)
      </button>
      {files.map(([words, file, type, make]) => (
        <button key={file} type="button" className="press" onClick={() => save(`${name}-${file}`, make(), type)}>
          {words}
        </button>
      ))}
      <Link className="press" to={sheetPath(site.id, 'wiring')}>
        Print (A4)
      </Link>
    </div>
  )
}

function PartsTable({ circuit }: { circuit: Circuit }) {
  const prices = useAppSelector((state) => state.site.site!.prices)
  const lines = partsList(circuit)
  const total = partsTotal(lines, prices)
  return (
    <section aria-label="Parts list">
      <h2 className="rule-head">Parts list</h2>
      <table className="sheet w-full">
        <thead>
          <tr>
            <th className="w-16 !text-right">count</th>
            <th>part</th>
            <th>references</th>
            <th className="w-28">price each</th>
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <tr key={line.type}>
              <td className="text-right font-mono">{line.count}</td>
              <td>{line.type}</td>
              <td className="font-mono text-note">{line.refs.join(' ')}</td>
              <td>
                <Price type={line.type} />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {Object.keys(prices).length > 0 && (
        <p className="mt-1 text-right">
          Together <span className="font-mono font-semibold">{total.sum.toFixed(2)}</span>
          {total.unpriced > 0 && `, ${total.unpriced} without a price`}
        </p>
      )}
    </section>
  )
}

function Price({ type }: { type: string }) {
  const dispatch = useAppDispatch()
  const price = useAppSelector((state) => state.site.site!.prices[type])
  const keep = (text: string) =>
    dispatch(
      edit(`price of ${type}`.slice(0, 190), (draft) => {
        const value = Number(text.replace(',', '.'))
        if (text.trim() === '') delete draft.prices[type]
        else if (Number.isFinite(value) && value >= 0 && value <= 100_000) draft.prices[type] = value
      }),
    )
  return (
    <input
      key={price ?? 'none'}
      className="field font-mono"
      inputMode="decimal"
      aria-label={`Price of ${type}`}
      defaultValue={price ?? ''}
      onBlur={(event) => keep(event.target.value)}
    />
  )
}
