import { compileController, NO_LEVEL, type ControllerImage, type ImageBinding, type ImageDeed } from '../image'
import type { Channel, Input, Site } from '../site'
import { all, ALWAYS, any, not, type Formula } from './formula'
import type { HouseFormulas } from './houseFormulas'

/**
 * A wire that shorts, or one that breaks under a closed contact, looks to a board like a hand: what it then tells a
 * channel is read out of the controller's tables.
 */

/** Codes of closed contacts at which inputs stand; not said: 0, all open. */
export type Stands = Readonly<Record<string, number>>

/** To which level failed switches and wires bring a channel, and when. */
export interface Moved {
  readonly when: Formula
  readonly level: number
}

/** An input's new code by its failures; where nothing changes there is none. */
function changesOf(formulas: HouseFormulas, input: Input, stands: number): { when: Formula; code: number }[] {
  const every = (1 << (input.kind === 'selector' ? input.bits : 1)) - 1
  const shorted = formulas.failed(`wire:${input.id}`, 'stuck')
  const open = any([formulas.failed(`wire:${input.id}`), all([not(shorted), formulas.failed(`switch:${input.id}`)])])
  return [
    { when: shorted, code: every },
    { when: open, code: 0 },
  ].filter(({ code }) => code !== stands)
}

/** What a channel is told by the deeds of an image, one after another. */
class Told {
  constructor(
    private readonly image: ControllerImage,
    private readonly index: number,
    public level: number,
  ) {}

  do(deed: ImageDeed, closed: boolean, level: number): void {
    const isMine = deed.on === 'channel' ? deed.index === this.index : this.isMember(deed)
    if (!isMine) return
    const table = this.image.channels[this.index]!
    const top = table.patterns.length - 1
    const action = deed.action === 'follow' ? (closed ? 'on' : 'off') : deed.action
    const on = this.level > 0 ? this.level : table.onLevel
    const next: Partial<Record<string, number>> = {
      ...{ on, toggle: this.level > 0 ? 0 : on, pulse: 1, open: 1, close: 1, a: 1, b: 2, stop: 0 },
      off: deed.on === 'group' && table.essential ? this.level : 0,
      level: Math.min(top, deed.action === 'level' ? level : 0),
      up: this.level < top ? this.level + 1 : table.wrap ? 0 : top,
      down: this.level > 0 ? this.level - 1 : table.wrap ? top : 0,
    }
    this.level = next[action] ?? this.level
  }

  private isMember({ on, index }: ImageDeed): boolean {
    return on === 'group' && this.image.groups[index]!.members.includes(this.index)
  }
}

/** The bindings that an input fires when it comes to stand at a code, when, and with which level. */
function firedBy(image: ControllerImage, index: number, code: number): { afterMs: number; deeds: Fired[] } {
  const table = image.inputs[index]!
  const of = (...gestures: readonly ImageBinding['gesture'][]): Fired[] =>
    image.bindings
      .filter(({ input, gesture }) => input === index && gestures.includes(gesture))
      .map((deed) => ({ deed, closed: code > 0, level: table.table[code] ?? 0 }))
  switch (table.kind) {
    case 'momentary':
      if (code === 0) return { afterMs: table.settleMs, deeds: [] }
      return table.holdMs > 0
        ? { afterMs: table.settleMs + table.holdMs, deeds: of('hold') }
        : { afterMs: table.settleMs, deeds: of('press') }
    case 'rocker':
      return { afterMs: table.settleMs, deeds: of('flip', 'follow') }
    case 'selector':
      return {
        afterMs: table.settleMs,
        deeds: table.table[code] === NO_LEVEL || table.gate !== undefined ? [] : of('select'),
      }
    case 'contact':
      return { afterMs: 0, deeds: [] }
  }
}
interface Fired {
  readonly deed: ImageBinding
  readonly closed: boolean
  readonly level: number
}

/**
 * Where failed inputs bring a channel that stands at a level: every combination of what can happen to its inputs.
 * Inputs act in the order in which they settle.
 */
export function movedBy(
  formulas: HouseFormulas,
  image: ControllerImage,
  channel: Channel,
  level: number,
  stands: Stands,
): Moved[] {
  const index = image.channels.findIndex(({ id }) => id === channel.id)
  const touches = ({ on, index: i }: ImageDeed): boolean =>
    on === 'channel' ? i === index : on === 'group' && image.groups[i]!.members.includes(index)
  const inputs = image.inputs.flatMap((table, i) => {
    const input = formulas.site.inputs.find(({ id }) => id === table.id)
    return input && image.bindings.some((binding) => binding.input === i && touches(binding)) ? [{ input, i }] : []
  })
  let ways: { when: Formula; fired: readonly { afterMs: number; deeds: Fired[] }[] }[] = [{ when: ALWAYS, fired: [] }]
  for (const { input, i } of inputs) {
    const changes = changesOf(formulas, input, stands[input.id] ?? 0)
    const still = all(changes.map(({ when }) => not(when)))
    ways = ways.flatMap(({ when, fired }) => [
      { when: all([when, still]), fired },
      ...changes.map((change) => ({
        when: all([when, change.when]),
        fired: [...fired, firedBy(image, i, change.code)],
      })),
    ])
  }
  const board = formulas.works(`board:${channel.controller}`)
  return ways.flatMap(({ when, fired }): Moved[] => {
    const told = new Told(image, index, level)
    const inOrder = [...fired].sort((a, b) => a.afterMs - b.afterMs)
    for (const { deeds } of inOrder) for (const one of deeds) told.do(one.deed, one.closed, one.level)
    if (told.level === level) return [{ when, level }]
    return [
      { when: all([when, board]), level: told.level },
      { when: all([when, not(board)]), level },
    ]
  })
}

/** The tables of a controller; null: they do not compile (a finding says why). */
export function imageOf(site: Site, controller: string): ControllerImage | null {
  try {
    return compileController(site, controller)
  } catch {
    return null
  }
}
