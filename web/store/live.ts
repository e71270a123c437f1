import { LIVE_PATH, type LiveMessage } from '../../core/api'
import { askNow } from './away'
import { catchUp, heardEdit } from './editing'
import { tellNews } from './liveNews'
import { loadCredentials, loadLogbook } from './logbook'
import { siteActions } from './siteSlice'
import type { Dispatch } from './store'

const AGAIN_MS = 2_000

/** What a message of the server makes a tab do. */
function hear(site: string, message: LiveMessage, dispatch: Dispatch): void {
  tellNews(message)
  if (message.kind === 'edit') void dispatch(heardEdit(site, message))
  if (message.kind === 'gone') dispatch(siteActions.failed('It was deleted, here or in another tab.'))
  if (message.kind === 'logbook') void dispatch(loadLogbook(site))
  if (message.kind === 'credentials' || message.kind === 'logbook') void dispatch(loadCredentials(site))
}

/**
 * Listens to the server for one site, and connects again when the line breaks; what was said meanwhile is then asked
 * for.
 * Returns the way to stop.
 */
export function followLive(site: string, dispatch: Dispatch): () => void {
  let socket: WebSocket | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let stopped = false
  let wasUp = false
  const connect = () => {
    const scheme = location.protocol === 'https:' ? 'wss' : 'ws'
    socket = new WebSocket(`${scheme}://${location.host}${LIVE_PATH}?site=${encodeURIComponent(site)}`)
    socket.onopen = () => {
      askNow()
      if (wasUp) void dispatch(catchUp(site))
      wasUp = true
    }
    socket.onmessage = (event: MessageEvent<string>) => hear(site, JSON.parse(event.data) as LiveMessage, dispatch)
    socket.onclose = () => {
      if (!stopped) timer = setTimeout(connect, AGAIN_MS)
    }
  }
  connect()
  return () => {
    stopped = true
    clearTimeout(timer)
    socket?.close()
  }
}
