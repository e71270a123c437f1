import { cleanSite } from '../../core/findings/cleanSite.testkit'
import { applyOperations, patchBetween, type Operation, type Site } from '../../core/site'

interface Kept {
  label: string
  patch: Operation[]
  before: Site
}

/** A server that keeps one site as the real one does: against a revision, in order, with a history to walk. */
export class Keeper {
  site: Site
  revision = 7
  done: Kept[] = []
  undone: Kept[] = []
  /** what came, in order */
  readonly heard: string[] = []
  /** answers the next edits with these refusals */
  refusals: { status: number; message: string }[] = []
  unreachable = false
  /** the last edit of another tab, where it is the last of all */
  elsewhere: string | null = null
  /** so many of the next edits are kept, and their answers lost on the way */
  loseAnswers = 0
  /** what is asked for beside the document, and is not of this keeper's making: by the end of its address */
  readonly answers: Record<string, () => Response> = {}
  /** answers wait for this */
  gate: Promise<void> = Promise.resolve()

  constructor(site = cleanSite()) {
    this.site = site
  }

  private state = () => ({
    revision: this.revision,
    undo: this.done.at(-1)?.label ?? null,
    redo: this.undone.at(-1)?.label ?? null,
    elsewhere: this.elsewhere,
  })

  readonly fetch = async (
    path: string,
    { method, headers, body }: { method: string; headers: Record<string, string>; body?: string },
  ): Promise<Response> => {
    await this.gate
    if (this.unreachable) throw new TypeError('no line')
    const answer = (data: unknown, status = 200) => Response.json(data, { status })
    const own = Object.keys(this.answers).find((end) => path.endsWith(end))
    if (own) return this.answers[own]!()
    if (path.endsWith('/builds')) return answer({ builds: [], boards: [] })
    if (path.endsWith('/log')) return answer({ entries: [], runs: [], trials: [], wires: [] })
    if (path.endsWith('/credentials')) return answer({ credentials: [] })
    if (path.endsWith('/boards')) return answer({ boards: [], strangers: [] })
    if (path.endsWith('/upkeep')) return answer({ items: [] })
    if (path.endsWith('/hand')) return answer({ hand: null })
    if (path.endsWith('/due-tests')) return answer({ again: [], of: 0 })
    if (method === 'GET') return answer({ site: this.site, ...this.state() })
    if (headers['If-Match'] !== `"${this.revision}"`)
      return answer({ error: { code: 'revision', message: `the site is at ${this.revision}` } }, 412)
    const walk = /\/(undo|redo)$/.exec(path)?.[1]
    if (walk) {
      const [from, to] = walk === 'undo' ? [this.done, this.undone] : [this.undone, this.done]
      const step = from.pop()!
      to.push(step)
      const patch = walk === 'undo' ? patchBetween(this.site, step.before) : step.patch
      this.site = applyOperations(this.site, patch)
      this.revision++
      this.heard.push(`${walk} ${step.label}`)
      return answer({ ...this.state(), label: step.label, patch })
    }
    const refusal = this.refusals.shift()
    if (refusal) return answer({ error: { code: 'refused', message: refusal.message } }, refusal.status)
    const { label, patch } = JSON.parse(body!) as { label: string; patch: Operation[] }
    this.done.push({ label, patch, before: this.site })
    this.undone = []
    this.site = applyOperations(this.site, patch)
    this.revision++
    this.heard.push(`${label} at ${headers['If-Match']}`)
    if (this.loseAnswers-- > 0) throw new TypeError('the line broke')
    return answer(this.state())
  }
}
