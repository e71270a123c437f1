/**
 * Binary decision diagrams: a function of parts, each failed or not, in one reduced ordered form, so that its
 * probability is exact however often a part is repeated (Bryant 1986; Rauzy 1993; from memory).
 */

/** A node by its number; 0 is never, 1 is always. */
export type Node = number
const NEVER: Node = 0
const ALWAYS: Node = 1

export class Diagrams {
  private readonly variables: number[] = [Infinity, Infinity]
  private readonly low: Node[] = [0, 0]
  private readonly high: Node[] = [0, 0]
  private readonly unique = new Map<string, Node>()
  private readonly both = new Map<string, Node>()
  private readonly either = new Map<string, Node>()
  private readonly opposite = new Map<Node, Node>()

  private node(variable: number, low: Node, high: Node): Node {
    if (low === high) return low
    const key = `${variable},${low},${high}`
    const known = this.unique.get(key)
    if (known !== undefined) return known
    const made = this.variables.push(variable) - 1
    this.low.push(low)
    this.high.push(high)
    this.unique.set(key, made)
    return made
  }

  /** The function that is true where a variable is. Variables are numbered in the order in which they are asked. */
  variable(index: number): Node {
    return this.node(index, NEVER, ALWAYS)
  }

  and(a: Node, b: Node): Node {
    if (a === NEVER || b === NEVER) return NEVER
    if (a === ALWAYS) return b
    if (b === ALWAYS || a === b) return a
    return this.joined(this.both, a, b, (x, y) => this.and(x, y))
  }

  or(a: Node, b: Node): Node {
    if (a === ALWAYS || b === ALWAYS) return ALWAYS
    if (a === NEVER) return b
    if (b === NEVER || a === b) return a
    return this.joined(this.either, a, b, (x, y) => this.or(x, y))
  }

  /** The function that is true where another is not. */
  not(a: Node): Node {
    if (a === NEVER) return ALWAYS
    if (a === ALWAYS) return NEVER
    const found = this.opposite.get(a)
    if (found !== undefined) return found
    const made = this.node(this.variables[a]!, this.not(this.low[a]!), this.not(this.high[a]!))
    this.opposite.set(a, made)
    this.opposite.set(made, a)
    return made
  }

  private joined(known: Map<string, Node>, a: Node, b: Node, join: (x: Node, y: Node) => Node): Node {
    const key = a < b ? `${a},${b}` : `${b},${a}`
    const found = known.get(key)
    if (found !== undefined) return found
    const top = Math.min(this.variables[a]!, this.variables[b]!)
    const side = (of: Node, high: boolean): Node =>
      this.variables[of] === top ? (high ? this.high[of]! : this.low[of]!) : of
    const made = this.node(top, join(side(a, false), side(b, false)), join(side(a, true), side(b, true)))
    known.set(key, made)
    return made
  }

  /** The chance that it is true, each variable being true by itself with its own chance. */
  probability(of: Node, chances: readonly number[]): number {
    const known = new Map<Node, number>([
      [NEVER, 0],
      [ALWAYS, 1],
    ])
    const chance = (node: Node): number => {
      const found = known.get(node)
      if (found !== undefined) return found
      const p = chances[this.variables[node]!]!
      const made = p * chance(this.high[node]!) + (1 - p) * chance(this.low[node]!)
      known.set(node, made)
      return made
    }
    return chance(of)
  }
}
