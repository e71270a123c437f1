import { useMemo } from 'react'
import { cautionsFor, partsList } from '../../../core/outputs'
import type { Controller, Site } from '../../../core/site'
import { circuitOf, type Circuit } from '../../../core/wiring'
import { useDrawing } from '../bench/useDrawing'

/** A drawing that is higher than wide goes on the sheet upright. */
function isTall(svg: string): boolean {
  const [width, height] = /viewBox="0 0 ([\d.]+) ([\d.]+)"/.exec(svg)?.slice(1).map(Number) ?? [1, 0]
  return height! > width!
}

/** Each page of the drawing on a page of its own, and the parts after them. */
export function WiringPages({ site, controller }: { site: Site; controller: Controller }) {
  const circuit = useMemo(() => circuitOf(site, controller.id), [site, controller.id])
  const cautions = useMemo(() => cautionsFor(site, controller.id), [site, controller.id])
  const pages = useDrawing(circuit, `${site.name}: ${controller.name}`, cautions)
  if (!pages)
    return (
      <p role="status" className="text-soft">
        Drawing the wiring …
      </p>
    )
  return (
    <>
      {pages.map((svg, at) => (
        <article
          key={at}
          className={`paper mb-4 ${isTall(svg) ? 'paper-tall' : 'paper-wide'}`}
          aria-label={`Wiring drawing, page ${at + 1}`}
          dangerouslySetInnerHTML={{ __html: svg }}
        />
      ))}
      <PartsPage title={`${site.name}: ${controller.name}, parts`} circuit={circuit} />
    </>
  )
}

const PartsPage = ({ title, circuit }: { title: string; circuit: Circuit }) => (
  <article className="paper">
    <h2 className="mb-2 text-head font-bold">{title}</h2>
    <table className="sheet w-full">
      <thead>
        <tr>
          <th className="!text-right">count</th>
          <th>part</th>
          <th>references</th>
          <th>there</th>
        </tr>
      </thead>
      <tbody>
        {partsList(circuit).map(({ type, count, refs }) => (
          <tr key={type}>
            <td className="text-right font-mono">{count}</td>
            <td>{type}</td>
            <td className="font-mono">{refs.join(' ')}</td>
            <td>☐</td>
          </tr>
        ))}
      </tbody>
    </table>
  </article>
)
