import { toast } from 'sonner'

/** Does something at the server and says in one line when it is refused. */
export async function attempt<T>(work: Promise<T>, done?: string): Promise<T | undefined> {
  try {
    const answer = await work
    if (done) toast.success(done)
    return answer
  } catch (error) {
    toast.error((error as Error).message)
    return undefined
  }
}
