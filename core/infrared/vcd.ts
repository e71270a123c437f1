import { CaptureRefused, durationsFromEdges, MOST_DURATIONS, type Capture, type Edge } from './capture'

/**
 * IEEE 1364-2005, 18.2: value change dump, four-state. Scalars are read; vectors, reals and strings of other variables
 * pass by.
 */

const UNIT_US: Record<string, number> = { s: 1e6, ms: 1e3, us: 1, ns: 1e-3, ps: 1e-6, fs: 1e-9 }

interface Variable {
  readonly code: string
  readonly name: string
}

/** Scalar variables of a dump, in order. */
export function vcdVariables(text: string): Variable[] {
  return [...text.matchAll(/\$var\s+\w+\s+1\s+(\S+)\s+([^\s$]+)[^$]*\$end/g)].map(([, code, name]) => ({
    code: code!,
    name: name!,
  }))
}

/**
 * Edges of one scalar variable: the one named, or the first that changes. `x` and `z` count as low. `isEnded`: the
 * dump's last time stamp ends the last level, as durations need it; else only what changes is an edge.
 */
export function vcdEdges(text: string, name?: string, isEnded = true): Edge[] {
  const scale = /\$timescale\s+(1|10|100)\s*(s|ms|us|ns|ps|fs)\s+\$end/.exec(text)
  if (!scale) throw new CaptureRefused('the dump has no $timescale of 1, 10 or 100 s, ms, us, ns, ps or fs')
  const microseconds = Number(scale[1]) * UNIT_US[scale[2]!]!
  const variables = vcdVariables(text)
  const wanted = name === undefined ? undefined : variables.find((variable) => variable.name === name)
  if (name !== undefined && !wanted)
    throw new CaptureRefused(
      `the dump has no one-bit variable "${name}"; it has ${variables.map((v) => v.name).join(', ') || 'none'}`,
    )
  const start = text.indexOf('$enddefinitions')
  if (start < 0) throw new CaptureRefused('the dump has no $enddefinitions')
  const edges = new Map<string, Edge[]>()
  let now = 0
  for (const word of text
    .slice(start)
    .replace(/^\$enddefinitions\s+\$end/, '')
    .split(/\s+/)) {
    if (word.startsWith('#')) {
      const time = Number(word.slice(1))
      if (!Number.isFinite(time)) throw new CaptureRefused(`"${word.slice(0, 20)}" is no time`)
      now = time * microseconds
    } else if (/^[01xXzZ]./.test(word)) {
      const code = word.slice(1)
      const list = edges.get(code) ?? []
      list.push({ at: now, level: word[0] === '1' ? 1 : 0 })
      if (list.length > MOST_DURATIONS) throw new CaptureRefused(`more than ${MOST_DURATIONS} changes`)
      edges.set(code, list)
    }
  }
  for (const list of edges.values())
    if (isEnded && list.at(-1)!.at < now) list.push({ at: now, level: list.at(-1)!.level === 1 ? 0 : 1 })
  const code = wanted?.code ?? variables.find((variable) => (edges.get(variable.code)?.length ?? 0) > 2)?.code
  return (code !== undefined && edges.get(code)) || []
}

export const readVcd = (text: string, name?: string): Capture => ({
  durations: durationsFromEdges(vcdEdges(text, name)),
  unit: 'µs',
})

/**
 * A dump of one wire that is high in a mark, with a quiet of 20 ms at both ends. No date: the same capture gives the
 * same bytes.
 */
export function writeVcd(durations: readonly number[], name = 'ir'): string {
  const lines = [
    '$timescale 1 us $end',
    '$scope module capture $end',
    `$var wire 1 ! ${name} $end`,
    '$upscope $end',
    '$enddefinitions $end',
    '#0',
    '$dumpvars',
    '0!',
    '$end',
  ]
  let at = 20_000
  durations.forEach((us, i) => {
    lines.push(`#${at}`, i % 2 === 0 ? '1!' : '0!')
    at += us
  })
  lines.push(`#${at}`, '0!', `#${at + 20_000}`)
  return `${lines.join('\n')}\n`
}
