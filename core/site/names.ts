/** What every id looks like: it is also a topic level, so it stays inside MQTT 3.1.1's plain characters. */
export const ID_PATTERN = /^[a-z0-9-]{1,24}$/

/** A spoken name as an id could be, before it is made unique. */
const baseOf = (name: string, fallback: string): string =>
  name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 20)
    .replace(/-+$/, '') || fallback

/**
 * Makes ids from spoken names, one after the other, each unique among those taken and those made before. Takes as long
 * for the thousandth "lamp" as for the first.
 */
export function idMaker(taken: Iterable<string>): (name: string, fallback: string) => string {
  const used = new Set(taken)
  const next = new Map<string, number>()
  return (name, fallback) => {
    const base = baseOf(name, fallback)
    let candidate = base
    let n = next.get(base) ?? 2
    while (used.has(candidate)) candidate = `${base}-${n++}`
    next.set(base, n)
    used.add(candidate)
    return candidate
  }
}

/**
 * Makes an id from a spoken name ("Bench lights" gives "bench-lights"), unique among those taken.
 * A name with no usable letter gives the fallback.
 */
export const idFromName = <Brand extends string>(name: string, taken: Iterable<string>, fallback = 'thing'): Brand =>
  idMaker(taken)(name, fallback) as Brand

/** The same, for one more thing beside those that are there. */
export const freshId = <Brand extends string>(
  things: readonly { readonly id: string }[],
  name: string,
  fallback: string,
): Brand =>
  idFromName<Brand>(
    name,
    things.map((thing) => thing.id),
    fallback,
  )
