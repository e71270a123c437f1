import { partOf, type Failure, type FaultDetail } from '../../../../core/faults'
import { downWith, type PartId } from '../../../../core/parts'
import type { Site } from '../../../../core/site'
import { graphOf } from '../graph'
import { wayWords } from '../words'

interface Props {
  readonly site: Site
  readonly detail: FaultDetail
  readonly failed: readonly Failure[]
}

/** A channel's ways as lines of parts from hand to load; what all share stands once, and the cut is open. */
export function Paths({ site, detail, failed }: Props) {
  const graph = graphOf(site)
  const { paths } = detail
  if (paths.length === 0) return null
  const down = downWith(graph, new Set(failed.map(partOf)))
  const shared = inOrder(paths[0]!.parts.filter((part) => paths.every(({ parts }) => parts.includes(part))))
  return (
    <figure aria-label="Paths from hand to load" className="mt-3 text-small">
      <ul className="space-y-1.5">
        {paths.map(({ way, parts }) => (
          <li key={way}>
            <span className="font-semibold">{wayWords(site, way)}</span>
            <Line
              names={parts.filter((part) => !shared.includes(part)).map((part) => name(site, part))}
              cut={parts.filter((part) => !shared.includes(part)).map((part) => down.has(part))}
            />
          </li>
        ))}
      </ul>
      <p className="mt-1.5 font-semibold">then, for each of them</p>
      <Line names={shared.map((part) => name(site, part))} cut={shared.map((part) => down.has(part))} />
      <figcaption className="sr-only">
        {paths.filter(({ parts }) => !parts.some((part) => down.has(part))).length} of {paths.length} paths are whole.
      </figcaption>
    </figure>
  )
}

/** From the house to the load. */
const CHAIN = ['mains', 'strip', 'breaker', 'power', 'board', 'drive', 'opto', 'module', 'coil', 'contact', 'load']
const inOrder = (parts: readonly PartId[]): PartId[] =>
  [...parts].sort((a, b) => CHAIN.indexOf(a.split(':')[0]!) - CHAIN.indexOf(b.split(':')[0]!))

const name = (site: Site, part: PartId): string => graphOf(site).get(part)?.name ?? part

const Line = ({ names, cut }: { names: readonly string[]; cut: readonly boolean[] }) => (
  <span className="flex flex-wrap items-center gap-y-1">
    {names.length === 0 && <span className="text-soft">nothing of its own</span>}
    {names.map((one, i) => (
      <span key={one} className="flex items-center">
        {i > 0 && <span aria-hidden="true" className="inline-block w-2 border-t border-bus" />}
        <span className={cut[i] ? 'path-part path-cut' : 'path-part'}>
          {one}
          {cut[i] && <span className="sr-only"> (failed)</span>}
        </span>
      </span>
    ))}
  </span>
)
