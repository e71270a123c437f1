/** Preferred values, IEC 60063: the E12 and E24 series (published; the lists are from memory of the standard). */
export const E12 = [1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2] as const
export const E24 = [
  1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0, 3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2,
  9.1,
] as const

type Rounding = 'down' | 'up' | 'nearest'

/** The preferred value below, above or (by ratio) nearest to a positive value. */
export function preferred(value: number, series: readonly number[] = E12, rounding: Rounding = 'nearest'): number {
  if (!(value > 0)) throw new RangeError(`a preferred value is asked for ${value}; it must be above 0`)
  const decade = 10 ** Math.floor(Math.log10(value))
  const steps = [...series.map((step) => step / 10), ...series, ...series.map((step) => step * 10)].map((step) =>
    Number((step * decade).toPrecision(3)),
  )
  // a value that stands in the series, but for the last bit of its binary form, is itself
  const tolerance = value * 1e-9
  const below = steps.filter((step) => step <= value + tolerance).at(-1)!
  const above = steps.find((step) => step >= value - tolerance)!
  if (rounding === 'down') return below
  if (rounding === 'up') return above
  return value / below <= above / value ? below : above
}

/** Ohms as printed: 470 Ω, 4.7 kΩ, 1 MΩ. */
export const ohms = (value: number): string =>
  value >= 1e6
    ? `${Number((value / 1e6).toPrecision(3))} MΩ`
    : value >= 1e3
      ? `${Number((value / 1e3).toPrecision(3))} kΩ`
      : `${Number(value.toPrecision(3))} Ω`
