import { useState } from 'react'
import { EXAMPLE_TEMPLATES } from '../../../core/outputs'
import { idFromName, plainCopy, type Template, type TemplateId } from '../../../core/site'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { TemplateEditor } from './TemplateEditor'

const OWN: Template = {
  id: 'template' as TemplateId,
  name: 'My template',
  fileName: 'my-file.txt',
  text: '{% for channel in channels %}{{ channel.name }}: {{ channel.words | join: ", " }}\n{% endfor %}',
}

/** The maker's own text over the mapping, with what it gives beside it while it is typed. */
export function TemplatesTab() {
  const dispatch = useAppDispatch()
  const templates = useAppSelector((state) => state.site.site!.templates)
  const [picked, setPicked] = useState<string | null>(null)
  const template = templates.find((one) => one.id === picked) ?? templates[0]
  const add = (from: Template) => {
    const taken = templates.map((one) => one.id)
    const id = idFromName<TemplateId>(from.name, taken, 'template')
    dispatch(edit(`template ${from.name}`, (draft) => void draft.templates.push({ ...plainCopy(from), id })))
    setPicked(id)
  }
  return (
    <div>
      <div className="flex flex-wrap items-center gap-1.5">
        {templates.map((one) => (
          <button
            key={one.id}
            type="button"
            aria-pressed={one.id === template?.id}
            className="press aria-pressed:bg-ink aria-pressed:text-wall"
            onClick={() => setPicked(one.id)}
          >
            {one.name}
          </button>
        ))}
        <BeginTemplate onBegin={add} />
      </div>
      {template ? (
        <TemplateEditor key={template.id} template={template} />
      ) : (
        <p className="mt-4 text-soft">
          No template yet. Start from an example: they write this site as a points table, a hub list, or a wiring
          checklist.
        </p>
      )}
    </div>
  )
}

function BeginTemplate({ onBegin }: { onBegin: (from: Template) => void }) {
  const begin = (id: string) => {
    const from = id === 'empty' ? OWN : EXAMPLE_TEMPLATES.find((one) => one.id === id)
    if (from) onBegin(from)
  }
  return (
    <label className="ml-auto">
      <span className="sr-only">New template</span>
      <select className="field" value="" onChange={(event) => begin(event.target.value)}>
        <option value="">new template …</option>
        <option value="empty">empty</option>
        {EXAMPLE_TEMPLATES.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </select>
    </label>
  )
}
