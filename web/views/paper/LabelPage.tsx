import QRCode from 'qrcode'
import { boxLabel, boxPayload, labelsOf, labelStrip, type Code } from '../../../core/outputs'
import type { Controller, Site } from '../../../core/site'
import { circuitOf } from '../../../core/wiring'
import { useAppSelector } from '../../store/store'

/** The label of the box, and those of relays and switches, at their true size, to be cut out. */
export function LabelPage({ site, controller }: { site: Site; controller: Controller }) {
  const labels = labelsOf(site, circuitOf(site, controller.id))
  return (
    <article className="paper">
      <h1 className="mb-1 text-head font-bold">
        {site.name}: {controller.name}, labels
      </h1>
      <p className="mb-2">For the lid of the box, 70 × 40 mm. The code says which box it is; it opens nothing.</p>
      <BoxLabel site={site} controller={controller} />
      <p className="mt-4 mb-3">
        For relays and switches, 12 mm high and 34 mm wide where the page is printed at 100 %. Cut along the lines. A
        label says which part it is, not that it is dead: prove that with a meter.
      </p>
      {labels.length === 0 ? (
        <p>Nothing to label yet: a switch or a relay is needed.</p>
      ) : (
        <div dangerouslySetInnerHTML={{ __html: labelStrip(labels) }} />
      )}
    </article>
  )
}

function codeOf(text: string): Code {
  const { modules } = QRCode.create(text, { errorCorrectionLevel: 'M' })
  return { size: modules.size, isDark: (row, column) => modules.get(row, column) === 1 }
}

function BoxLabel({ site, controller }: { site: Site; controller: Controller }) {
  const onBoard = useAppSelector((state) => state.logbook.boards).find((board) => board.controller === controller.id)
  const board = onBoard ? { number: onBoard.number, hash: onBoard.hash } : null
  const svg = boxLabel(site, controller, board, codeOf(boxPayload(site, controller, board)))
  return <div className="box-label" dangerouslySetInnerHTML={{ __html: svg }} />
}
