import { useDeferredValue, useMemo, useState } from 'react'
import { EXAMPLE_TEMPLATES, mappingReference, renderTemplate } from '../../../core/outputs'
import { idFromName, type Template, type TemplateId } from '../../../core/site'
import { TextField } from '../../parts/fields'
import { save } from '../../parts/save'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'

/** The maker's own text over the mapping, with what it gives beside it while it is typed. */
export function TemplatesTab() {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [picked, setPicked] = useState<string | null>(null)
  const template = site.templates.find((one) => one.id === picked) ?? site.templates[0]
  const add = (from: Template) => {
    const id = idFromName<string>(
      from.name,
      site.templates.map((one) => one.id),
      'template',
    ) as TemplateId
    dispatch(
      edit(`template ${from.name}`, (draft) => {
        draft.templates.push({ ...structuredClone(from), id })
      }),
    )
    setPicked(id)
  }
  return (
    <div>
      <div className="flex flex-wrap items-center gap-1.5">
        {site.templates.map((one) => (
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
        <label className="ml-auto">
          <span className="sr-only">Begin a template</span>
          <select
            className="field"
            value=""
            onChange={(event) => {
              const from = EXAMPLE_TEMPLATES.find((one) => one.id === event.target.value)
              if (from) add(from)
              else if (event.target.value === 'empty')
                add({
                  id: 'template' as TemplateId,
                  name: 'My template',
                  fileName: 'my-file.txt',
                  text:
                    '{% for channel in channels %}{{ channel.name }}: {{ channel.words | join: ", " ' +
                    '}}\n{% endfor %}',
                })
            }}
          >
            <option value="">begin a template …</option>
            <option value="empty">of my own</option>
            {EXAMPLE_TEMPLATES.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
      </div>
      {template ? (
        <Editor key={template.id} template={template} />
      ) : (
        <p className="mt-4 text-soft">
          No template yet. Begin with one of the examples: they turn this site into a points table, a hub list, or a
          wiring checklist.
        </p>
      )}
    </div>
  )
}

function Editor({ template }: { template: Template }) {
  const dispatch = useAppDispatch()
  const site = useAppSelector((state) => state.site.site)!
  const [text, setText] = useState(template.text)
  const shown = useDeferredValue(text)
  const rendered = useMemo(() => renderTemplate(site, shown), [site, shown])
  const reference = useMemo(() => mappingReference(site), [site])
  const change = (label: string, mutate: (target: Template) => void) =>
    dispatch(
      edit(`${template.name}: ${label}`, (draft) => mutate(draft.templates.find((one) => one.id === template.id)!)),
    )
  return (
    <div className="mt-3">
      <div className="mb-2 grid grid-cols-[14rem_14rem_1fr] items-end gap-3">
        <TextField
          label="Name"
          value={template.name}
          check={(value) => (value.trim() ? null : 'a name is needed')}
          onKeep={(name) =>
            change('name', (one) => {
              one.name = name
            })
          }
        />
        <TextField
          mono
          label="File"
          value={template.fileName}
          check={(value) => (/^[A-Za-z0-9._-]{1,60}$/.test(value.trim()) ? null : 'letters, digits, dot, dash')}
          onKeep={(fileName) =>
            change('file name', (one) => {
              one.fileName = fileName
            })
          }
        />
        <div className="flex justify-end gap-1.5">
          <button
            type="button"
            className="press"
            disabled={!rendered.ok}
            onClick={() => rendered.ok && save(template.fileName, rendered.text, 'text/plain')}
          >
            Save {template.fileName}
          </button>
          <button
            type="button"
            className="press-quiet"
            onClick={() =>
              dispatch(
                edit(`no template ${template.name}`, (draft) => {
                  draft.templates = draft.templates.filter((one) => one.id !== template.id)
                }),
              )
            }
          >
            take out
          </button>
        </div>
      </div>
      <div className="grid grid-cols-2 gap-4">
        <label className="block">
          <span className="field-label">Template (Liquid)</span>
          <textarea
            className="field h-96 resize-y font-mono text-note leading-5"
            spellCheck={false}
            maxLength={50_000}
            aria-invalid={!rendered.ok}
            value={text}
            onChange={(event) => setText(event.target.value)}
            onBlur={() =>
              text !== template.text &&
              change('text', (one) => {
                one.text = text
              })
            }
          />
        </label>
        <div>
          <span className="field-label">What it gives</span>
          {rendered.ok ? (
            <pre
              tabIndex={0}
              aria-label="What it gives"
              className="h-96 overflow-auto border border-hair bg-panel p-2 font-mono text-note leading-5 whitespace-pre-wrap"
            >
              {rendered.text.slice(0, 40_000)}
            </pre>
          ) : (
            <p role="alert" className="border-l-4 border-error bg-panel p-3 text-error">
              {rendered.line === null ? '' : `Line ${rendered.line}: `}
              {rendered.message}
            </p>
          )}
        </div>
      </div>
      <details className="mt-3 text-note">
        <summary className="cursor-pointer font-semibold">What a template can use</summary>
        <ul className="mt-1 columns-3 gap-4">
          {reference.map((one) => (
            <li key={one.path} className="truncate">
              <span className="font-mono">{one.path}</span> <span className="text-soft">{one.example}</span>
            </li>
          ))}
        </ul>
      </details>
    </div>
  )
}
