import { useEffect, useRef, useState } from 'react'
import { LOADER_ROOM, readHexRecords, sendProgram, SerialLines, tablesIn } from '../../../../core/flash'
import type { BuildRow } from '../../../../core/api'
import { call } from '../../../store/api'
import { attempt } from '../../../store/attempt'
import { OpenPort } from './webSerial'

const LINES_SHOWN = 200

/** Records a flash with the versions of the last one; once for each thing that showed it. */
export async function recordFlash(
  build: BuildRow,
  versions: Readonly<Record<string, string>>,
  note: string,
): Promise<void> {
  await attempt(
    call('newFlash', { build: String(build.id), body: { versions: { ...versions }, note } }),
    `Build ${build.number} is on the board: the logbook has it`,
  )
}

interface Watched {
  readonly builds: readonly BuildRow[]
  /** hash that the logbook has for this board; null: none */
  readonly recorded: string | null
  readonly versions: Readonly<Record<string, string>>
}

/** What a board says it runs goes into the logbook, once, where that knows of another build. */
function useNoting(watched: Watched): (lines: readonly string[]) => void {
  const latest = useRef(watched)
  const noted = useRef<string | null>(null)
  useEffect(() => {
    latest.current = watched
  })
  return (lines) => {
    const { builds, recorded, versions } = latest.current
    const hash = lines.map(tablesIn).find((one) => one !== null) ?? null
    if (hash === null || hash === recorded || noted.current === hash) return
    noted.current = hash
    const build = builds.find((one) => one.hash === hash)
    if (build) void recordFlash(build, versions, 'read from its serial log')
  }
}

/** A serial port that is open or not, and the lines that came over it. */
function usePort(watched: Watched, onSaid: (words: string | null) => void) {
  const port = useRef<OpenPort | null>(null)
  const lines = useRef(new SerialLines())
  const notes = useNoting(watched)
  const [log, setLog] = useState<readonly string[]>([])
  const [isOpen, setOpen] = useState(false)
  useEffect(() => () => void port.current?.close(), [])
  const takes = (text: string) => {
    const more = lines.current.take(text)
    if (more.length === 0) return
    setLog((before) => [...before, ...more].slice(-LINES_SHOWN))
    notes(more)
  }
  const close = async () => {
    await port.current?.close()
    port.current = null
    setOpen(false)
  }
  const open = async (baud: number): Promise<boolean> => {
    await close()
    try {
      port.current = await OpenPort.ask(baud, takes, () => void close())
    } catch (error) {
      onSaid(`The port could not be opened: ${(error as Error).message}`)
      return false
    }
    onSaid(null)
    setOpen(true)
    return true
  }
  return { port, log, isOpen, open, close }
}

/** The board's serial port in the page: its log, the tables that it says it runs, and a program on its way to it. */
export function useSerial(watched: Watched) {
  const [said, setSaid] = useState<string | null>(null)
  const { port, ...opened } = usePort(watched, setSaid)
  const stopped = useRef(false)
  const [progress, setProgress] = useState<number | null>(null)
  const send = async (hex: string, done: () => void) => {
    stopped.current = false
    setProgress(0)
    setSaid('Waiting for the loader: press the board’s reset button.')
    try {
      const program = readHexRecords(hex, LOADER_ROOM)
      await sendProgram(port.current!, program, setProgress, () => stopped.current)
      setSaid('Sent, and read back from flash: the same.')
      done()
    } catch (error) {
      setSaid((error as Error).message)
    }
    setProgress(null)
  }
  return { ...opened, progress, said, send, stop: () => void (stopped.current = true) }
}
