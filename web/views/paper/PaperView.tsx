import { Printer } from 'lucide-react'
import { useMemo } from 'react'
import { useSearchParams } from 'react-router'
import { boardIn } from '../../../core/boards'
import { tablesOf } from '../../../core/image'
import { doorCard, flashSteps, serviceSheet, setupSteps, wiringSheet } from '../../../core/outputs'
import type { Controller, Site } from '../../../core/site'
import { OnceRead } from '../../parts/OnceRead'
import { Sheet } from '../../parts/Sheet'
import { SideTabs, useSide } from '../../parts/Sides'
import { ViewHead } from '../../parts/ViewHead'
import { selectShownController } from '../../store/selection'
import { useAppSelector } from '../../store/store'
import { LabelPage } from './LabelPage'
import { SHEETS, type SheetId } from './sheets'
import { TestPage } from './TestPage'
import { WiringPages } from './WiringPages'

/** Sheets for the bench, as they will be on A4: black on white. */
export function PaperView() {
  const site = useAppSelector((state) => state.site.site)!
  const controller = useAppSelector(selectShownController)
  const [sheet, pick] = useSide(SHEETS)
  if (!controller)
    return (
      <div className="px-5 py-4">
        <ViewHead title="Print" note="Nothing to print yet: add a controller on the bench first." />
      </div>
    )
  return (
    <div className="px-5 py-4 print:p-0">
      <div className="print:hidden">
        <ViewHead title="Print" note={`${controller.name}, A4. The sheets follow the site as it is now.`}>
          <button type="button" className="press-main" onClick={() => window.print()}>
            <Printer size={14} aria-hidden="true" />
            Print (A4)
          </button>
        </ViewHead>
        <div className="mt-2">
          <SideTabs label="Sheets" sides={SHEETS} current={sheet.id} onPick={pick} />
        </div>
      </div>
      <div className="mt-4 print:mt-0" data-sheet={sheet.id}>
        <Page sheet={sheet.id} site={site} controller={controller} />
      </div>
    </div>
  )
}

interface PageProps {
  readonly sheet: SheetId
  readonly site: Site
  readonly controller: Controller
}

function Page({ sheet, site, controller }: PageProps) {
  const [parameters] = useSearchParams()
  switch (sheet) {
    case 'wiring':
      return <WiringPages site={site} controller={controller} />
    case 'labels':
      // a label on the wall must not say "No flash on record." because the record had not come yet
      return (
        <OnceRead>
          <LabelPage site={site} controller={controller} />
        </OnceRead>
      )
    case 'test':
      return (
        <OnceRead>
          <TestPage site={site} controller={controller} run={Number(parameters.get('run') ?? 0)} />
        </OnceRead>
      )
    default:
      return <TextPage sheet={sheet} site={site} controller={controller} />
  }
}

/** The sheets that a build holds as text. */
function TextPage({ sheet, site, controller }: PageProps) {
  const text = useMemo(() => {
    if (sheet === 'connections') return wiringSheet(site, controller)
    if (sheet === 'service') return serviceSheet(site, controller)
    if (sheet === 'card') return doorCard(site)
    const board = boardIn(site, controller.board)
    if (!board) return `# ${controller.name}\n\nIts board has no profile: choose one on the bench.`
    return board.boxed?.parameters
      ? setupSteps(site, controller)
      : flashSteps(site, controller, tablesOf(site, controller.id).image)
  }, [sheet, site, controller])
  return <Sheet text={text} />
}
