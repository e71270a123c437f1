import type { Operation } from './edits'

/**
 * Two tabs have changed one document: what one of them did, as it would have to be done after the other's. Known as
 * operational transformation: for each pair of operations a', b' with a then b' = b then a'.
 */

type Simple = Extract<Operation, { op: 'add' | 'remove' | 'replace' }>

const partsOf = (path: string): string[] => path.split('/').slice(1)
const isPlace = (part: string): boolean => /^\d+$/.test(part)
const isSimple = (operation: Operation): operation is Simple => ['add', 'remove', 'replace'].includes(operation.op)

/** Does it move what stands behind it in a list? */
const place = ({ op, path }: Simple): { list: string[]; at: number } | null => {
  const parts = partsOf(path)
  const last = parts.at(-1) ?? ''
  return op !== 'replace' && isPlace(last) ? { list: parts.slice(0, -1), at: Number(last) } : null
}

const begins = (path: readonly string[], start: readonly string[]): boolean =>
  start.length <= path.length && start.every((part, i) => path[i] === part)

/** What an operation is about: where a thing's id is another, it is another thing, and all of it counts as changed. */
const subject = (parts: string[]): string[] => (parts.at(-1) === 'id' ? parts.slice(0, -1) : parts)

/** One operation after another, or null where both are about the same. `first`: of two added at one place it stays. */
function after(a: Simple, b: Simple, first: boolean): Simple | null {
  const [ours, theirs] = [partsOf(a.path), partsOf(b.path)]
  const moved = place(b)
  if (moved && begins(ours, moved.list) && ours.length > moved.list.length) {
    const key = ours[moved.list.length]!
    // "-" is behind the last, wherever that is
    if (!isPlace(key)) return key === '-' ? a : null
    const at = Number(key)
    const whole = place(a) !== null && ours.length === moved.list.length + 1
    if (b.op === 'remove' && at === moved.at) return whole && a.op === 'add' ? a : null
    const behind =
      b.op === 'remove' ? at > moved.at : at > moved.at || (at === moved.at && !(whole && a.op === 'add' && first))
    const shifted = [...ours]
    if (behind) shifted[moved.list.length] = String(at + (b.op === 'remove' ? -1 : 1))
    return { ...a, path: `/${shifted.join('/')}` }
  }
  // what we move stands behind or beside theirs, which is told so in its turn
  if (place(a) && begins(theirs, place(a)!.list) && theirs.length > place(a)!.list.length) {
    const at = Number(theirs[place(a)!.list.length])
    return a.op === 'remove' && at === place(a)!.at ? null : a
  }
  const [us, them] = [subject(ours), subject(theirs)]
  return begins(us, them) || begins(them, us) ? null : a
}

/**
 * `ours`, as it is to be applied to a document on which `theirs` has been applied already; both began at the same
 * document. Null: they are about the same thing, and only a person can say which holds.
 */
export function rebased(ours: readonly Operation[], theirs: readonly Operation[]): Operation[] | null {
  if (!ours.every(isSimple) || !theirs.every(isSimple)) return null
  let rest: Simple[] = [...theirs]
  const done: Operation[] = []
  for (const operation of ours) {
    let mine: Simple = operation
    const next: Simple[] = []
    for (const other of rest) {
      const [a, b] = [after(mine, other, false), after(other, mine, true)]
      if (!a || !b) return null
      mine = a
      next.push(b)
    }
    done.push(mine)
    rest = next
  }
  return done
}
