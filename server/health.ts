import type { AnswerOf } from '../core/api'
import type { Context } from './context'
import { storeTrouble } from './refusal'

/** Whether the store writes: it is asked to, since a disk that is full can still be read. */
function storeSays({ db }: Context): string {
  try {
    db.probe()
    return 'writes'
  } catch (error) {
    return storeTrouble(error)?.message ?? 'not saved: the store fails'
  }
}

/** Whether everything that the server promises is there now; `ok` is false as soon as one thing is not. */
export function healthOf(context: Context): AnswerOf<'health'> {
  const house = context.house.health()
  const store = storeSays(context)
  const ok = store === 'writes' && house.standIns.every(({ connected }) => connected)
  return { ok, store, sites: context.db.sites.list().length, ...house, standIns: [...house.standIns] }
}
