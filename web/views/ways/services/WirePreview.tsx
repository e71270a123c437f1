import { useDeferredValue, useMemo } from 'react'
import { previewWire } from '../../../../core/wires'
import { useAppSelector } from '../../../store/store'

/** What the wire would send and understand for the first three points, played by the engine itself. */
export function WirePreview({ kind }: { kind: string }) {
  const site = useDeferredValue(useAppSelector((state) => state.site.site)!)
  const preview = useMemo(() => previewWire(site, kind), [site, kind])
  if (preview.kind !== 'rows')
    return (
      <p className={`mt-1 text-note ${preview.kind === 'refused' ? 'text-error' : 'text-soft'}`}>
        {preview.kind === 'refused' ? preview.why : `No preview: ${preview.why}.`}
      </p>
    )
  return (
    <div className="mt-1 overflow-x-auto">
      <table className="w-full text-small" aria-label="Wire preview">
        <caption className="text-left text-soft">Preview of {preview.controller}</caption>
        <thead>
          <tr className="text-left text-soft">
            {['Point', 'Value', 'Controller sends', 'Service sends', 'Controller does'].map((head) => (
              <th key={head} scope="col" className="pr-3 font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {preview.rows.map((row) => (
            <tr key={row.point} className="border-t border-hair align-baseline">
              <th scope="row" className="py-0.5 pr-3 text-left font-semibold whitespace-nowrap">
                {row.name}
              </th>
              <td className="pr-3 tabular-nums">{row.value}</td>
              <td className="pr-3 font-mono break-all">{row.sends ?? 'nothing'}</td>
              <td className="pr-3 font-mono break-all">{row.hears?.said ?? 'cannot set it'}</td>
              <td>{row.hears?.means ?? ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  )
}
