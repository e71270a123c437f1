import type { ControllerImage } from '../image'
import type { Place } from '../parts'
import type { Channel, Site } from '../site'
import { movesByItself, staysOn } from './byItself'
import { ALWAYS, type Formula } from './formula'
import { HouseFormulas } from './houseFormulas'
import { imageOf, movedBy, type Moved, type Stands } from './inputsMove'
import { nobodyTurnsOff, nobodyTurnsOn, usualLevel } from './onAndOff'
import { endsSoon, type Question } from './question'
import { someScreenLies } from './screens'

/** How a house stands when something fails: what is not said is at rest, or on at its usual level. */
export interface Standing {
  /** codes of closed contacts, by input */
  readonly inputs?: Stands
  /** levels of channels that are on, by channel */
  readonly levels?: Readonly<Record<string, number>>
}

/** Asks the questions of a site: each answer is a formula over what can fail. */
export class Asker {
  readonly formulas: HouseFormulas
  private readonly atRest = new Map<string, readonly Moved[]>()
  private readonly images = new Map<string, ControllerImage | null>()

  constructor(site: Site) {
    this.formulas = new HouseFormulas(site)
  }

  ask(question: Question, channel: Channel, from: Place, standing: Standing = {}): Formula {
    const { formulas } = this
    const inputs = standing.inputs ?? {}
    switch (question) {
      case 'on':
        return nobodyTurnsOn(formulas, channel, from, this.stands(channel, 0, inputs))
      case 'off': {
        const level = standing.levels?.[channel.id] ?? usualLevel(channel)
        return nobodyTurnsOff(formulas, channel, from, this.stands(channel, level, inputs))
      }
      case 'screen':
        return someScreenLies(formulas, channel, this.stands(channel, 0, inputs))
      case 'unbidden':
        return movesByItself(formulas, channel, this.moved(channel, 0, inputs), inputs)
      case 'limit':
        return staysOn(formulas, channel)
    }
  }

  /** Where failed inputs have left it when somebody looks: what ends soon is over. */
  private stands(channel: Channel, level: number, inputs: Stands): readonly Moved[] {
    const moved = this.moved(channel, level, inputs)
    return endsSoon(channel) ? moved.map(({ when }) => ({ when, level: 0 })) : moved
  }

  private moved(channel: Channel, level: number, inputs: Stands): readonly Moved[] {
    const key = `${channel.id} ${level}`
    const isAtRest = Object.values(inputs).every((code) => code === 0)
    const before = isAtRest ? this.atRest.get(key) : undefined
    if (before) return before
    const image = this.imageOf(channel.controller)
    const made = image ? movedBy(this.formulas, image, channel, level, inputs) : [{ when: ALWAYS, level }]
    if (isAtRest) this.atRest.set(key, made)
    return made
  }

  /** Compiled when it is first asked for; null: it does not compile, and a finding says why. */
  private imageOf(controller: string): ControllerImage | null {
    if (!this.images.has(controller)) this.images.set(controller, imageOf(this.formulas.site, controller))
    return this.images.get(controller)!
  }
}
