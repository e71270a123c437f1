import { levelOfContacts, partsOf, wayNeeds, type FaultKind, type PartGraph, type PartId } from '../parts'
import { kindOf, topLevel, type Channel, type Site, type Way } from '../site'
import { failureOf, failuresOf, type Failure } from './failure'
import { all, any, NEVER, not, type Formula } from './formula'

/**
 * When parts of a house work, contacts close and loads are on, over what has failed: written from the same graph of
 * parts and the same kinds of channel as the simulated house (core/trial/contacts.ts), and held against it by play.
 */
export class HouseFormulas {
  readonly graph: PartGraph
  private readonly literals: ReadonlyMap<Failure, Formula>
  private readonly working = new Map<PartId, Formula>()
  private readonly known = new Map<string, Formula>()

  constructor(readonly site: Site) {
    this.graph = partsOf(site)
    this.literals = new Map(failuresOf(this.graph).map((failure) => [failure, { kind: 'failed', failure }]))
  }

  /** It has failed in this way; never, if it cannot. */
  failed(part: PartId, how: FaultKind = 'gone'): Formula {
    return this.literals.get(failureOf(part, how)) ?? NEVER
  }

  /** It and all that it needs work. */
  works(part: PartId): Formula {
    const before = this.working.get(part)
    if (before) return before
    const made = all([not(this.failed(part)), ...(this.graph.get(part)?.needs ?? []).map((need) => this.works(need))])
    this.working.set(part, made)
    return made
  }

  /** What is asked by a way reaches the channel's board, and the board works. */
  delivers(way: Way, controller: string): Formula {
    return this.once(`way ${way.id}`, () =>
      all(
        [...wayNeeds(this.site, way), `board:${controller}` as const].map((part) =>
          all([this.works(part), not(this.failed(part, 'stuck'))]),
        ),
      ),
    )
  }

  /** The same question twice has the same formula, by reference. */
  private once(key: string, make: () => Formula): Formula {
    const before = this.known.get(key)
    if (before) return before
    const made = make()
    this.known.set(key, made)
    return made
  }

  /** A contact is closed, its channel being told to close it or not. */
  closed(channel: Channel, contact: number, isTold: boolean): Formula {
    const key = `${channel.id}.${contact}`
    return this.once(`closed ${key} ${isTold}`, () => {
      // a shorted opto-coupler pulls in without the board, as long as the module is fed
      const shorted = all([
        this.failed(`opto:${key}`, 'stuck'),
        not(this.failed(`coil:${key}`)),
        this.works(`module:${channel.controller}`),
      ])
      const pulled = any([shorted, isTold ? this.works(`coil:${key}`) : NEVER])
      return all([not(this.failed(`contact:${key}`)), any([this.failed(`contact:${key}`, 'stuck'), pulled])])
    })
  }

  /** The load is on at some level, its channel being told a level. */
  lit(channel: Channel, told: number): Formula {
    return this.once(`lit ${channel.id} ${told}`, () => {
      const patterns = kindOf(channel).patterns(channel)
      const levels = patterns.slice(1).filter((pattern) => pattern.length > 0)
      return all([
        this.works(`load:${channel.id}`),
        any(levels.map((pattern) => all(pattern.map((k) => this.closed(channel, k, patterns[told]!.includes(k)))))),
      ])
    })
  }

  /** The load is at another level than its channel is told. */
  differs(channel: Channel, told: number): Formula {
    const kind = kindOf(channel)
    const contacts = kind.outputs(channel).map((_, k) => k)
    const pattern = kind.patterns(channel)[told]!
    const states = Array.from({ length: 2 ** contacts.length }, (_, bits) => bits)
    const works = this.works(`load:${channel.id}`)
    const others = states
      .filter((bits) => levelOfContacts(channel, bits) !== told)
      .map((bits) =>
        all(
          contacts.map((k) => {
            const closed = this.closed(channel, k, pattern.includes(k))
            return bits & (1 << k) ? closed : not(closed)
          }),
        ),
      )
    return any([all([works, any(others)]), told > 0 ? not(works) : NEVER])
  }
}

/** Every level of a channel, rest first. */
export const levelsFrom0 = (channel: Channel): number[] => Array.from({ length: topLevel(channel) + 1 }, (_, i) => i)
