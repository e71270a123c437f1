import { Refused } from './api'
import { siteActions } from './siteSlice'
import type { Dispatch } from './store'

/** A server that does not answer, or cannot keep anything now, is asked again: what a person made waits for it. */

const FIRST_MS = 500
const LAST_MS = 5_000

/** No line, or a server (or what stands before it) that says that it cannot now (RFC 9110, 15.6.3 to 15.6.5). */
const isAway = (error: unknown): boolean =>
  error instanceof Refused && (error.status === 0 || (error.status >= 502 && error.status <= 504))

let wake: () => void = () => undefined
/** The line is there again: whoever waits asks at once. */
export const askNow = (): void => wake()

const pause = (ms: number): Promise<void> =>
  new Promise((resolve) => {
    const timer = setTimeout(resolve, ms)
    wake = () => {
      clearTimeout(timer)
      resolve()
    }
  })

/** Asks until there is an answer, and says on screen meanwhile that there is none. Rejects with what was refused. */
export async function untilAnswered<T>(ask: (again: boolean) => Promise<T>, dispatch: Dispatch): Promise<T> {
  for (let wait = FIRST_MS, again = false; ; wait = Math.min(2 * wait, LAST_MS), again = true) {
    try {
      const answer = await ask(again)
      dispatch(siteActions.answered())
      return answer
    } catch (error) {
      if (!isAway(error)) {
        dispatch(siteActions.answered())
        throw error
      }
      dispatch(siteActions.away((error as Refused).status === 0 ? null : (error as Refused).message))
      await pause(wait)
    }
  }
}
