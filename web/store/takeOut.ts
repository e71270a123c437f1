import { toast } from 'sonner'
import { goneWith, type Site } from '../../core/site'
import { edit, undo } from './editing'
import type { Thunk } from './store'

const LONG_MS = 12_000

/** Takes a thing out, says what went along and which switches now work nothing, and offers it back there and then. */
export const takeOut =
  (name: string, change: (draft: Site) => void, label = `delete ${name}`, waysMeant = 0): Thunk =>
  (dispatch, getState) => {
    const before = getState().site.site
    dispatch(edit(label, change))
    const after = getState().site.site
    if (!before || !after || before === after) return
    const { along, idle } = goneWith(before, after, name, waysMeant)
    const says = [
      `${name} deleted${along ? `, with ${along}` : ''}.`,
      ...(idle.length ? [`${idle.join(', ')} now ${idle.length === 1 ? 'works' : 'work'} nothing.`] : []),
    ]
    const onClick = () => {
      if (getState().site.undo === label) void dispatch(undo())
      else toast('Something changed since: undo step by step, with u.')
    }
    toast(says.join(' '), { id: 'taken-out', duration: LONG_MS, action: { label: 'Undo', onClick } })
  }
