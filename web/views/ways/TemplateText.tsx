import { autocompletion, closeBrackets, closeBracketsKeymap, completionKeymap } from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { liquid } from '@codemirror/lang-liquid'
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { lintGutter, setDiagnostics } from '@codemirror/lint'
import { EditorState, type Extension } from '@codemirror/state'
import { EditorView, keymap, lineNumbers } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { useEffect, useRef } from 'react'
import { codeLooks } from '../../parts/codeLooks'

/** What a template can use: each path with an example, `points[].vp` for a member of a list's rows. */
export type Usable = readonly { readonly path: string; readonly example: string }[]

interface Props {
  readonly text: string
  readonly usable: Usable
  readonly error: { readonly line: number | null; readonly message: string } | null
  readonly onText: (text: string) => void
  readonly onLeave: () => void
}

const marks = HighlightStyle.define([
  { tag: [tags.processingInstruction, tags.controlKeyword, tags.keyword], color: 'var(--brass)', fontWeight: '600' },
  { tag: [tags.variableName, tags.propertyName], color: 'var(--rest)' },
  { tag: [tags.string, tags.number], color: 'var(--warning)' },
  { tag: tags.comment, color: 'var(--soft)' },
])

/** The list whose rows a name stands for: `point` for points, `entity` for entities, `site` for itself. */
const rootOf = (roots: readonly string[], name: string | undefined): string | undefined =>
  roots.find((root) => [root, root.replace(/s$/, ''), root.replace(/ies$/, 'y')].includes(name ?? ''))

/** "points[].vp" is offered as `vp` after a point, and `points` by itself. */
function completions(usable: Usable) {
  const roots = [...new Set(usable.map(({ path }) => path.split(/[.[ ]/)[0]!))]
  const membersOf = (root: string | undefined) =>
    usable.filter(({ path }) => path.includes('.') && (root === undefined || path.split(/[.[]/)[0] === root))
  return {
    variables: roots.map((label) => ({ label, type: 'variable' })),
    properties: (path: readonly string[]) => {
      const rows = new Map(membersOf(rootOf(roots, path[0])).map((row) => [row.path.split('.').at(-1)!, row.example]))
      return [...rows].map(([label, detail]) => ({ label, detail: detail.slice(0, 40), type: 'property' }))
    },
  }
}

const setUp = (usable: Usable, listen: Extension): Extension => [
  lineNumbers(),
  lintGutter(),
  history(),
  closeBrackets(),
  autocompletion(),
  liquid(completions(usable)),
  syntaxHighlighting(marks),
  codeLooks,
  EditorView.lineWrapping,
  EditorView.contentAttributes.of({ 'aria-label': 'Template (Liquid)', spellcheck: 'false' }),
  // Tab leaves the field, as everywhere: a template is no place to be caught in
  keymap.of([...closeBracketsKeymap, ...completionKeymap, ...historyKeymap, ...defaultKeymap]),
  listen,
]

/** The text of a template: marked, completed by what a template can use, with its error in the line that has it. */
export function TemplateText({ text, usable, error, onText, onLeave }: Props) {
  const place = useRef<HTMLDivElement>(null)
  const view = useRef<EditorView | null>(null)
  const latest = useRef({ text, onText, onLeave })
  useEffect(() => {
    latest.current = { text, onText, onLeave }
  })
  useEffect(() => {
    const listen = [
      EditorView.updateListener.of(({ docChanged, state }) => {
        if (docChanged) latest.current.onText(state.doc.toString())
      }),
      EditorView.domEventHandlers({ blur: () => latest.current.onLeave() }),
    ]
    const made = new EditorView({
      parent: place.current!,
      state: EditorState.create({ doc: latest.current.text, extensions: setUp(usable, listen) }),
    })
    view.current = made
    return () => made.destroy()
  }, [usable])
  useEffect(() => {
    const made = view.current
    if (made) made.dispatch(setDiagnostics(made.state, error ? [diagnosticOf(made.state, error)] : []))
  }, [error, usable])
  return <div ref={place} className="h-96 overflow-hidden border border-bus" />
}

function diagnosticOf(state: EditorState, { line, message }: NonNullable<Props['error']>) {
  const at = state.doc.line(Math.max(1, Math.min(state.doc.lines, line ?? 1)))
  return { from: at.from, to: at.to, severity: 'error' as const, message }
}
