import { moduleIn } from '../../../core/boards'
import type { Part } from '../../../core/site'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { useAppSelector } from '../../store/store'
import { useChange, withId } from '../../store/useChange'

type Between = NonNullable<Part['fitted']>[number]
const field = fieldsOf<Part>()
const between = (label: string, what: Between) =>
  field.tick(
    label,
    {
      read: ({ fitted }) => fitted?.includes(what) ?? false,
      write: (part, on) => {
        const rest = (part.fitted ?? []).filter((one) => one !== what)
        part.fitted = on ? [...rest, what] : rest
      },
    },
    { what },
  )
const FIELDS = [
  field.text('Name', 'name', { check: needsName }),
  between('Transistor in between', 'transistor'),
  between('Divider in between', 'divider'),
  between('Level shifter in between', 'level-shifter'),
]

/** A part: its name, what stands between it and its pins, and what to look at on the one in hand. */
export function PartFields({ controller, part }: { controller: string; part: Part }) {
  const site = useAppSelector((state) => state.site.site)!
  const change = useChange(part.name, (draft) => {
    const owner = withId(draft.controllers, controller)
    return owner && withId(owner.parts, part.id)
  })
  const check = moduleIn(site, 'part', part.profile)?.check ?? []
  return (
    <div className="space-y-2">
      <div className="grid grid-cols-2 gap-2">
        <Fields rows={FIELDS} of={part} change={change} />
      </div>
      {check.length > 0 && <p className="text-note text-soft">Check on the part in hand: {check.join('; and at ')}.</p>}
    </div>
  )
}
