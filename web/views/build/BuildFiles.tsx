import { Download } from 'lucide-react'
import { useEffect, useState } from 'react'
import { addressOf, type BuildFile, type BuildRow } from '../../../core/api'
import { call } from '../../store/api'
import { attempt } from '../../store/attempt'
import { FileReader } from './FileReader'

const FIRST_READ = 'sheets/service.md'
const isFirmware = ({ name }: BuildFile): boolean => name.startsWith('firmware/')

/** What is read at the bench first, then what is compiled. */
const inOrder = (files: readonly BuildFile[]): BuildFile[] =>
  [...files].sort((a, b) => Number(isFirmware(a)) - Number(isFirmware(b)))

/** The files of a build, one of them to be read. */
export function BuildFiles({ build }: { build: BuildRow }) {
  const [files, setFiles] = useState<readonly BuildFile[]>([])
  const [file, setFile] = useState(FIRST_READ)
  useEffect(() => {
    const load = async () => {
      const answer = await attempt(call('build', { build: String(build.id) }))
      if (answer) setFiles(inOrder(answer.files))
    }
    void load()
  }, [build.id])
  const reading = files.find((candidate) => candidate.name === file) ?? files[0]
  return (
    <section aria-label="Files of the build" className="flex min-h-0 min-w-0 flex-col">
      <div className="rule-head flex items-baseline gap-3">
        <h2>
          Build {build.number}: revision {build.revision}, {files.length} files
        </h2>
        <a className="press ml-auto text-note" href={addressOf('buildZip', { build: String(build.id) })} download>
          <Download size={13} aria-hidden="true" />
          zip
        </a>
      </div>
      <div className="grid min-h-0 flex-1 grid-cols-[12rem_minmax(0,1fr)]">
        <FileList files={files} picked={reading?.name ?? null} onPick={setFile} />
        {reading && <FileReader key={reading.name} name={reading.name} text={reading.text} />}
      </div>
    </section>
  )
}

interface ListProps {
  readonly files: readonly BuildFile[]
  readonly picked: string | null
  readonly onPick: (name: string) => void
}

function FileList({ files, picked, onPick }: ListProps) {
  return (
    <ul className="border-r border-hair py-1 pr-2">
      {files.map(({ name }) => (
        <li key={name}>
          <button
            type="button"
            aria-pressed={name === picked}
            className={
              'min-h-6 w-full truncate px-1.5 text-left font-mono text-[0.75rem] hover:bg-panel ' +
              'aria-pressed:bg-ink aria-pressed:text-wall'
            }
            title={name}
            onClick={() => onPick(name)}
          >
            {name.replace('firmware/', '')}
          </button>
        </li>
      ))}
    </ul>
  )
}
