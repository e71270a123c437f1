import { Download } from 'lucide-react'
import { lazy, Suspense, useEffect, useState, type ReactNode } from 'react'
import { addressOf, type BuildFile, type BuildRow } from '../../../core/api'
import { comes } from '../../parts/comes'
import { Sheet } from '../../parts/Sheet'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { fileTitle, firstRead, inGroup } from './fileNames'

// Most visits read a sheet and no code: editor and table reader come when they are asked for.
const FileReader = lazy(() => comes(async () => ({ default: (await import('./FileReader')).FileReader })))
const CsvTable = lazy(() => comes(async () => ({ default: (await import('./CsvTable')).CsvTable })))

function useFiles(build: BuildRow): readonly BuildFile[] {
  const [files, setFiles] = useState<readonly BuildFile[]>([])
  useEffect(() => {
    const load = async () => {
      const answer = await attempt(call('build', { build: String(build.id) }))
      if (answer) setFiles(answer.files)
    }
    void load()
  }, [build.id])
  return files
}

/** What a build holds: sheets to be read, tables for other programs, and the firmware, folded. */
export function BuildFiles({ build }: { build: BuildRow }) {
  const files = useFiles(build)
  const [picked, setPicked] = useState<string | null>(null)
  const reading = files.find(({ name }) => name === picked) ?? firstRead(files)
  const pick = { picked: reading?.name ?? null, onPick: setPicked }
  return (
    <section aria-label="Files of the build" className="min-w-0">
      <div className="rule-head flex items-center gap-3">
        <h2>
          Build {build.number}, from revision {build.revision}
        </h2>
        <a className="press ml-auto text-note" href={addressOf('buildZip', { build: String(build.id) })} download>
          <Download size={13} aria-hidden="true" />
          Download all {files.length} files (zip)
        </a>
      </div>
      <div className="mt-2 space-y-1">
        <FileRow label="Sheets" files={inGroup(files, 'sheets')} {...pick} />
        <FileRow label="Tables" files={inGroup(files, 'tables')} {...pick} />
        <Firmware files={inGroup(files, 'firmware')} {...pick} />
      </div>
      <div className="mt-3 min-w-0">{reading && <Reading key={reading.name} file={reading} />}</div>
    </section>
  )
}

interface PickProps {
  readonly picked: string | null
  readonly onPick: (name: string) => void
}

function FileRow({ label, files, picked, onPick }: PickProps & { label: string; files: readonly BuildFile[] }) {
  if (files.length === 0) return null
  return (
    <div role="group" aria-label={label} className="flex flex-wrap items-baseline gap-x-1">
      <span className="w-16 text-small text-soft">{label}</span>
      {files.map(({ name }) => (
        <FilePress key={name} name={name} picked={name === picked} onPick={onPick}>
          {fileTitle(name)}
        </FilePress>
      ))}
    </div>
  )
}

interface PressProps {
  readonly name: string
  readonly picked: boolean
  readonly onPick: (name: string) => void
  readonly children: ReactNode
}

const FilePress = ({ name, picked, onPick, children }: PressProps) => (
  <button
    type="button"
    aria-pressed={picked}
    title={name}
    className="rounded-plate min-h-6 px-2 text-note hover:bg-panel aria-pressed:bg-ink aria-pressed:font-semibold aria-pressed:text-wall"
    onClick={() => onPick(name)}
  >
    {children}
  </button>
)

/** What is compiled and seldom read: one line until it is opened. */
function Firmware({ files, picked, onPick }: PickProps & { files: readonly BuildFile[] }) {
  if (files.length === 0) return null
  return (
    <details>
      <summary className="min-h-6 cursor-pointer text-note">
        <span className="inline-block w-13 text-small text-soft">Firmware</span> {files.length} files: tables, runtime,
        ports
      </summary>
      <div className="mt-1 flex flex-wrap gap-x-1 border-l-2 border-hair pl-2 font-mono">
        {files.map(({ name }) => (
          <FilePress key={name} name={name} picked={name === picked} onPick={onPick}>
            {fileTitle(name)}
          </FilePress>
        ))}
      </div>
    </details>
  )
}

function Reading({ file: { name, text } }: { file: BuildFile }) {
  if (name.endsWith('.md') && name.startsWith('sheets/')) return <Sheet text={text} />
  return (
    <Suspense fallback={<p className="text-soft">Loading …</p>}>
      {name.endsWith('.csv') ? (
        <CsvTable name={fileTitle(name)} text={text} />
      ) : (
        <FileReader name={name} text={text} />
      )}
    </Suspense>
  )
}
