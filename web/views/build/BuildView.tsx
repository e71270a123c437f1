import { useMemo, useState } from 'react'
import type { BoardRow, BuildRow } from '../../../core/api'
import { boardIn } from '../../../core/boards'
import { isBlocking } from '../../../core/findings'
import { tablesOf } from '../../../core/image'
import { pinnedTools } from '../../../core/outputs'
import { counted, type Controller } from '../../../core/site'
import { OnceRead } from '../../parts/OnceRead'
import { ViewHead } from '../../parts/ViewHead'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { selectOpenFindings } from '../../store/findings'
import { selectShownController } from '../../store/selection'
import { useAppSelector } from '../../store/store'
import { BuildFiles } from './BuildFiles'
import { BuildList, OnTheBoard } from './BuildList'
import { CompareBuilds } from './CompareBuilds'
import { FlashForm } from './FlashForm'
import { Secrets } from './Secrets'

/** Firmware, sheets and tables of a controller, and how they differ from what is on the board. */
export function BuildView() {
  const controller = useAppSelector(selectShownController)
  if (controller) return <BuildsOf controller={controller} />
  return (
    <div className="px-5 py-4">
      <ViewHead title="Build" note="Nothing to build yet: add a controller on the bench first." />
    </div>
  )
}

function BuildsOf({ controller }: { controller: Controller }) {
  const { builds, boards } = useAppSelector((state) => state.logbook)
  const [shown, setShown] = useState<number | null>(null)
  const own = builds.filter((build) => build.controller === controller.id)
  const build = own.find((candidate) => candidate.id === shown) ?? own[0]
  const tables = useTables(controller)
  const blocking = useBlocking(controller)
  return (
    <div className="px-5 py-4">
      <BuildHead
        controller={controller}
        tables={tables}
        blocking={blocking}
        onBuilt={setShown}
      />
      {blocking.length > 0 && (
        <p className="mt-1 text-note text-error">
          {counted(blocking.length, 'finding')} of danger or error on this controller: fix or accept{' '}
          {blocking.length === 1 ? 'it' : 'them'} first.
        </p>
      )}
      <OnceRead>
      <div className="mt-3 grid @3xl:grid-cols-[15rem_minmax(0,1fr)] gap-5">
        <BuildSide
          controller={controller}
          board={boards.find((candidate) => candidate.controller === controller.id)}
          builds={own}
          build={build}
          tables={tables}
          onPick={setShown}
        />
        {build ? <BuildFiles key={build.id} build={build} /> : <NoBuild />}
      </div>
      </OnceRead>
    </div>
  )
}

const NoBuild = () => (
  <p className="text-soft">
    Nothing built yet. A build holds the connection list, the service sheet, the flash steps, the tables, the firmware
    with an empty secrets file, and the site itself.
  </p>
)

/** Ids of the open findings that keep a controller from being built. */
const useBlocking = (controller: Controller): string[] =>
  useAppSelector(selectOpenFindings)
    .filter((finding) => finding.where.controller === controller.id && isBlocking([finding]))
    .map((finding) => finding.id)

/** The hash of the tables that the site gives now; empty: its board has no profile. */
function useTables(controller: Controller): string {
  const site = useAppSelector((state) => state.site.site)!
  return useMemo(
    () => (boardIn(site, controller.board) ? tablesOf(site, controller.id).image.hash : ''),
    [site, controller],
  )
}

interface SideProps {
  readonly controller: Controller
  readonly board: BoardRow | undefined
  readonly builds: readonly BuildRow[]
  readonly build: BuildRow | undefined
  readonly tables: string
  readonly onPick: (build: number) => void
}

/** What the last flash of a controller was made with. */
const lastVersions = (builds: readonly BuildRow[]): Readonly<Record<string, string>> => {
  const [flash] = builds.flatMap(({ flashes }) => flashes).sort((a, b) => b.id - a.id)
  if (!flash) return {}
  return flash.boardPackage ? { 'board package': flash.boardPackage, ...flash.versions } : flash.versions
}

function BuildSide({ controller, board, builds, build, tables, onPick }: SideProps) {
  const site = useAppSelector((state) => state.site.site)!
  const programmed = !boardIn(site, controller.board)?.boxed?.parameters
  return (
    <div className="order-last space-y-5 @3xl:order-none">
      <OnTheBoard board={board} tables={tables} />
      <BuildList name={controller.name} builds={builds} picked={build?.id ?? null} onPick={onPick} />
      {build && <CompareBuilds build={build} builds={builds} />}
      {build && programmed && (
        <FlashForm
          key={build.id}
          build={build}
          tools={pinnedTools(site, controller)}
          last={lastVersions(builds)}
        />
      )}
      {programmed ? (
        <Secrets controller={controller} />
      ) : (
        <p className="text-note text-soft">This board is not flashed: its sheet says what to set from the hub.</p>
      )}
    </div>
  )
}

interface HeadProps {
  readonly controller: Controller
  readonly tables: string
  readonly blocking: readonly string[]
  readonly onBuilt: (build: number) => void
}

function BuildHead({ controller, tables, blocking, onBuilt }: HeadProps) {
  const pending = useAppSelector((state) => state.site.waiting.length > 0)
  const site = useAppSelector((state) => state.site.site!.id)
  const make = async (despiteFindings: boolean) => {
    const body = { controller: controller.id, despiteFindings }
    const answer = await attempt(call('newBuild', { site, body }), `${controller.name} built`)
    if (answer) onBuilt(answer.build.id)
  }
  const note = (
    <>
      {controller.name}. Tables now: <code className="font-mono text-ink">{tables}</code>
    </>
  )
  return (
    <ViewHead title="Build" note={note}>
      {blocking.length > 0 && (
        <button type="button" className="press" disabled={pending} onClick={() => void make(true)}>
          Build despite {blocking.join(', ')}
        </button>
      )}
      <button
        type="button"
        className="press-main"
        disabled={blocking.length > 0 || pending}
        onClick={() => void make(false)}
      >
        Build {controller.name}
      </button>
    </ViewHead>
  )
}
