import { useMemo } from 'react'
import { Link } from 'react-router'
import type { BuildRow } from '../../../../core/api'
import { boardIn } from '../../../../core/boards'
import { LOADER_BAUD } from '../../../../core/flash'
import { pinnedTools } from '../../../../core/outputs'
import type { Controller } from '../../../../core/site'
import { save } from '../../../parts/save'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'
import { useAppSelector } from '../../../store/store'
import { FlashForm } from '../../build/FlashForm'
import { OneController } from '../OneController'
import { recordFlash, useSerial } from './useSerial'
import { hasSerial } from './webSerial'

/** Speed of the log of boards with a setup and a loop, baud (firmware/ports/board-core). */
const LOG_BAUD = 115_200

/** A build on its way to its board: the program, the serial port, and the record of it. */
export const FlashSide = () => (
  <OneController asks="Which board do you flash?">
    {(controller) => <FlashHere key={controller.id} controller={controller} />}
  </OneController>
)

function FlashHere({ controller }: { controller: Controller }) {
  const { builds } = useAppSelector((state) => state.logbook)
  const own = builds.filter((build) => build.controller === controller.id)
  const [build] = own
  if (build) return <FlashOf controller={controller} build={build} own={own} />
  return (
    <p className="mt-3">
      Nothing built for {controller.name} yet:{' '}
      <Link className="underline" to="../build">
        make a build
      </Link>{' '}
      first.
    </p>
  )
}

interface Props {
  readonly controller: Controller
  readonly build: BuildRow
  readonly own: readonly BuildRow[]
}

function FlashOf({ controller, build, own }: Props) {
  const site = useAppSelector((state) => state.site.site)!
  const board = useAppSelector((state) => state.logbook.boards).find((one) => one.controller === controller.id)
  const tools = useMemo(() => pinnedTools(site, controller), [site, controller])
  const last = own.flatMap(({ flashes }) => flashes)[0]?.versions ?? {}
  const serial = useSerial({ builds: own, recorded: board?.hash ?? null, versions: last })
  const isAvr = boardIn(site, controller.board)?.port === 'avr'
  return (
    <div className="mt-3 grid gap-x-8 gap-y-5 @3xl:grid-cols-2">
      <section aria-label="Program">
        <h2 className="rule-head">
          {controller.name}, build {build.number}
        </h2>
        <p className="mt-1.5 text-note text-soft">
          Tables <code className="font-mono">{build.hash}</code>.{' '}
          {board ? `On the board by the logbook: build ${board.number}.` : 'No flash of this board is on record.'}
        </p>
        <p className="mt-1.5 flex flex-wrap gap-2">
          <Link className="press" to={`/${site.id}/paper?side=flash`}>
            Flash steps for this board
          </Link>
          {isAvr && <SaveProgram build={build} name={`${controller.id}-build-${build.number}.hex`} />}
        </p>
        {isAvr && <SendProgram build={build} serial={serial} versions={last} />}
        <div className="mt-4">
          <FlashForm key={build.id} build={build} tools={tools} last={last} />
        </div>
      </section>
      <Monitor serial={serial} baud={isAvr ? LOADER_BAUD : LOG_BAUD} />
    </div>
  )
}

const programOf = (build: BuildRow) => attempt(call('program', { build: String(build.id) }))

/** The program as a file, for a programmer or a loader of the maker's own. */
function SaveProgram({ build, name }: { build: BuildRow; name: string }) {
  const press = async () => {
    const program = await programOf(build)
    if (program) save(name, program.hex, 'text/plain')
  }
  return (
    <button type="button" className="press" onClick={() => void press()}>
      Compile and save (.hex)
    </button>
  )
}

type Serial = ReturnType<typeof useSerial>

/** Compiled here and sent to our own boot loader, which has been tried on the simulated board. */
function SendProgram({
  build,
  serial,
  versions,
}: {
  build: BuildRow
  serial: Serial
  versions: Readonly<Record<string, string>>
}) {
  const send = async () => {
    const program = await programOf(build)
    if (!program || (!serial.isOpen && !(await serial.open(LOADER_BAUD)))) return
    await serial.send(program.hex, () => void recordFlash(build, versions, 'sent over the serial port, and read back'))
  }
  if (!hasSerial()) return null
  return (
    <div className="mt-2">
      <button type="button" className="press" disabled={serial.progress !== null} onClick={() => void send()}>
        Compile and send over the serial port
      </button>
      {serial.progress !== null && (
        <span className="ml-3 inline-flex items-center gap-2">
          <progress value={serial.progress} aria-label="Sent" />
          <button type="button" className="press" onClick={serial.stop}>
            Stop
          </button>
        </span>
      )}
      <p className="mt-1 text-note text-soft">
        The board needs the loader of firmware/ports/avr-loader. It was tried on the simulated board, and not on
        hardware. Mains off: only the USB cable feeds the board.
      </p>
    </div>
  )
}

/** The board's log over its serial port, as it comes. */
function Monitor({ serial, baud }: { serial: Serial; baud: number }) {
  return (
    <section aria-label="Serial log" className="min-w-0">
      <h2 className="rule-head">Serial log</h2>
      {hasSerial() ? (
        <p className="mt-1.5 flex flex-wrap items-center gap-2">
          <button
            type="button"
            className="press"
            onClick={() => void (serial.isOpen ? serial.close() : serial.open(baud))}
          >
            {serial.isOpen ? 'Stop listening' : `Listen at a serial port, ${baud.toLocaleString('en')} baud`}
          </button>
          <span className="text-note text-soft">
            The tables that the board names go into the logbook by themselves.
          </span>
        </p>
      ) : (
        <p className="mt-1.5 text-note text-soft">
          This browser gives pages no serial port. Use one that does, on the machine with the USB cable, or the flash
          steps.
        </p>
      )}
      <p role="status" className="mt-1 text-note">
        {serial.said}
      </p>
      <pre
        aria-label="Lines of the serial log"
        tabIndex={0}
        className="mt-2 h-64 overflow-auto border border-bus bg-panel p-2 font-mono text-note whitespace-pre-wrap"
      >
        {serial.log.length === 0 ? 'No lines yet.' : serial.log.join('\n')}
      </pre>
    </section>
  )
}
