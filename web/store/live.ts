import { heardEdit, loadCredentials, loadLogbook } from './editing'
import type { Dispatch } from './store'

/** Listens to the server for one site, and connects again when the line breaks. Returns the way to stop. */
export function followLive(site: string, dispatch: Dispatch): () => void {
  let socket: WebSocket | null = null
  let timer: ReturnType<typeof setTimeout> | undefined
  let stopped = false
  const connect = () => {
    socket = new WebSocket(
      `${location.protocol === 'https:' ? 'wss' : 'ws'}://${location.host}/api/live?site=${encodeURIComponent(site)}`,
    )
    socket.onmessage = (event: MessageEvent<string>) => {
      const message = JSON.parse(event.data) as { kind: string; revision?: number }
      if (message.kind === 'edit' && message.revision !== undefined) void dispatch(heardEdit(site, message.revision))
      if (message.kind === 'logbook') void dispatch(loadLogbook(site))
      if (message.kind === 'credentials' || message.kind === 'logbook') void dispatch(loadCredentials(site))
    }
    socket.onclose = () => {
      if (!stopped) timer = setTimeout(connect, 2000)
    }
  }
  connect()
  return () => {
    stopped = true
    clearTimeout(timer)
    socket?.close()
  }
}
