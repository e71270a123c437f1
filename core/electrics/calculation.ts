/** A worked result: the formula with the numbers in it, so that a maker can follow and check it. */
export interface Calculation {
  readonly name: string
  readonly value: number
  readonly unit: string
  readonly formula: string
  /** published (and where), common practice, or memory */
  readonly source: string
}

/** A number as it is written on a bench: three digits that count. */
export const figure = (value: number): string =>
  Number.isFinite(value) ? Number(value.toPrecision(3)).toString() : '–'

/** A name in the middle of a sentence: “contactor, 9 A motor”. */
export const inSentence = (name: string): string => name.charAt(0).toLowerCase() + name.slice(1)
