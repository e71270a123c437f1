import type { BodySent } from '../../../core/api'
import type { BeginningProps } from './useDoor'

type Example = Extract<BodySent<'newSite'>, { example: unknown }>['example']

const EXAMPLES: readonly (readonly [Example, string, string])[] = [
  ['studio-corner', 'Studio corner', 'One controller, two lamps: small enough to read in a minute.'],
  ['fernhollow', 'Fernhollow Pottery', 'Six boards in five rooms, with every kind of way in.'],
  ['before-review', 'Before review', 'Deliberate mistakes, to see what the checks say and how they are fixed.'],
]

/** A copy of a site that ships with the program: to look at, and to take apart. */
export const ExampleForm = ({ door }: BeginningProps) => (
  <ul className="grid gap-3 sm:grid-cols-3">
    {EXAMPLES.map(([example, name, what]) => (
      <li key={example}>
        <button type="button" className="press-main" onClick={() => void door.create({ example })}>
          Create from {name}
        </button>
        <p className="mt-1 text-note text-soft">{what}</p>
      </li>
    ))}
  </ul>
)
