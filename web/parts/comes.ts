import { toast } from 'sonner'

const AGAIN_MS = 1_000
const NOTE = 'code-waits'

/**
 * Code that comes when it is looked at. While the server is gone it is asked for again and again, and what stands on
 * the page stays: a view that cannot come yet must not take the edits that wait here with it.
 */
export async function comes<T>(load: () => Promise<T>): Promise<T> {
  for (let waited = false; ; waited = true) {
    try {
      const code = await load()
      if (waited) toast.dismiss(NOTE)
      return code
    } catch {
      toast.error('Waiting for the server. Nothing on this page is lost.', { id: NOTE, duration: Infinity })
      await new Promise((resolve) => setTimeout(resolve, AGAIN_MS))
    }
  }
}
