import {
  autocompletion,
  closeBrackets,
  closeBracketsKeymap,
  completionKeymap,
  type CompletionContext,
  type CompletionResult,
} from '@codemirror/autocomplete'
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands'
import { yaml } from '@codemirror/lang-yaml'
import { HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { lintGutter, setDiagnostics } from '@codemirror/lint'
import { EditorState, type Extension } from '@codemirror/state'
import { EditorView, keymap, lineNumbers } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { useEffect, useRef } from 'react'
import type { Site } from '../../../../core/site'
import { codeLooks } from '../../../parts/codeLooks'
import { wordsFor } from './completions'

interface Props {
  readonly site: Site
  readonly text: string
  /** by line, 1 first */
  readonly marks: readonly { readonly line: number; readonly message: string }[]
  readonly onText: (text: string) => void
}

const looks = HighlightStyle.define([
  { tag: [tags.propertyName, tags.definition(tags.propertyName)], color: 'var(--rest)' },
  { tag: [tags.string, tags.number, tags.bool, tags.content], color: 'var(--ink)' },
  { tag: tags.comment, color: 'var(--soft)' },
])

const completes =
  (site: () => Site) =>
  (context: CompletionContext): CompletionResult | null => {
    const before = context.state.doc
      .lineAt(context.pos)
      .text.slice(0, context.pos - context.state.doc.lineAt(context.pos).from)
    const found = wordsFor(site(), before)
    if (!found || (!context.explicit && found.typed === '' && !/[:{[,] ?$/.test(before))) return null
    return {
      from: context.pos - found.typed.length,
      options: found.words.map(({ label, detail }) => ({ label, detail })),
    }
  }

const setUp = (site: () => Site, listen: Extension): Extension => [
  lineNumbers(),
  lintGutter(),
  history(),
  closeBrackets(),
  autocompletion({ override: [completes(site)] }),
  yaml(),
  syntaxHighlighting(looks),
  codeLooks,
  EditorView.lineWrapping,
  EditorView.contentAttributes.of({ 'aria-label': 'Scenario (YAML)', spellcheck: 'false', tabindex: '0' }),
  // Tab leaves the field, as everywhere
  keymap.of([...closeBracketsKeymap, ...completionKeymap, ...historyKeymap, ...defaultKeymap]),
  listen,
]

/** The text of a scenario: completed by what the site has, with what is wrong in the line that has it. */
export function ScenarioText({ site, text, marks, onText }: Props) {
  const place = useRef<HTMLDivElement>(null)
  const view = useRef<EditorView | null>(null)
  const latest = useRef({ site, text, onText })
  useEffect(() => {
    latest.current = { site, text, onText }
  })
  useEffect(() => {
    const listen = EditorView.updateListener.of(({ docChanged, state }) => {
      if (docChanged) latest.current.onText(state.doc.toString())
    })
    const made = new EditorView({
      parent: place.current!,
      state: EditorState.create({ doc: latest.current.text, extensions: setUp(() => latest.current.site, listen) }),
    })
    view.current = made
    return () => made.destroy()
  }, [])
  useEffect(() => {
    const made = view.current
    if (made && made.state.doc.toString() !== text)
      made.dispatch({ changes: { from: 0, to: made.state.doc.length, insert: text } })
  }, [text])
  useEffect(() => {
    if (view.current) mark(view.current, marks)
  }, [marks, text])
  return <div ref={place} className="h-96 overflow-hidden border border-bus @3xl:h-[30rem]" />
}

function mark(view: EditorView, marks: Props['marks']): void {
  const at = (line: number) => view.state.doc.line(Math.max(1, Math.min(view.state.doc.lines, line)))
  const found = marks.map(({ line, message }) => {
    const { from, to } = at(line)
    return { from, to, severity: 'error' as const, message }
  })
  view.dispatch(setDiagnostics(view.state, found))
}
