import { Upload } from 'lucide-react'
import { useRef, useState } from 'react'

interface Props {
  readonly label: string
  readonly accept: string
  readonly onText: (text: string, name: string) => void
}

/** A file that is read as text: a press like the others, and the name of what was picked. */
export function FileField({ label, accept, onText }: Props) {
  const input = useRef<HTMLInputElement>(null)
  const [name, setName] = useState<string | null>(null)
  const pick = async (file: File | undefined) => {
    if (!file) return
    setName(file.name)
    onText(await file.text(), file.name)
    // the same file can be picked again after it was corrected
    if (input.current) input.current.value = ''
  }
  return (
    <span className="flex flex-wrap items-center gap-2">
      <input
        ref={input}
        type="file"
        accept={accept}
        className="sr-only"
        aria-label={label}
        tabIndex={-1}
        onChange={(event) => void pick(event.target.files?.[0])}
      />
      <button type="button" className="press" onClick={() => input.current?.click()}>
        <Upload size={14} aria-hidden="true" />
        Choose {label[0]!.toLowerCase() + label.slice(1)}
      </button>
      <span className="text-note text-soft">{name ?? 'no file chosen'}</span>
    </span>
  )
}
