import type { LiveMessage } from '../../core/api'

/** What the server says of things that change: whoever shows them asks anew. */
export type News = Exclude<LiveMessage, { kind: 'points' | 'gone' }>

const listeners = new Set<(news: News) => void>()

export function tellNews(message: LiveMessage): void {
  if (message.kind === 'points' || message.kind === 'gone') return
  for (const listen of [...listeners]) listen(message)
}

/** Calls back for each; returns the way to stop. */
export function onNews(listen: (news: News) => void): () => void {
  listeners.add(listen)
  return () => listeners.delete(listen)
}
