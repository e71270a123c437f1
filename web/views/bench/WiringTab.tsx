import { useEffect, useMemo, useState } from 'react'
import { netlistOf } from '../../../core/bench'
import {
  hasMains,
  labelStrip,
  MAINS_CAUTIONS,
  netlistText,
  partsCsv,
  partsList,
  partsTotal,
  wiringSvg,
} from '../../../core/outputs'
import { channelsOn, inputsOn, type Controller } from '../../../core/site'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

function download(name: string, type: string, text: string): void {
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([text], { type }))
  link.download = name
  link.click()
  URL.revokeObjectURL(link.href)
}

/** The wiring drawing with its lists; black on white, ready for paper. */
export function WiringTab({ controller }: { controller: Controller }) {
  const site = useAppSelector((state) => state.site.site)!
  const netlist = useMemo(() => netlistOf(site, controller), [site, controller])
  const [svg, setSvg] = useState<string | null>(null)
  const title = `${site.name}: ${controller.name}`
  const mains = hasMains(site, controller.id)
  useEffect(() => {
    let stale = false
    void (async () => {
      const { default: Elk } = await import('elkjs/lib/elk.bundled.js')
      const drawn = await wiringSvg(netlist, title, mains ? MAINS_CAUTIONS : [], new Elk())
      if (!stale) setSvg(drawn)
    })()
    return () => {
      stale = true
    }
  }, [netlist, title, mains])
  const labels = labelStrip([
    ...channelsOn(site, controller.id).map((channel, i) => ({ ref: `K${i + 1}`, name: channel.name })),
    ...inputsOn(site, controller.id).map((input) => ({
      ref: input.name,
      name: site.ways
        .flatMap((way) =>
          way.kind === 'wall' && way.input === input.id ? [site.channels.find((c) => c.id === way.channel)!.name] : [],
        )
        .join(', '),
    })),
  ])
  const name = `${site.id}-${controller.id}`
  const lines = partsList(netlist)
  const total = partsTotal(lines, site.prices)
  return (
    <div className="mt-3 space-y-4">
      <div className="flex flex-wrap gap-2 print:hidden">
        <button
          type="button"
          className="press"
          disabled={!svg}
          onClick={() => svg && download(`${name}-wiring.svg`, 'image/svg+xml', svg)}
        >
          Drawing (SVG)
        </button>
        <button
          type="button"
          className="press"
          onClick={() => download(`${name}-netlist.txt`, 'text/plain', netlistText(netlist))}
        >
          Netlist
        </button>
        <button
          type="button"
          className="press"
          onClick={() => download(`${name}-parts.csv`, 'text/csv', partsCsv(netlist, site.prices))}
        >
          Parts list (CSV)
        </button>
        <button type="button" className="press" onClick={() => download(`${name}-labels.svg`, 'image/svg+xml', labels)}>
          Labels (SVG)
        </button>
        <button type="button" className="press" onClick={() => window.print()}>
          Print on A4
        </button>
      </div>
      {svg ? (
        <figure
          aria-label="Wiring drawing"
          className="overflow-auto border border-bus bg-white"
          dangerouslySetInnerHTML={{ __html: svg }}
        />
      ) : (
        <p role="status" className="text-soft">
          The drawing is being laid out …
        </p>
      )}
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
        {Object.keys(site.prices).length > 0 && (
          <p className="mt-1 text-right">
            Together <span className="font-mono font-semibold">{total.sum.toFixed(2)}</span>
            {total.unpriced > 0 && `, ${total.unpriced} without a price`}
          </p>
        )}
      </section>
    </div>
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
