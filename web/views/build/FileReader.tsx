import { cpp } from '@codemirror/lang-cpp'
import { defaultHighlightStyle, HighlightStyle, syntaxHighlighting } from '@codemirror/language'
import { EditorState } from '@codemirror/state'
import { EditorView, lineNumbers } from '@codemirror/view'
import { tags } from '@lezer/highlight'
import { useEffect, useRef } from 'react'
import { codeLooks } from '../../parts/codeLooks'

const quiet = HighlightStyle.define([
  { tag: tags.comment, color: 'var(--soft)' },
  { tag: [tags.string, tags.number, tags.bool], color: 'var(--brass)' },
  { tag: [tags.keyword, tags.processingInstruction, tags.modifier], fontWeight: '600' },
])

/** A file of a build, to be read; long lines wrap. */
export function FileReader({ name, text }: { name: string; text: string }) {
  const place = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const code = /\.(h|cpp|json)$/.test(name)
    const view = new EditorView({
      parent: place.current!,
      state: EditorState.create({
        doc: text,
        extensions: [
          EditorState.readOnly.of(true),
          lineNumbers(),
          codeLooks,
          EditorView.contentAttributes.of({ 'aria-label': name, tabindex: '0' }),
          EditorView.lineWrapping,
          syntaxHighlighting(quiet),
          ...(code ? [cpp(), syntaxHighlighting(defaultHighlightStyle, { fallback: true })] : []),
        ],
      }),
    })
    return () => view.destroy()
  }, [name, text])
  return <div ref={place} className="max-h-[36rem] min-h-64 min-w-0 overflow-hidden" />
}
