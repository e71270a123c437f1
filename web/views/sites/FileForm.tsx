import { FileField } from '../../parts/FileField'
import type { BeginningProps } from './useDoor'

/** A site file that was saved before: checked whole, and refused whole. */
export const FileForm = ({ door }: BeginningProps) => (
  <div>
    <FileField label="Site file" accept="application/json,.json" onText={(text, name) => void door.open(text, name)} />
    <p className="mt-1.5 text-note text-soft">
      A site file (JSON), as “Save as a file” writes it. It is checked whole before it is opened.
    </p>
  </div>
)
