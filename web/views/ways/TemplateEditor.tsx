import { lazy, Suspense, useDeferredValue, useMemo, useState } from 'react'
import { mappingReference, renderTemplate, type Rendered } from '../../../core/outputs'
import type { Template } from '../../../core/site'
import { comes } from '../../parts/comes'
import { Fields, fieldsOf, needsName } from '../../parts/form'
import { save } from '../../parts/save'
import { edit } from '../../store/editing'
import { useAppDispatch, useAppSelector } from '../../store/store'
import { useChange, withId, type Change } from '../../store/useChange'

// The editor weighs more than the side: it comes when a template is open.
const TemplateText = lazy(() => comes(async () => ({ default: (await import('./TemplateText')).TemplateText })))

const field = fieldsOf<Template>()
const FIELDS = [
  field.text('Name', 'name', { check: needsName }),
  field.text('File', 'fileName', {
    what: 'file name',
    mono: true,
    check: (value) => (/^[A-Za-z0-9._-]{1,60}$/.test(value.trim()) ? null : 'letters, digits, dot, dash'),
  }),
]
const LONGEST_SHOWN = 40_000

export function TemplateEditor({ template }: { template: Template }) {
  const site = useAppSelector((state) => state.site.site)!
  const [text, setText] = useState(template.text)
  const shown = useDeferredValue(text)
  const rendered = useMemo(() => renderTemplate(site, shown), [site, shown])
  const error = useMemo(() => (rendered.ok ? null : rendered), [rendered])
  const usable = useUsable()
  const change = useChange(template.name, (draft) => withId(draft.templates, template.id))
  const keep = () => {
    if (text === template.text) return
    change('text', (target) => {
      target.text = text
    })
  }
  return (
    <div className="mt-3">
      <EditorHead template={template} rendered={rendered} change={change} />
      <div className="grid @3xl:grid-cols-2 gap-4">
        <div>
          <span className="field-label">Template (Liquid)</span>
          <Suspense fallback={<div className="h-96 border border-bus" />}>
            <TemplateText text={template.text} usable={usable} error={error} onText={setText} onLeave={keep} />
          </Suspense>
        </div>
        <Result rendered={rendered} />
      </div>
      <Reference />
    </div>
  )
}

interface HeadProps {
  readonly template: Template
  readonly rendered: Rendered
  readonly change: Change<Template>
}

function EditorHead({ template, rendered, change }: HeadProps) {
  const dispatch = useAppDispatch()
  const out = edit(`delete template ${template.name}`, (draft) => {
    draft.templates = draft.templates.filter((one) => one.id !== template.id)
  })
  return (
    <div className="mb-2 grid @3xl:grid-cols-[14rem_14rem_1fr] items-end gap-3">
      <Fields rows={FIELDS} of={template} change={change} />
      <div className="flex justify-end gap-1.5">
        <button
          type="button"
          className="press"
          disabled={!rendered.ok}
          onClick={() => rendered.ok && save(template.fileName, rendered.text, 'text/plain')}
        >
          Save as {template.fileName}
        </button>
        <button type="button" className="press" onClick={() => dispatch(out)}>
          Delete template
        </button>
      </div>
    </div>
  )
}

function Result({ rendered }: { rendered: Rendered }) {
  return (
    <div>
      <span className="field-label">Preview</span>
      {rendered.ok ? (
        <pre
          tabIndex={0}
          aria-label="Preview"
          className={
            'h-96 overflow-auto border border-hair bg-panel p-2 font-mono text-note leading-5 whitespace-pre-wrap'
          }
        >
          {rendered.text.slice(0, LONGEST_SHOWN)}
        </pre>
      ) : (
        <p role="alert" className="border-l-4 border-error bg-panel p-3 text-error">
          {rendered.line === null ? '' : `Line ${rendered.line}: `}
          {rendered.message}
        </p>
      )}
    </div>
  )
}

/** Names a template can use, as it is when the editor is opened: an edit elsewhere does not take the text away. */
function useUsable() {
  const site = useAppSelector((state) => state.site.site)!
  const [usable] = useState(() => mappingReference(site))
  return usable
}

function Reference() {
  const site = useAppSelector((state) => state.site.site)!
  const reference = useMemo(() => mappingReference(site), [site])
  return (
    <details className="mt-3 text-note">
      <summary className="cursor-pointer font-semibold">Names a template can use</summary>
      <ul className="mt-1 @xl:columns-2 @4xl:columns-3 gap-4">
        {reference.map((one) => (
          <li key={one.path} className="truncate">
            <span className="font-mono">{one.path}</span> <span className="text-soft">{one.example}</span>
          </li>
        ))}
      </ul>
    </details>
  )
}
