/** What every id looks like: it is also a topic level, so it stays inside MQTT 3.1.1's plain characters. */
export const ID_PATTERN = /^[a-z0-9-]{1,24}$/

/**
 * Makes an id from a spoken name ("Bench lights" gives "bench-lights"), unique among those taken.
 * A name with no usable letter gives the fallback.
 */
export function idFromName<Brand extends string>(name: string, taken: Iterable<string>, fallback = 'thing'): Brand {
  const plain = name
    .normalize('NFKD')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-+|-+$/g, '')
    .slice(0, 20)
    .replace(/-+$/, '')
  const base = plain || fallback
  const used = new Set(taken)
  if (!used.has(base)) return base as Brand
  for (let n = 2; ; n++) {
    const candidate = `${base}-${n}`
    if (!used.has(candidate)) return candidate as Brand
  }
}

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
