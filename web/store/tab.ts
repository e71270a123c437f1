const KEY = 'vestibule-tab'

const made = (): string => Array.from(crypto.getRandomValues(new Uint8Array(9)), (byte) => byte.toString(36)).join('')

/** This tab's own name: undo is a tab's own. It lasts over a reload, and no other tab has it. */
function tabName(): string {
  if (typeof sessionStorage === 'undefined') return made()
  const kept = sessionStorage.getItem(KEY) ?? made()
  sessionStorage.setItem(KEY, kept)
  return kept
}

export const TAB = tabName()
