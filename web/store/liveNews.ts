import type { LiveMessage } from '../../core/api'

/** What the server says of things that are no part of the document: whoever shows them asks anew. */
type News = Extract<LiveMessage, { kind: 'rig' | 'hub' | 'standIn' }>

const listeners = new Set<(news: News) => void>()

export function tellNews(message: LiveMessage): void {
  if (message.kind !== 'rig' && message.kind !== 'hub' && message.kind !== 'standIn') return
  for (const listen of [...listeners]) listen(message)
}

/** Calls back for each; returns the way to stop. */
export function onNews(listen: (news: News) => void): () => void {
  listeners.add(listen)
  return () => listeners.delete(listen)
}
