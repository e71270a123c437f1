import { labelsOf, labelStrip } from '../../../core/outputs'
import type { Controller, Site } from '../../../core/site'
import { circuitOf } from '../../../core/wiring'

/** The labels of relays and switches at their true size, to be cut out. */
export function LabelPage({ site, controller }: { site: Site; controller: Controller }) {
  const labels = labelsOf(site, circuitOf(site, controller.id))
  return (
    <article className="paper">
      <h1 className="mb-1 text-head font-bold">
        {site.name}: {controller.name}, labels
      </h1>
      <p className="mb-3">
        12 mm high and 34 mm wide where the page is printed at 100 %. Cut along the lines. A label says which part it
        is, not that it is dead: prove that with a meter.
      </p>
      {labels.length === 0 ? (
        <p>Nothing to label yet: a switch or a relay is needed.</p>
      ) : (
        <div dangerouslySetInnerHTML={{ __html: labelStrip(labels) }} />
      )}
    </article>
  )
}
