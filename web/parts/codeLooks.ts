import { EditorView } from '@codemirror/view'

/** How text of code stands on the page, read or written; both themes, by the page's own colours. */
export const codeLooks = EditorView.theme({
  '&': { backgroundColor: 'var(--field)', color: 'var(--ink)', fontSize: '12.5px', height: '100%' },
  '&.cm-focused': { outline: '2px solid var(--ink)' },
  '.cm-content, .cm-gutters': { fontFamily: "'Atkinson Hyperlegible Mono Variable', monospace", lineHeight: '1.5' },
  '.cm-content': { caretColor: 'var(--ink)' },
  '.cm-cursor': { borderLeftColor: 'var(--ink)' },
  '.cm-gutters': { backgroundColor: 'var(--field)', color: 'var(--soft)', border: 'none' },
  '.cm-scroller': { overflow: 'auto' },
  // an error is a square outline here as everywhere
  '.cm-lintRange-error': { backgroundImage: 'none', borderBottom: '2px dashed var(--error)' },
  '.cm-lint-marker-error': {
    content: '""',
    width: '0.7em',
    height: '0.7em',
    marginTop: '0.35em',
    border: '2px solid var(--error)',
  },
  '.cm-tooltip': { backgroundColor: 'var(--panel)', color: 'var(--ink)', border: '1px solid var(--ink)' },
  '.cm-tooltip-autocomplete ul li[aria-selected]': { backgroundColor: 'var(--ink)', color: 'var(--wall)' },
  '.cm-completionDetail': { opacity: '0.8', fontStyle: 'normal' },
})
