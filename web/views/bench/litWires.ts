import type { Circuit } from '../../../core/wiring'

/** What is picked on the wiring: a part, or one wire; null: nothing. */
export type Picked =
  { readonly kind: 'part'; readonly ref: string } | { readonly kind: 'wire'; readonly net: string } | null

/** Nets and parts that a pick lights. */
export function litBy(
  circuit: Circuit,
  picked: Picked,
): { readonly nets: readonly string[]; readonly refs: readonly string[] } {
  if (picked === null) return { nets: [], refs: [] }
  const nets = circuit.nets.filter((net) =>
    picked.kind === 'wire' ? net.name === picked.net : net.nodes.some(({ ref }) => ref === picked.ref),
  )
  const refs = picked.kind === 'part' ? [picked.ref] : nets.flatMap(({ nodes }) => nodes.map(({ ref }) => ref))
  return { nets: nets.map(({ name }) => name), refs: [...new Set(refs)] }
}

const quoted = (text: string): string => `"${text.replace(/["\\]/g, '\\$&')}"`

/** Rules that light those and dim the rest, for the drawing inside `.lit-drawing`. */
export function litStyle(circuit: Circuit, picked: Picked): string {
  if (picked === null) return ''
  const { nets, refs } = litBy(circuit, picked)
  const lit = [...nets.map((net) => `[data-net=${quoted(net)}]`), ...refs.map((ref) => `[data-ref=${quoted(ref)}]`)]
  if (lit.length === 0) return ''
  const within = (selectors: readonly string[]) => selectors.map((one) => `.lit-drawing ${one}`).join(',')
  return (
    `.lit-drawing :is([data-net],[data-ref]){opacity:.22}${within(lit)}{opacity:1}` +
    `${within(nets.map((net) => `path[data-net=${quoted(net)}]`)) || '.lit-drawing none'}{stroke-width:3.2}` +
    `${within(refs.map((ref) => `[data-ref=${quoted(ref)}]>rect`)) || '.lit-drawing none'}{stroke-width:3}`
  )
}
